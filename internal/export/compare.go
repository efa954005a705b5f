package export

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"slices"

	"dorbin/core/check"
	"dorbin/core/finish"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/jobs"
	"dorbin/internal/reading"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// comparedEdge is the longer edge, in pixels, of the pictures that are compared.
const comparedEdge = 240

// comparison is a finished document whose pages are compared with those of the packet that it
// was made of.
type comparison struct {
	task    *jobs.Task
	export  string
	receipt Receipt
	pages   []packet.Page
	request exportRequest
	marks   [][]finish.Mark
	texts   reading.Texts

	passwords Passwords
}

// compareExport draws every page of a finished document and compares it with what the bench
// shows of it. It goes on where it was stopped, and has the words compared afterwards.
func (s *Service) compareExport(ctx context.Context, task *jobs.Task) error {
	e, err := s.store.Export(ctx, task.Key)
	if err != nil || e.State != store.ExportDone {
		return store.UnlessGone(err)
	}
	c := comparison{task: task, export: e.ID}
	if err := errors.Join(json.Unmarshal([]byte(e.Request), &c.request), json.Unmarshal([]byte(e.Receipt), &c.receipt)); err != nil {
		return fmt.Errorf("decode export: %w", err)
	}
	c.pages = packet.Packet{Parts: c.request.Parts}.Pages()
	c.marks, _ = c.request.added()
	if c.texts, err = s.reading.TextsOf(ctx, e.Packet); err != nil {
		return err
	}
	known := true
	if c.passwords, known = s.secrets.of(e.ID); c.request.isLocked() && !known {
		return s.tellNotCompared(ctx, e, c.receipt)
	}
	if c.receipt.Compared != nil && !c.request.Make.isPictures() {
		if err := s.compareFiles(ctx, &c, e.Blob); err != nil {
			return store.UnlessGone(err)
		}
		if err := s.holdAgainstRules(ctx, &c, e); err != nil {
			return store.UnlessGone(err)
		}
	}
	return store.UnlessGone(s.runner.Add(ctx, e.Packet, jobs.Job{Kind: store.JobCompareWords, Key: e.ID}))
}

// compareFiles compares the pages of a document, or of the documents in a zip.
func (s *Service) compareFiles(ctx context.Context, c *comparison, blob string) error {
	path := s.store.FilePath(blob)
	if len(c.receipt.Files) == 0 {
		return s.compareDocument(ctx, c, path, 0, len(c.pages))
	}
	return s.eachUnpacked(path, c.receipt.Files, func(path string, from int, made MadeFile) error {
		return s.compareDocument(ctx, c, path, from, from+made.Pages)
	})
}

// compareDocument compares the pages of a file, which are those from one place to before another
// among all pages.
func (s *Service) compareDocument(ctx context.Context, c *comparison, path string, from, to int) error {
	path, closeIt, err := s.opened(ctx, c.request, c.passwords, path)
	if err != nil {
		return err
	}
	defer closeIt()
	for place := max(from, *c.receipt.Compared); place < to; place++ {
		if err := c.task.WaitIdle(ctx); err != nil {
			return fmt.Errorf("wait to compare page %d: %w", place+1, err)
		}
		page := c.pages[place]
		difference, err := s.comparePage(ctx, page, c.marks[place], func() (image.Image, error) {
			return s.pictures.Upright(ctx, render.Page{Path: path, IsPDF: true, Number: place - from + 1, Size: page.Size()}, comparedEdge)
		})
		if err != nil {
			return err
		}
		if err := s.addFoundText(ctx, c, page, path, place-from+1); err != nil {
			return err
		}
		if !difference.IsEmpty() {
			c.receipt.Differences = append(c.receipt.Differences, message.Sentence("Page %d %s", place+1, difference))
		}
		compared := place + 1
		c.receipt.Compared = &compared
		if isTold := compared == len(c.pages) || !difference.IsEmpty() || compared%pagesPerTelling == 0; !isTold {
			continue
		}
		if err := s.keepReceipt(ctx, c.export, c.receipt); err != nil {
			return err
		}
	}
	return nil
}

// pagesPerTelling is after how many pages it is told how far the comparison is.
const pagesPerTelling = 10

// comparePage gives what is different about a page as it is drawn from what was made, to be put
// behind the number that it has in the packet; nothing for one that looks as it should. What was
// added to the page is no difference.
func (s *Service) comparePage(
	ctx context.Context, page packet.Page, marks []finish.Mark, draw func() (image.Image, error),
) (difference message.Text, err error) {
	if page.IsBlank() {
		return message.Text{}, nil
	}
	source, err := s.store.Source(ctx, string(page.Source))
	if err != nil {
		return message.Text{}, err
	}
	which := message.Of("(page %d of %s)", page.SourcePage, source.Name)
	shown, err := s.pictures.Image(ctx, s.sources.Page(source, page.SourcePage, page.Adjustments, page.Turn), comparedEdge)
	if err != nil {
		return unlessStopped(ctx, err, message.Of("%s went in as it is", which))
	}
	if check.LooksBlank(shown) && sources.IsPDF(source) {
		if damaged, err := s.sources.DamagedPictures(ctx, source, page.SourcePage); err != nil || damaged > 0 {
			return message.Of("%s %s", which, check.LooksBlankWords), ctx.Err()
		}
	}
	made, err := draw()
	if err != nil {
		return unlessStopped(ctx, err, message.Of("%s cannot be drawn from the file", which))
	}
	if shown, err = s.withPictures(ctx, shown, marks, page.Size(), !sources.IsPDF(source)); err != nil {
		return unlessStopped(ctx, err, message.Of("%s went in with a picture that cannot be shown", which))
	}
	marks = slices.DeleteFunc(slices.Clone(marks), func(mark finish.Mark) bool { return mark.Kind == finish.LetterheadMark })
	size := page.Size()
	return differenceOf(withoutMarks(shown, marks, size), withoutMarks(made, marks, size), which), nil
}

func differenceOf(shown, made image.Image, which message.Text) message.Text {
	switch check.Compare(shown, made) {
	case check.Empty:
		return message.Of("%s is empty in the file", which)
	case check.Different:
		return message.Of("%s looks different in the file than on the bench", which)
	}
	return message.Text{}
}

// unlessStopped says why a page could not be compared, unless the comparison was stopped.
func unlessStopped(ctx context.Context, err error, words message.Text) (message.Text, error) {
	if ctx.Err() != nil {
		return message.Text{}, ctx.Err()
	}
	var told *problem.Error
	if errors.As(err, &told) {
		words = message.Of("%s, and it could not be shown: it %s", words, check.ProblemWords(told.Sentence))
	}
	return words, nil
}

// giveUpComparing tells from which page on a document was not compared.
func (s *Service) giveUpComparing(ctx context.Context, failed jobs.Taken, _ error) error {
	e, err := s.store.Export(ctx, failed.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	var receipt Receipt
	if err := json.Unmarshal([]byte(e.Receipt), &receipt); err != nil || receipt.Compared == nil {
		return err
	}
	return s.tellNotCompared(ctx, e, receipt)
}

// tellNotCompared tells from which page on a document was not compared.
func (s *Service) tellNotCompared(ctx context.Context, e store.Export, receipt Receipt) error {
	s.secrets.forget(e.ID)
	if receipt.Compared == nil || *receipt.Compared == receipt.Pages {
		return nil
	}
	receipt.Differences = append(receipt.Differences, message.Of("The pages from %d on could not be compared with the bench.", *receipt.Compared+1))
	receipt.Compared = &receipt.Pages
	return store.UnlessGone(s.keepReceipt(ctx, e.ID, receipt))
}
