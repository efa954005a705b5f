package export

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/planning"
	"dorbin/core/shrink"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

const (
	readingDPI = 190
	// surely is the confidence of words that are searched for in what is written otherwise:
	// what was hardly read before is read otherwise by chance.
	surely = 80
)

// isUnread tells whether words should be compared before a version is chosen for good.
func (w *measuredPage) isUnread(v shrink.Candidate) bool {
	return v.Encoding != shrink.Original && v.Words == nil && w.known != nil && w.known.Kind != shrink.ContinuousTone &&
		w.known.Kind != shrink.Blank && v.Loss > 0 && !w.known.isWordless()
}

// isWordless tells whether a page was read and has too few words to tell anything by.
func (m *encodings) isWordless() bool { return m.IsRead && !shrink.AreEnoughWords(m.WordCount) }

// readOne reads one page of a packet as its plan would have it written, the one that
// loses the most first, and tells whether there was any.
func (s *Service) readOne(ctx context.Context, task *jobs.Task, pages []*measuredPage, sizing Sizing) (any bool, err error) {
	chosen, _ := planning.Choose(pagesToPlan(pages, sizing), sizing.Size, sizing.Limit)
	var unread []int
	for i, page := range pages {
		if page.isUnread(chosen[i]) {
			unread = append(unread, i)
		}
	}
	if len(unread) == 0 || !s.reader.IsInstalled() {
		return false, nil
	}
	worst := slices.MinFunc(unread, func(x, y int) int { return cmp.Compare(chosen[x].Fidelity, chosen[y].Fidelity) })
	if err := noteWork(ctx, task, pages[worst]); err != nil {
		return false, err
	}
	if err := s.compareWords(ctx, pages[worst], chosen[worst].EncodingParams); err != nil {
		return false, fmt.Errorf("read page %d of packet %s: %w", worst+1, task.Key, err)
	}
	return true, nil
}

// compareWords reads a page as it is and as an encoding writes it, and keeps how much
// agrees. Of a page with few words only that is kept.
func (s *Service) compareWords(ctx context.Context, page *measuredPage, encoding shrink.EncodingParams) error {
	m := *page.known
	before, err := s.wordsAsItIs(ctx, page, &m)
	if err != nil {
		return err
	}
	if !m.isWordless() {
		words, err := s.wordsOfProof(ctx, page, encoding)
		if err != nil {
			return err
		}
		share, _ := shrink.WordsAgree(before, textsOf(words, 0))
		m.Candidates = slices.Clone(m.Candidates)
		for i := range m.Candidates {
			if m.Candidates[i].EncodingParams == encoding {
				m.Candidates[i].Words = &share
			}
		}
	}
	return s.keepMeasured(ctx, page, &m)
}

// wordsAsItIs gives the words that are read surely on a page as it is, and notes that it was
// read.
func (s *Service) wordsAsItIs(ctx context.Context, page *measuredPage, m *encodings) ([]string, error) {
	key := measuredKey(page.Page)
	if m.IsRead {
		return s.store.MeasuredWords(ctx, key)
	}
	words, err := s.wordsOfProof(ctx, page, shrink.EncodingParams{Encoding: shrink.Original})
	if err != nil {
		return nil, err
	}
	texts := textsOf(words, surely)
	m.IsRead, m.WordCount = true, len(texts)
	return texts, s.store.SetMeasuredWords(ctx, key, texts)
}

func textsOf(words []ocr.Word, confidence float64) []string {
	var texts []string
	for _, word := range words {
		if word.Confidence >= confidence {
			texts = append(texts, word.Text)
		}
	}
	return texts
}

// wordsOfProof reads a page as it would be exported by an encoding.
func (s *Service) wordsOfProof(ctx context.Context, page *measuredPage, encoding shrink.EncodingParams) ([]ocr.Word, error) {
	proof, err := s.proofOf(ctx, page, encoding)
	if err != nil {
		return nil, err
	}
	return s.wordsOfPage(ctx, proof)
}

func (s *Service) wordsOfPage(ctx context.Context, page render.Page) ([]ocr.Word, error) {
	img, err := s.pictures.Image(ctx, page, int(page.Size.Width/geometry.PointsPerInch*readingDPI))
	if err != nil {
		return nil, err
	}
	words, err := s.reader.Words(ctx, img)
	if err != nil && ctx.Err() == nil {
		s.log.Warn("page not read", "page", page.Number, "error", err)
		return nil, nil // nothing is concluded from it
	}
	return words, err
}

// readExport reads the pages of a finished document that were written otherwise, where
// that was not tried before, and adds to its receipt how many of their words agree.
func (s *Service) readExport(ctx context.Context, task *jobs.Task) (err error) {
	defer func() {
		if err == nil {
			s.secrets.forget(task.Key)
		}
	}()
	e, err := s.store.Export(ctx, task.Key)
	if err != nil || e.State != store.ExportDone || !s.reader.IsInstalled() {
		return store.UnlessGone(err)
	}
	var request exportRequest
	r := readback{task: task, blob: e.Blob}
	if err := errors.Join(json.Unmarshal([]byte(e.Request), &request), json.Unmarshal([]byte(e.Receipt), &r.receipt)); err != nil {
		return fmt.Errorf("decode export: %w", err)
	}
	r.request = request
	known := true
	if r.passwords, known = s.secrets.of(e.ID); request.isLocked() && !known {
		return s.store.SetExportRead(ctx, e.ID)
	}
	if !request.Make.isPictures() && len(r.receipt.Became) > 0 {
		if r.pages, err = s.measuredPages(ctx, e.Packet, request.Parts); err != nil {
			return store.UnlessGone(err)
		}
		if err := s.readFiles(ctx, r); err != nil {
			return store.UnlessGone(err)
		}
	}
	return s.store.SetExportRead(ctx, e.ID)
}

// ReadOlder has the documents read that were made before there was a program to read
// them with.
func (s *Service) ReadOlder(ctx context.Context) error {
	if !s.reader.IsInstalled() {
		return nil
	}
	exports, err := s.store.UnreadExports(ctx)
	for _, e := range exports {
		err = errors.Join(err, s.runner.Add(ctx, e.Packet, jobs.Job{Kind: store.JobCompareWords, Key: e.ID}))
	}
	return err
}

// giveUpReading leaves the receipt of an export without the words that were not compared.
func (s *Service) giveUpReading(ctx context.Context, failed jobs.Taken, _ error) error {
	s.secrets.forget(failed.Key)
	return s.store.SetExportRead(ctx, failed.Key)
}

// readback is an export whose pages are read.
type readback struct {
	task    *jobs.Task
	blob    string // the finished file
	pages   []*measuredPage
	receipt Receipt

	request   exportRequest
	passwords Passwords
}

// readFiles reads what was made: a document, or the documents in a zip.
func (s *Service) readFiles(ctx context.Context, r readback) error {
	path := s.store.FilePath(r.blob)
	if len(r.receipt.Files) == 0 {
		return s.readDocument(ctx, r, path, 0, MadeFile{Pages: len(r.pages), SHA256: r.blob})
	}
	return s.eachUnpacked(path, r.receipt.Files, func(path string, from int, made MadeFile) error {
		return s.readDocument(ctx, r, path, from, made)
	})
}

// readDocument reads the pages of one document that were written otherwise. Its first page
// is at the place from among all pages.
func (s *Service) readDocument(ctx context.Context, r readback, path string, from int, made MadeFile) error {
	path, closeIt, err := s.opened(ctx, r.request, r.passwords, path)
	if err != nil {
		return err
	}
	defer closeIt()
	for i := range r.receipt.Became {
		became := &r.receipt.Became[i]
		place := became.Number - 1
		if place < from || place >= from+made.Pages || !r.isUnread(*became) {
			continue
		}
		if err := r.task.WaitIdle(ctx); err != nil {
			return err
		}
		page := r.pages[place]
		picture := render.Page{
			File: r.blob, Made: made.SHA256 + "-", Path: path, IsPDF: true, Number: place - from + 1, Size: page.Size(),
		}
		if err := s.addWordsOf(ctx, page, picture, became); err != nil {
			return err
		}
		if err := s.keepReceipt(ctx, r.task.Key, r.receipt); err != nil {
			return err
		}
	}
	return nil
}

func (r readback) isUnread(became RecodedPage) bool {
	asWritten := shrink.Candidate{EncodingParams: became.EncodingParams, Likeness: shrink.Likeness{Loss: 1}, Words: became.Words}
	return r.pages[became.Number-1].isUnread(asWritten)
}

func (s *Service) addWordsOf(ctx context.Context, page *measuredPage, picture render.Page, became *RecodedPage) error {
	m := *page.known
	before, err := s.wordsAsItIs(ctx, page, &m)
	if err != nil || m.isWordless() {
		return err
	}
	words, err := s.wordsOfPage(ctx, picture)
	if err != nil {
		return err
	}
	if share, known := shrink.WordsAgree(before, textsOf(words, 0)); known {
		became.Words = &share
	}
	return nil
}

func (s *Service) keepReceipt(ctx context.Context, id string, receipt Receipt) error {
	e, err := s.store.Export(ctx, id) // as it is now
	if err != nil {
		return err
	}
	text, err := json.Marshal(receipt)
	if err != nil {
		return fmt.Errorf("encode receipt: %w", err)
	}
	e.Receipt = string(text)
	return s.record(ctx, &e)
}

// pagesOf are the pages of a packet as it stands, with its sizing.
func (s *Service) pagesOf(ctx context.Context, packetID string) (pages []*measuredPage, sizing Sizing, err error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return nil, sizing, err
	}
	if sizing, err = s.sizing(ctx, packetID); err != nil {
		return nil, sizing, err
	}
	if sizing.Limit == 0 && p.State.Receiver != nil {
		sizing.Limit = p.State.Receiver.Rules.Limit()
	}
	pages, err = s.measuredPages(ctx, packetID, p.State.Parts)
	return pages, sizing, err
}
