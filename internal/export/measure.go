package export

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"runtime"
	"slices"
	"strings"
	"sync"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/shrink"
	"dorbin/internal/guard"
	"dorbin/internal/jobs"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// encodings is how a page can be written, and how much was tried.
type encodings struct {
	Scope      shrink.Scope `json:"scope"`
	Unreadable bool         `json:"unreadable,omitempty"` // it cannot be decoded, and is kept as it is
	IsRead     bool         `json:"isRead,omitempty"`     // its words were read as it is
	WordCount  int          `json:"wordCount,omitempty"`  // how many of them were read surely
	OnlySize   bool         `json:"onlySize,omitempty"`   // no encoding was tried: it is known how large it is as it is
	shrink.Measured
}

// measuredPage is a page of a document with what is known of how it can be written.
type measuredPage struct {
	placedPage
	source    store.Source
	part      packet.PartID
	isPicture bool  // it can be written otherwise, or it is not known yet that it cannot
	bytes     int64 // as it is
	isSized   bool  // these bytes were measured
	known     *encodings
}

// measuredKey names what a page's pixels, as they are written, depend on.
func measuredKey(p packet.Page) store.MeasuredKey {
	p.Turn, p.Mirror = 0, false
	return store.MeasuredKey{Source: string(p.Source), Page: p.SourcePage, Fingerprint: p.Fingerprint()}
}

// measuredPages gives the pages of parts with what was measured of them.
func (s *Service) measuredPages(ctx context.Context, packetID string, parts []packet.Part) ([]*measuredPage, error) {
	all, err := s.store.Sources(ctx, packetID)
	if err != nil {
		return nil, err
	}
	measured, err := s.store.Measurements(ctx, packetID)
	if err != nil {
		return nil, err
	}
	byID := map[packet.SourceID]store.Source{}
	for _, source := range all {
		byID[packet.SourceID(source.ID)] = source
	}
	bytes := sources.BytesOf(all)
	var pages []*measuredPage
	for _, part := range parts {
		for _, page := range part.Pages {
			pages = append(pages, &measuredPage{
				placedPage: placedPage{page, len(pages)}, source: byID[page.Source], part: part.ID, bytes: bytes.Of(page),
			})
		}
	}
	for _, w := range pages {
		if w.isDrawn() {
			w.bytes = w.guessDrawn()
		}
		w.isPicture = !w.IsBlank() && (!w.isInPlace() || !w.source.Measured || w.bytes >= worthMeasuring)
		text, ok := measured[measuredKey(w.Page)]
		if !w.isPicture || !ok {
			continue
		}
		found := &encodings{}
		if err := json.Unmarshal([]byte(text), found); err != nil {
			return nil, fmt.Errorf("decode what was measured of page %d: %w", w.position+1, err)
		}
		w.learn(found)
	}
	return pages, nil
}

func (w *measuredPage) learn(found *encodings) {
	w.bytes, w.isSized = found.Candidates[0].Bytes, true
	if !found.OnlySize {
		w.known = found
	}
}

// lacks tells whether a page has to be measured before it is decided on, or before it is known how large it is as it is.
func (w *measuredPage) lacks(sizing Sizing) bool {
	if sizing.Size == planning.AsItIs {
		return w.isDrawn() && !w.isSized
	}
	return w.isPicture && (w.known == nil || w.known.Scope < sizing.scopeOf(w.ID))
}

// isDrawn tells whether a picture is made of a page of a PDF: what that takes up has nothing to do with the bytes of the
// page.
func (w *measuredPage) isDrawn() bool { return sources.IsPDF(w.source) && w.IsMadeAnew(true) }

const (
	drawnBytes = 0.03 // of a pixel of a page that is drawn
	drawnDoubt = 0.9  // of that: what is on the page is not known
)

// guessDrawn is about how many bytes a page takes up that is drawn.
func (w *measuredPage) guessDrawn() int64 {
	size, dots := w.Size(), float64(DrawnDPI(w.Page))/geometry.PointsPerInch
	return int64(drawnBytes * size.Width * dots * size.Height * dots)
}

// measureAll measures the pages that lack it, on all cores, and calls onPage after each.
func (s *Service) measureAll(ctx context.Context, pages []*measuredPage, sizing Sizing, onPage func() error) error {
	var mutex sync.Mutex
	learned := func(page *measuredPage, m *encodings) error {
		mutex.Lock()
		defer mutex.Unlock()
		page.learn(m)
		return onPage()
	}
	lacking := slices.DeleteFunc(slices.Clone(pages), func(page *measuredPage) bool { return !page.lacks(sizing) })
	for _, group := range bySourceInPlace(lacking) {
		if err := s.measureInPlace(ctx, group, sizing, learned); err != nil {
			return err
		}
	}
	others := slices.DeleteFunc(lacking, (*measuredPage).isInPlace)
	return guard.Each(ctx, others, func(ctx context.Context, _ int, page *measuredPage) error {
		m, err := s.measurePage(ctx, page, sizing)
		if err != nil {
			return err
		}
		return learned(page, m)
	})
}

// measurePage tries the encodings of a page, and keeps what it finds.
func (s *Service) measurePage(ctx context.Context, page *measuredPage, sizing Sizing) (*encodings, error) {
	m, err := s.tryEncodings(ctx, page, sizing)
	if err != nil {
		return nil, err
	}
	return m, s.keepMeasured(ctx, page, m)
}

func (s *Service) keepMeasured(ctx context.Context, page *measuredPage, m *encodings) error {
	text, err := json.Marshal(m)
	if err != nil {
		return fmt.Errorf("encode what was measured: %w", err)
	}
	return s.store.AddMeasurement(ctx, measuredKey(page.Page), string(text))
}

// tryEncodings measures a page. One that cannot be decoded is only known as it is.
func (s *Service) tryEncodings(ctx context.Context, page *measuredPage, sizing Sizing) (*encodings, error) {
	m := &encodings{Scope: sizing.scopeOf(page.ID)}
	pixels, dpi, err := s.pixelsOf(ctx, page.source, page.placedPage)
	var broken *problem.Error
	if errors.As(err, &broken) && !worker.IsUnavailable(err) {
		s.log.Warn("page kept as it is", "source", page.source.ID, "page", page.SourcePage, "error", err)
		m.Unreadable, m.Candidates = true, []shrink.Candidate{shrink.AsItIs(page.bytes)}
		return m, nil
	}
	if err != nil {
		return nil, err
	}
	release, err := s.room.take(ctx, pixels)
	if err != nil {
		return nil, err
	}
	defer release()
	bytes, err := s.bytesAsItIs(ctx, page, pixels)
	if err != nil {
		return nil, err
	}
	if sizing.Size == planning.AsItIs {
		m.OnlySize, m.Candidates = true, []shrink.Candidate{shrink.AsItIs(bytes)}
		return m, nil
	}
	part := shrink.Part{Image: pixels, DPI: dpi, Bytes: bytes}
	var known *shrink.Measured
	if page.known != nil {
		known = &page.known.Measured
	}
	if m.Measured, err = s.measureScan(ofImageFile(page.source, page.placedPage), part, m.Scope, known); err != nil {
		return nil, fmt.Errorf("measure page %d of source %s: %w", page.SourcePage, page.source.ID, err)
	}
	return m, nil
}

// measureScan tries the encodings of a picture that is a page, and keeps it as they write it. What was found with fewer
// encodings may be known.
func (s *Service) measureScan(of pageOfFile, scan shrink.Part, scope shrink.Scope, known *shrink.Measured) (measured shrink.Measured, err error) {
	var written []shrink.CompressedPage
	defer func() { s.keepWritten(of, written) }()
	if known != nil && scope == shrink.Fully {
		if before, ok := s.takeWritten(of, known.Smaller(shrink.Auto).EncodingParams); ok {
			measured, written, err = shrink.MeasureFurther(scan.Image, scan.DPI, scan.Bytes, *known, before)
			return measured, err
		}
	}
	measured, written, err = shrink.Measure(scan.Image, scan.DPI, scan.Bytes, scope)
	return measured, err
}

// pixelsOf are the pixels that a page is written from, and how many are an inch.
func (s *Service) pixelsOf(ctx context.Context, source store.Source, page placedPage) (pixels image.Image, dpi float64, err error) {
	pixels, err = s.madePixels(ctx, source, page)
	if err != nil {
		return nil, 0, err
	}
	framing := page.Framing()
	width := framing.Seen().Size().Width * framing.Enlargement() // on the paper
	return pixels, float64(pixels.Bounds().Dx()) / width * geometry.PointsPerInch, nil
}

// bytesAsItIs is what a page would take up that is written as it is.
func (s *Service) bytesAsItIs(ctx context.Context, page *measuredPage, pixels image.Image) (int64, error) {
	if !page.IsMadeAnew(sources.IsPDF(page.source)) {
		return page.source.Pages[page.SourcePage-1].Bytes, nil
	}
	if cropped, ok, err := s.sources.Cropped(ctx, page.source, page.Page); ok || err != nil {
		return cropped.Length, err
	}
	made, err := encodeMade(pixels, page.Tone.Mode)
	if err != nil {
		return 0, fmt.Errorf("encode page %d of source %s: %w", page.SourcePage, page.source.ID, err)
	}
	return made.Length, nil
}

// measurePacket measures the pages of a packet for its sizing, a few at a time, then
// reads those that are to be written otherwise, and tells the listeners. It goes by the
// packet as it is each time.
func (s *Service) measurePacket(ctx context.Context, task *jobs.Task) error {
	for {
		found, err := s.measureFew(ctx, task)
		if err != nil || !found {
			return store.UnlessGone(err)
		}
		s.planned(task.Key)
	}
}

// giveUpMeasuring keeps the pages as they are that could not be measured, and goes on
// with the others.
func (s *Service) giveUpMeasuring(ctx context.Context, failed jobs.Taken, _ error) error {
	pages, sizing, err := s.pagesOf(ctx, failed.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	stuck := strings.Fields(failed.Progress)
	if len(stuck) == 0 {
		return nil // it had not begun with any page
	}
	for _, page := range pages {
		if !slices.Contains(stuck, string(page.ID)) {
			continue
		}
		m := &encodings{Scope: sizing.scopeOf(page.ID), Unreadable: true, IsRead: true}
		m.Candidates = []shrink.Candidate{shrink.AsItIs(page.bytes)}
		if err := s.keepMeasured(ctx, page, m); err != nil {
			return err
		}
	}
	return s.runner.Add(ctx, failed.Packet, failed.Job)
}

// noteWork keeps which pages a task is working on.
func noteWork(ctx context.Context, task *jobs.Task, pages ...*measuredPage) error {
	ids := make([]string, len(pages))
	for i, page := range pages {
		ids[i] = string(page.ID)
	}
	return task.Note(ctx, strings.Join(ids, " "))
}

// measureFew measures as many pages as there are cores, or reads one, and tells whether
// there was any.
func (s *Service) measureFew(ctx context.Context, task *jobs.Task) (found bool, err error) {
	if err := task.WaitIdle(ctx); err != nil {
		return false, err
	}
	pages, sizing, err := s.pagesOf(ctx, task.Key)
	if err != nil {
		return false, err
	}
	few := fewOf(pages, sizing)
	if len(few) == 0 {
		return s.readOne(ctx, task, pages, sizing)
	}
	if err := noteWork(ctx, task, few...); err != nil {
		return false, err
	}
	return true, s.measureAll(ctx, few, sizing, func() error { return nil })
}

// mostInPlace is how many pages of a PDF are measured while it is parsed.
const mostInPlace = 16

// fewOf gives the pages that are measured next: as many as there are cores, or more of
// one PDF.
func fewOf(pages []*measuredPage, sizing Sizing) (few []*measuredPage) {
	for _, page := range pages {
		switch {
		case !page.lacks(sizing):
		case len(few) == 0, !few[0].isInPlace() && !page.isInPlace() && len(few) < runtime.GOMAXPROCS(0),
			few[0].isInPlace() && page.isInPlace() && page.source.ID == few[0].source.ID && len(few) < mostInPlace:
			few = append(few, page)
		}
	}
	return few
}
