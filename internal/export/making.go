package export

import (
	"archive/zip"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"fmt"
	"hash"
	"io"
	"slices"
	"time"

	"dorbin/core/finish"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/shrink"
	"dorbin/internal/reading"
	"dorbin/internal/store"
)

// Make is what is made of a packet.
type Make string

// What can be made.
const (
	OnePDF     Make = ""          // one document
	PDFPerPart Make = "parts"     // a document for each part
	PDFsBySize Make = "bySize"    // documents that are each under the limit
	JPEGs      Make = "jpeg"      // a picture of each page
	PNGs       Make = "png"       // a picture of each page that keeps every pixel
	TIFF       Make = "tiff"      // one file of all pages that keeps every pixel
	BlackTIFF  Make = "blackTiff" // the same, black and white
)

// extensions are those of the files that are made; several are packed into a zip.
var extensions = map[Make]string{
	OnePDF: ".pdf", PDFPerPart: ".pdf", PDFsBySize: ".pdf", JPEGs: ".jpg", PNGs: ".png", TIFF: ".tif", BlackTIFF: ".tif",
}

// contentTypes are those of files by their extension.
var contentTypes = map[string]string{
	".pdf": "application/pdf", ".jpg": "image/jpeg", ".png": "image/png", ".tif": "image/tiff", ".zip": "application/zip",
}

func (m Make) isPictures() bool { return m == JPEGs || m == PNGs || m == TIFF || m == BlackTIFF }

// MadeFile is one of several files that were made.
type MadeFile struct {
	Name   string `json:"name"`
	First  int    `json:"first" doc:"Its first page in the packet, from 1."`
	Pages  int    `json:"pages"`
	Bytes  int64  `json:"bytes"`
	SHA256 string `json:"sha256"`
}

// making is a document while it is written, perhaps several times.
type making struct {
	request   exportRequest
	marks     [][]finish.Mark // of each page
	passwords Passwords       // of what is protected
	texts     reading.Texts
	labels    []string // what readers show as each page's number; nil where they are told nothing
	pages     []*measuredPage
	chosen    []shrink.Candidate // of each page
	progress  func() error       // to be called after every page
	became    []RecodedPage
	files     []MadeFile // when there are several
	// differences of pictures of pages from what the bench shows
	differences   []message.Text
	leftOut       pdf.Tally // of the documents that pages are from, besides what is seen of them
	textLayer     TextLayer
	hiddenMargins map[packet.PageID]float64 // in points: how far pictures go on beyond what is seen of their pages, showing nothing
	counted       map[string]bool           // sources of which what they carry besides their pages was counted

	written map[packet.PageID]writtenTogether
	held    int // bytes of what is written
	// refined are pages as they were last written to find a better quality, a few at most
	refined map[packet.PageID]shrink.CompressedPage
}

// newMaking measures the pages of a document as far as its sizing asks for it.
func (s *Service) newMaking(ctx context.Context, e *store.Export, request exportRequest) (*making, error) {
	m := &making{request: request, progress: s.progress(ctx, e), written: map[packet.PageID]writtenTogether{}, refined: map[packet.PageID]shrink.CompressedPage{}}
	m.marks, m.labels = request.added()
	var err error
	if m.texts, err = s.reading.TextsOf(ctx, e.Packet); err != nil {
		return nil, err
	}
	if m.pages, err = s.measuredPages(ctx, e.Packet, request.Parts); err != nil || request.Size == planning.AsItIs {
		m.choose(0)
		return m, err
	}
	last := time.Now()
	measuredOne := func() error {
		e.Measured++
		if time.Since(last) <= progressEvery {
			return nil
		}
		last = time.Now()
		return s.record(ctx, e)
	}
	err = s.measureAll(ctx, m.pages, request.Sizing, measuredOne)
	m.choose(0)
	return m, err
}

// choose decides how the pages are written for so many bytes of pages.
func (m *making) choose(bytes int64) (fits bool) {
	m.chosen, fits = planning.Choose(pagesToPlan(m.pages, m.request.Sizing), m.request.Size, bytes)
	return fits
}

// segment is a run of pages that becomes a file.
type segment struct {
	title    string
	parts    []packet.Part
	from, to int
}

// wholePacket is the only segment of one document.
func (m *making) wholePacket() segment {
	return segment{m.request.Title, m.request.Parts, 0, len(m.pages)}
}

func (m *making) segmentPerPart() []segment {
	var segments []segment
	at := 0
	for _, part := range m.request.Parts {
		segments = append(segments, segment{part.Title, []packet.Part{part}, at, at + len(part.Pages)})
		at += len(part.Pages)
	}
	return segments
}

// segmentsBySize are runs of pages that each are no larger than so many bytes.
func (m *making) segmentsBySize(limit int64) []segment {
	var weights [][]int64
	at := 0
	for _, part := range m.request.Parts {
		var pages []int64
		for range part.Pages {
			pages = append(pages, m.chosen[at].Bytes)
			at++
		}
		weights = append(weights, pages)
	}
	begins := planning.SplitBySize(weights, limit)
	segments := make([]segment, len(begins))
	for i, from := range begins {
		to := len(m.pages)
		if i+1 < len(begins) {
			to = begins[i+1]
		}
		title := fmt.Sprintf("%s, %d of %d", m.request.Title, i+1, len(begins))
		segments[i] = segment{title, m.partsOf(from, to), from, to}
	}
	return segments
}

// partsOf are the parts that pages from one place to before another are in, with these
// pages alone.
func (m *making) partsOf(from, to int) []packet.Part {
	var parts []packet.Part
	at := 0
	for _, part := range m.request.Parts {
		first, last := max(from, at), min(to, at+len(part.Pages))
		if first < last {
			parts = append(parts, packet.Part{ID: part.ID, Title: part.Title, Pages: part.Pages[first-at : last-at]})
		}
		at += len(part.Pages)
	}
	return parts
}

// assemble writes one document of all pages and stores it. It tells which pages were
// written in fewer bytes.
func (s *Service) assemble(ctx context.Context, m *making) (*store.Pin, error) {
	m.startAnew()
	file, err := s.store.WriteFile(func(path string) error { return s.write(ctx, m, m.wholePacket(), path) })
	slices.SortFunc(m.became, byNumber)
	return file, err
}

// startAnew forgets what was noted of a document that is written once more.
func (m *making) startAnew() {
	m.became, m.files, m.leftOut, m.counted, m.textLayer = nil, nil, pdf.Tally{}, map[string]bool{}, TextLayer{}
	m.hiddenMargins = map[packet.PageID]float64{}
}

func byNumber(a, b RecodedPage) int { return a.Number - b.Number }

// assembleAll writes a document for each segment, in a zip when there are several, and
// stores it.
func (s *Service) assembleAll(ctx context.Context, m *making, segments []segment, names []string) (*store.Pin, error) {
	m.startAnew()
	stored, err := s.store.Write(func(w io.Writer) error {
		pack := newPack(w, m.request.At)
		for i, run := range segments {
			file, err := pack.add(names[i], func(w io.Writer) error {
				return s.pool.Written(w, func(path string) error { return s.write(ctx, m, run, path) })
			})
			if err != nil {
				return err
			}
			file.First, file.Pages = m.request.number(run.from), run.to-run.from
			m.files = append(m.files, file)
		}
		return pack.close()
	})
	slices.SortFunc(m.became, byNumber)
	return stored, err
}

// pack is a zip of files that are compressed already.
type pack struct {
	zip *zip.Writer
	at  time.Time
}

func newPack(w io.Writer, at time.Time) *pack { return &pack{zip.NewWriter(w), at} }

// add writes a file into the zip and tells what it is.
func (p *pack) add(name string, fill func(io.Writer) error) (MadeFile, error) {
	entry, err := p.zip.CreateHeader(&zip.FileHeader{Name: name, Method: zip.Store, Modified: p.at})
	if err != nil {
		return MadeFile{}, fmt.Errorf("pack %s: %w", name, err)
	}
	sum := &measuredWriter{to: entry, digest: sha256.New()}
	if err := fill(sum); err != nil {
		return MadeFile{}, err
	}
	return MadeFile{Name: name, Bytes: sum.bytes, SHA256: hex.EncodeToString(sum.digest.Sum(nil))}, nil
}

func (p *pack) close() error {
	if err := p.zip.Close(); err != nil {
		return fmt.Errorf("finish the zip: %w", err)
	}
	return nil
}

// measuredWriter counts and hashes what goes through it.
type measuredWriter struct {
	to     io.Writer
	digest hash.Hash
	bytes  int64
}

func (w *measuredWriter) Write(b []byte) (int, error) {
	n, err := w.to.Write(b)
	w.bytes += int64(n)
	w.digest.Write(b[:n])
	return n, err
}

// produce makes what was asked for.
func (s *Service) produce(ctx context.Context, e *store.Export, m *making) (*store.Pin, error) {
	switch {
	case m.request.Make.isPictures():
		return s.makePictures(ctx, e, m)
	case m.request.Make == PDFPerPart && len(m.request.Parts) > 1:
		segments := m.segmentPerPart()
		return s.makeWithin(ctx, e, m, func() (*store.Pin, error) {
			return s.assembleAll(ctx, m, segments, m.names(segments))
		})
	case m.request.Make == PDFsBySize:
		return s.makeBySize(ctx, e, m)
	}
	return s.makeWithin(ctx, e, m, func() (*store.Pin, error) { return s.assemble(ctx, m) })
}

func (m *making) names(segments []segment) []string {
	titles := make([]string, len(segments))
	for i, s := range segments {
		titles[i] = s.title
	}
	return packet.FileNames(m.request.Names, m.request.Title, titles, ".pdf", joinedFor(m.request.Receiver))
}

// makeBySize writes documents that are each under the limit: a single one where that
// can be. It is done again with less in each where what holds a document together makes
// one too large.
func (s *Service) makeBySize(ctx context.Context, e *store.Export, m *making) (*store.Pin, error) {
	limit := m.request.Limit
	budget := limit - planning.Overhead
	for range mostWritings {
		for i, v := range m.chosen {
			if v.Bytes > budget {
				return nil, problem.New(problem.Invalid, "Page %d is %s by itself, and no file is to be over %s. %s",
					m.request.number(i), inWords(v.Bytes), inWords(limit), adviceOnSize(m.request.Size))
			}
		}
		e.Done = 0
		segments := m.segmentsBySize(budget)
		stored, err := s.assembleAll(ctx, m, segments, numberedNames(e.Name, len(segments), joinedFor(m.request.Receiver)))
		if err != nil {
			return nil, err
		}
		over := int64(0)
		for _, file := range m.files {
			over = max(over, file.Bytes-limit)
		}
		if over == 0 {
			return stored, nil
		}
		stored.Release()
		budget -= over + planning.Overhead
	}
	return nil, problem.New(problem.Invalid, "No files under %s could be made of it. %s", inWords(limit), adviceOnSize(m.request.Size))
}

// numberedNames are names of so many PDFs, made of that of all of them.
func numberedNames(name string, count int, join func(name, ending string) string) []string {
	names := make([]string, count)
	for i := range names {
		names[i] = join(stemOf(name), fmt.Sprintf(" %s.pdf", packet.Numbered(i+1, count)))
	}
	return names
}

func adviceOnSize(size planning.Target) message.Text {
	if size == planning.AsItIs {
		return message.Of("Choose Smaller, or a higher limit.")
	}
	return message.Of("Choose a higher limit, or set the page aside.")
}
