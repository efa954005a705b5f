package export

import (
	"context"
	"errors"
	"fmt"
	"image"
	"slices"

	"dorbin/core/pdf"
	"dorbin/core/shrink"
	"dorbin/internal/guard"
	"dorbin/internal/sources"
)

// Pages of PDFs keep their text and drawings; what is made smaller are the pictures on
// them, in place.

const (
	worthMeasuring = 30_000 // bytes of a page from which its pictures are measured
	worthWriting   = 8_000  // bytes of a picture
)

// isInPlace tells whether a page of a PDF keeps its content.
func (w *measuredPage) isInPlace() bool { return sources.IsPDF(w.source) && !w.isMadeAnew(true) }

// measureInPlace measures pages of one PDF, which is parsed once for them.
func (s *Service) measureInPlace(ctx context.Context, pages []*measuredPage, scope shrink.Scope, onPage func(*measuredPage, *encodings) error) error {
	source := pages[0].source
	pictures, err := s.picturesOf(ctx, pages)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	if err != nil {
		s.log.Warn("pages kept as they are", "source", source.ID, "error", err)
	}
	isDamaged := err != nil
	return guard.Each(ctx, pages, func(ctx context.Context, i int, page *measuredPage) error {
		m := &encodings{Scope: scope, Unreadable: isDamaged}
		m.Candidates = []shrink.Candidate{shrink.AsItIs(page.bytes)}
		if err := measurePictures(m, pictures[i], page.bytes); err != nil {
			return fmt.Errorf("measure page %d of source %s: %w", page.SourcePage, source.ID, err)
		}
		if err := s.keepMeasured(ctx, page, m); err != nil {
			return err
		}
		return errors.Join(onPage(page, m), ctx.Err())
	})
}

// picturesOf gives the pictures of pages of one PDF, which is parsed for that.
func (s *Service) picturesOf(ctx context.Context, pages []*measuredPage) ([][]pdf.Picture, error) {
	pictures := make([][]pdf.Picture, len(pages))
	doc, err := s.sources.PDF(ctx, pages[0].source)
	if err != nil {
		return pictures, err
	}
	defer doc.Close()
	for i, page := range pages {
		pictures[i] = doc.Pictures(page.SourcePage - 1)
	}
	return pictures, nil
}

// measurePictures measures a page by its pictures, as far as they can be decoded.
func measurePictures(m *encodings, pictures []pdf.Picture, pageBytes int64) (err error) {
	if len(pictures) == 1 && pictures[0].IsWhole {
		img, ok := decoded(pictures[0])
		if !ok {
			return nil
		}
		scan, err := shrink.Measure(img, pictures[0].DPI, pictures[0].Bytes, m.Scope)
		if err != nil {
			return err
		}
		m.Measured = scan.AsPage(pageBytes)
		return nil
	}
	var parts []shrink.Part
	for _, picture := range pictures {
		if img, ok := decoded(picture); ok {
			parts = append(parts, shrink.Part{Image: img, DPI: picture.DPI, Bytes: picture.Bytes})
		}
	}
	if len(parts) > 0 {
		m.Measured, err = shrink.MeasureParts(parts, pageBytes, m.Scope)
	}
	return err
}

// decoded gives the pixels of a picture that is worth writing otherwise.
func decoded(picture pdf.Picture) (image.Image, bool) {
	if picture.Bytes < worthWriting {
		return nil, false
	}
	img, err := picture.Decode()
	return img, err == nil
}

// rewriting writes the pictures of pages otherwise while their document is copied. It
// works on some pages ahead, on all cores, and holds no more of them.
type rewriting struct {
	document *document
	pages    []placedPage // those that are written otherwise, in their order
	pictures map[int][]pdf.Picture
	page     map[int]int // picture → place of the first page that draws it
	ready    map[int]*pdf.Replacement
	done     int // pages
}

// replacePictures has a document's pictures written as was chosen for its pages. A
// picture that a page draws which is kept as it is stays, also where others draw it.
func replacePictures(ctx context.Context, d *document, doc *pdf.Document, pages []placedPage) {
	if !slices.ContainsFunc(pages, func(page placedPage) bool { return d.choice(page).Encoding != shrink.Original }) {
		return
	}
	r := &rewriting{document: d, pictures: map[int][]pdf.Picture{}, page: map[int]int{}, ready: map[int]*pdf.Replacement{}}
	kept := map[int]bool{}
	for _, page := range pages {
		isKept := d.choice(page).Encoding == shrink.Original
		if isKept && d.measured(page).known == nil {
			continue // too small to have been measured
		}
		pictures := doc.Pictures(page.SourcePage - 1)
		if isKept {
			for _, picture := range pictures {
				kept[picture.Object] = true
			}
			continue
		}
		r.pages = append(r.pages, page)
		r.pictures[page.position] = pictures
	}
	for i, page := range r.pages {
		for _, picture := range r.pictures[page.position] {
			if _, known := r.page[picture.Object]; !known && !kept[picture.Object] {
				r.page[picture.Object] = i
			}
		}
	}
	if len(r.page) > 0 {
		doc.Instead = func(object int) (*pdf.Replacement, error) { return r.instead(ctx, object) }
	}
}

// instead gives what a picture is written as; nil where it stays as it is.
func (r *rewriting) instead(ctx context.Context, object int) (*pdf.Replacement, error) {
	place, ok := r.page[object]
	if !ok {
		return nil, nil //nolint:nilnil // said above
	}
	for r.done <= place {
		if err := r.writeAhead(ctx); err != nil {
			return nil, err
		}
	}
	replacement := r.ready[object]
	delete(r.ready, object)
	return replacement, nil
}

// lightPicture is a picture that is written otherwise.
type lightPicture struct {
	object int
	before int64 // bytes
	*recoded
}

// writeAhead writes the pictures of the next few pages.
func (r *rewriting) writeAhead(ctx context.Context) error {
	few := r.pages[r.done:min(len(r.pages), r.done+together)]
	written := make([][]lightPicture, len(few))
	err := guard.Each(ctx, few, func(_ context.Context, i int, page placedPage) (err error) {
		written[i], err = r.writePage(r.done+i, page)
		return err
	})
	if err != nil {
		return err
	}
	var compressedPages []*shrink.CompressedPage
	for _, pictures := range written {
		for _, picture := range pictures {
			compressedPages = append(compressedPages, &picture.CompressedPage)
		}
	}
	if err := shrink.Encode(compressedPages); err != nil {
		return fmt.Errorf("write the pictures of pages: %w", err)
	}
	for i, pictures := range written {
		for _, picture := range pictures {
			r.ready[picture.object] = picture.replacement()
		}
		if len(pictures) > 0 {
			r.tell(few[i], pictures)
		}
	}
	r.done += len(few)
	return nil
}

// writePage writes the pictures of a page that no page before draws.
func (r *rewriting) writePage(place int, page placedPage) ([]lightPicture, error) {
	encoding := r.document.choice(page).EncodingParams
	var written []lightPicture
	for _, picture := range r.pictures[page.position] {
		first, ok := r.page[picture.Object]
		if !ok || first != place {
			continue
		}
		img, ok := decoded(picture)
		if !ok {
			continue
		}
		compressed, isWorthIt, err := writePicture(img, picture, encoding)
		if err != nil {
			return nil, fmt.Errorf("write a picture of page %d of source %s: %w", page.SourcePage, page.Source, err)
		}
		if isWorthIt {
			written = append(written, lightPicture{picture.Object, picture.Bytes, &recoded{compressed}})
		}
	}
	return written, nil
}

func writePicture(img image.Image, picture pdf.Picture, encoding shrink.EncodingParams) (compressed shrink.CompressedPage, isWorthIt bool, err error) {
	if picture.IsWhole {
		compressed, err = shrink.Write(img, picture.DPI, encoding)
		return compressed, true, err
	}
	return shrink.WritePart(shrink.Part{Image: img, DPI: picture.DPI, Bytes: picture.Bytes}, encoding)
}

// tell notes what became of a page: what is no picture of it, or stays, takes up what it
// did.
func (r *rewriting) tell(page placedPage, pictures []lightPicture) {
	w := r.document.measured(page)
	before, after := int64(0), 0
	for _, picture := range pictures {
		before, after = before+picture.before, after+picture.Bytes()
	}
	r.document.note(page, w.bytes, max(0, w.bytes-before)+int64(after))
}

// replacement is what an image of a document becomes.
func (l *recoded) replacement() *pdf.Replacement {
	switch l.Encoding {
	case shrink.Layers:
		back, inks := l.layers()
		return &pdf.Replacement{Image: back, Inks: inks}
	case shrink.OneBit:
		return &pdf.Replacement{Image: l.inked(l.Layered.Inks[0])}
	}
	return &pdf.Replacement{Image: jpegImage(l.JPEG)}
}

// bySourceInPlace gathers pages of PDFs that are measured in place, by their sources.
func bySourceInPlace(pages []*measuredPage) [][]*measuredPage {
	inPlace := slices.DeleteFunc(slices.Clone(pages), func(page *measuredPage) bool { return !page.isInPlace() })
	return inGroups(inPlace, func(page *measuredPage) string { return page.source.ID })
}

// refineInPlace writes the only picture of a page in better quality than was measured.
func (s *Service) refineInPlace(ctx context.Context, page *measuredPage, v shrink.Candidate, room int64) (shrink.Candidate, error) {
	all, err := s.picturesOf(ctx, []*measuredPage{page})
	if err != nil || len(all[0]) != 1 {
		return v, err
	}
	pictures := all[0]
	img, ok := decoded(pictures[0])
	if !ok {
		return v, nil
	}
	// What else is on the page stays, and of a picture that several pages draw each of
	// them has its share.
	share := min(pictures[0].Bytes, page.bytes)
	rest, times := page.bytes-share, float64(pictures[0].Bytes)/float64(max(1, share))
	v.Bytes = int64(float64(v.Bytes-rest) * times)
	refined, err := shrink.RefineQuality(img, pictures[0].DPI, v, int64(float64(room)*times))
	refined.Bytes = rest + int64(float64(refined.Bytes)/times)
	return refined, err
}
