package export

import (
	"context"
	"errors"
	"time"

	"dorbin/core/requirements"
	"dorbin/internal/finished"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// Asked is how a finished document stands against what its receiver asks for.
type Asked struct {
	Receiver string                      `json:"receiver" doc:"The receiver's name."`
	Rules    []requirements.Verdict      `json:"rules" nullable:"false" doc:"Found out from the bytes of the document."`
	Papers   []requirements.PaperVerdict `json:"papers,omitempty" nullable:"false" doc:"Found among the parts that are in the document, with their text."`
}

// holdAgainstRules holds what was made against the rules of its receiver, and notes it in the receipt.
func (s *Service) holdAgainstRules(ctx context.Context, c *comparison, e store.Export) error {
	receiver := c.request.Receiver
	if receiver == nil || c.request.Make.isPictures() || c.receipt.Asked != nil {
		return nil
	}
	var all []requirements.Facts
	judge := func(path, name string, bytes int64, from int) error {
		facts, err := s.factsOfFile(ctx, c, path, name, bytes, from)
		all = append(all, facts)
		return err
	}
	err := error(nil)
	if path := s.store.FilePath(e.Blob); len(c.receipt.Files) == 0 {
		err = judge(path, e.Name, c.receipt.Bytes, 0)
	} else {
		err = s.eachUnpacked(path, c.receipt.Files, func(path string, from int, made MadeFile) error {
			return judge(path, made.Name, made.Bytes, from)
		})
	}
	if errors.Is(err, render.ErrNotPDF) {
		return nil // the comparison tells that it cannot be read
	}
	if err != nil {
		return err
	}
	facts := finished.Joined(all)
	facts.Today, facts.Parts = time.Now().Format(time.DateOnly), len(c.request.Parts)
	parts, err := s.reading.PartFacts(ctx, e.Packet, c.request.Parts)
	if err != nil {
		return err
	}
	c.receipt.Asked = &Asked{Receiver: receiver.Name, Rules: receiver.Judge(facts), Papers: receiver.JudgePapers(parts)}
	return s.keepReceipt(ctx, c.export, c.receipt)
}

// factsOfFile finds out what a file is whose first page has a place among all pages, from 0.
func (s *Service) factsOfFile(ctx context.Context, c *comparison, path, name string, bytes int64, from int) (requirements.Facts, error) {
	readable, closeIt, err := s.opened(ctx, c.request, c.passwords, path)
	if err != nil {
		return requirements.Facts{}, err
	}
	defer closeIt()
	doc := finished.Document{Path: path, Name: name, Bytes: bytes, Readable: readable, NothingToRead: func(page int) bool {
		return c.texts.HasNoWords(c.pages[from+page-1])
	}}
	if c.request.isLocked() {
		doc.Password = c.passwords.ToOpen
	}
	return finished.Reader{Engine: s.engine, Pictures: s.pictures}.Facts(ctx, doc, c.request.Receiver.Rules)
}
