package app

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/shrink"
	"dorbin/internal/ocr"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

const (
	readingDPI = 190
	// surely is the confidence of words that are looked for in what is written otherwise:
	// what was hardly read before is read otherwise by chance.
	surely = 80
)

// isUnread tells whether words should be compared before a version is chosen for good.
func (w *weighed) isUnread(v shrink.Version) bool {
	return v.Way != shrink.Kept && v.Words == nil && w.known != nil && w.known.Kind != shrink.Photograph &&
		w.known.Kind != shrink.Blank && v.Loss > 0 && !w.known.isWordless()
}

// isWordless tells whether a page was read and has too few words to tell anything by.
func (m *measurement) isWordless() bool { return m.IsRead && !hasWords(m.Words) }

func hasWords(words []string) bool {
	_, known := shrink.WordsAgree(words, nil)
	return known
}

// readOne reads one page of a packet as its plan would have it written, the one that
// loses the most first, and tells whether there was any.
func (a *App) readOne(ctx context.Context, packetID string, pages []*weighed, sizing Sizing) (any bool, err error) {
	chosen, _ := choose(pages, sizing, sizing.Limit)
	var unread []int
	for i, page := range pages {
		if page.isUnread(chosen[i]) {
			unread = append(unread, i)
		}
	}
	if len(unread) == 0 || !ocr.IsInstalled() {
		return false, nil
	}
	worst := slices.MinFunc(unread, func(x, y int) int { return cmp.Compare(chosen[x].Kept, chosen[y].Kept) })
	if err := a.compareWords(ctx, pages[worst], chosen[worst].Recipe); err != nil {
		return false, fmt.Errorf("read page %d of packet %s: %w", worst+1, packetID, err)
	}
	return true, nil
}

// compareWords reads a page as it is and as a recipe writes it, and keeps how much
// agrees. Of a page with few words only that is kept.
func (a *App) compareWords(ctx context.Context, page *weighed, recipe shrink.Recipe) error {
	m := *page.known
	if err := a.readAsItIs(ctx, page, &m); err != nil {
		return err
	}
	if !m.isWordless() {
		words, err := a.wordsOfProof(ctx, page, recipe)
		if err != nil {
			return err
		}
		share, _ := shrink.WordsAgree(m.Words, textsOf(words, 0))
		m.Versions = slices.Clone(m.Versions)
		for i := range m.Versions {
			if m.Versions[i].Recipe == recipe {
				m.Versions[i].Words = &share
			}
		}
	}
	return a.keepMeasured(ctx, page, &m)
}

func (a *App) readAsItIs(ctx context.Context, page *weighed, m *measurement) error {
	if m.IsRead {
		return nil
	}
	words, err := a.wordsOfProof(ctx, page, shrink.Recipe{Way: shrink.Kept})
	m.IsRead, m.Words = true, textsOf(words, surely)
	return err
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

// wordsOfProof reads a page as it would be exported by a recipe.
func (a *App) wordsOfProof(ctx context.Context, page *weighed, recipe shrink.Recipe) ([]ocr.Word, error) {
	key, path, err := a.proofOf(ctx, page, recipe)
	if err != nil {
		return nil, err
	}
	return a.wordsOfPage(ctx, render.Page{File: key, Path: path, IsPDF: true, Number: 1, Size: page.Size()})
}

func (a *App) wordsOfPage(ctx context.Context, page render.Page) ([]ocr.Word, error) {
	img, err := a.pictures.Image(ctx, page, int(page.Size.Width/geometry.PointsPerInch*readingDPI))
	if err != nil {
		return nil, err
	}
	words, err := ocr.Words(ctx, img)
	if err != nil && ctx.Err() == nil {
		a.log.Warn("page not read", "page", page.Number, "error", err)
		return nil, nil // nothing is concluded from it
	}
	return words, err
}

// readExport reads the pages of a finished document that were written otherwise, where
// that was not tried before, and adds to its receipt how many of their words agree.
func (a *App) readExport(ctx context.Context, id string) {
	if err := a.addWords(ctx, id); err != nil && ctx.Err() == nil && !errors.Is(err, ErrNotFound) {
		a.log.Warn("document not read", "export", id, "error", err)
	}
}

func (a *App) addWords(ctx context.Context, id string) error {
	e, err := a.store.Export(ctx, id)
	if err != nil || e.State != store.ExportDone || !ocr.IsInstalled() {
		return err
	}
	var request exportRequest
	r := reading{id: id}
	if err := errors.Join(json.Unmarshal([]byte(e.Request), &request), json.Unmarshal([]byte(e.Receipt), &r.receipt)); err != nil {
		return fmt.Errorf("decode export: %w", err)
	}
	if !request.Make.isPictures() && len(r.receipt.Became) > 0 {
		if r.pages, err = a.weighedPages(ctx, e.Packet, request.Parts); err != nil {
			return err
		}
		if err := a.readFiles(ctx, r, e.Blob); err != nil {
			return err
		}
	}
	return a.store.SetExportRead(ctx, id)
}

// reading is an export whose pages are read.
type reading struct {
	id      string
	pages   []*weighed
	receipt Receipt
}

// readFiles reads what was made: a document, or the documents in a zip.
func (a *App) readFiles(ctx context.Context, r reading, blob string) error {
	path := a.store.Files.Path(blob)
	if len(r.receipt.Files) == 0 {
		return a.readDocument(ctx, r, path, MadeFile{First: 1, Pages: len(r.pages), SHA256: blob})
	}
	return eachUnpacked(path, r.receipt.Files, func(path string, made MadeFile) error {
		return a.readDocument(ctx, r, path, made)
	})
}

// readDocument reads the pages of one document that were written otherwise.
func (a *App) readDocument(ctx context.Context, r reading, path string, made MadeFile) error {
	for i := range r.receipt.Became {
		became := &r.receipt.Became[i]
		if became.Number < made.First || became.Number >= made.First+made.Pages || !r.isUnread(*became) {
			continue
		}
		if err := a.leisure(ctx); err != nil {
			return err
		}
		page := r.pages[became.Number-1]
		picture := render.Page{File: made.SHA256, Path: path, IsPDF: true, Number: became.Number - made.First + 1, Size: page.Size()}
		if err := a.addWordsOf(ctx, page, picture, became); err != nil {
			return err
		}
		if err := a.keepReceipt(ctx, r.id, r.receipt); err != nil {
			return err
		}
	}
	return nil
}

func (r reading) isUnread(became LightPage) bool {
	asWritten := shrink.Version{Recipe: became.Recipe, Likeness: shrink.Likeness{Loss: 1}, Words: became.Words}
	return r.pages[became.Number-1].isUnread(asWritten)
}

func (a *App) addWordsOf(ctx context.Context, page *weighed, picture render.Page, became *LightPage) error {
	m := *page.known
	if err := a.readAsItIs(ctx, page, &m); err != nil || m.isWordless() {
		return err
	}
	words, err := a.wordsOfPage(ctx, picture)
	if err != nil {
		return err
	}
	if share, known := shrink.WordsAgree(m.Words, textsOf(words, 0)); known {
		became.Words = &share
	}
	return nil
}

func (a *App) keepReceipt(ctx context.Context, id string, receipt Receipt) error {
	e, err := a.store.Export(ctx, id) // as it is now
	if err != nil {
		return err
	}
	text, err := json.Marshal(receipt)
	if err != nil {
		return fmt.Errorf("encode receipt: %w", err)
	}
	e.Receipt = string(text)
	a.record(ctx, &e)
	return nil
}

// pagesOf are the pages of a packet as it stands, with its sizing.
func (a *App) pagesOf(ctx context.Context, packetID string) (pages []*weighed, sizing Sizing, err error) {
	p, err := a.store.Packet(ctx, packetID)
	if err != nil {
		return nil, sizing, err
	}
	if sizing, err = a.sizing(ctx, packetID); err != nil {
		return nil, sizing, err
	}
	pages, err = a.weighedPages(ctx, packetID, p.State.Parts)
	return pages, sizing, err
}
