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
	"dorbin/internal/worker"
)

// Pages of PDFs keep their text and drawings; what is made smaller are the pictures on
// them, in place.

const (
	worthMeasuring = 30_000 // bytes of a page from which its pictures are measured
	worthWriting   = 8_000  // bytes of a picture
)

// isInPlace tells whether a page of a PDF keeps its content.
func (w *measuredPage) isInPlace() bool { return sources.IsPDF(w.source) && !w.IsMadeAnew(true) }

// measureInPlace measures pages of one PDF.
func (s *Service) measureInPlace(ctx context.Context, pages []*measuredPage, sizing Sizing, onPage func(*measuredPage, *encodings) error) error {
	source := pages[0].source
	pictures, err := s.picturesOf(ctx, pages)
	if stopped := worker.NotTried(ctx, err); stopped != nil {
		return stopped
	}
	if err != nil {
		s.log.Warn("pages kept as they are", "source", source.ID, "error", err)
	}
	isDamaged := err != nil
	return guard.Each(ctx, pages, func(ctx context.Context, i int, page *measuredPage) error {
		m := &encodings{Scope: sizing.scopeOf(page.ID), Unreadable: isDamaged}
		m.Candidates = []shrink.Candidate{shrink.AsItIs(page.bytes)}
		if err := s.measurePictures(ctx, m, pictures[i], page.bytes); err != nil {
			return fmt.Errorf("measure page %d of source %s: %w", page.SourcePage, source.ID, err)
		}
		if err := s.keepMeasured(ctx, page, m); err != nil {
			return err
		}
		return errors.Join(onPage(page, m), ctx.Err())
	})
}

// inPlacePage is a page of a PDF with the pictures that it draws.
type inPlacePage struct {
	file     string // the document's hash
	page     int    // from 1
	pictures []pdf.Picture
}

// picturesOf gives the pictures of pages of one PDF, and tells the pages their bytes: right after it came in they are not
// known.
func (s *Service) picturesOf(ctx context.Context, pages []*measuredPage) ([]inPlacePage, error) {
	measured, file, err := s.sources.Measure(ctx, pages[0].source)
	if err != nil {
		return make([]inPlacePage, len(pages)), err
	}
	defer file.Release()
	numbers := make([]int, len(pages))
	for i, page := range pages {
		numbers[i], page.bytes = page.SourcePage, measured[page.SourcePage-1].Bytes
	}
	return s.inPlacePages(ctx, file.SHA256, numbers)
}

func (s *Service) inPlacePages(ctx context.Context, file string, numbers []int) ([]inPlacePage, error) {
	all := make([]inPlacePage, len(numbers))
	pictures, err := s.sources.Pictures(ctx, file, numbers)
	if err != nil {
		return all, err
	}
	for i, number := range numbers {
		all[i] = inPlacePage{file, number, pictures[i]}
	}
	return all, nil
}

// measurePictures measures a page by its pictures, as far as they can be decoded.
func (s *Service) measurePictures(ctx context.Context, m *encodings, page inPlacePage, pageBytes int64) (err error) {
	if len(page.pictures) == 1 && page.pictures[0].IsWhole {
		only := page.pictures[0]
		img, err := s.decoded(ctx, page, only)
		if err != nil || img == nil {
			return err
		}
		release, err := s.room.take(ctx, img)
		if err != nil {
			return err
		}
		defer release()
		part := shrink.Part{Image: img, DPI: only.DPI, Bytes: only.Bytes}
		scan, err := s.measureScan(page.picture(only.Object), part, m.Scope, nil)
		if err != nil {
			return err
		}
		m.Measured = scan.AsPage(pageBytes)
		return nil
	}
	var parts []shrink.Part
	var pixels []image.Image
	for _, picture := range page.pictures {
		img, err := s.decoded(ctx, page, picture)
		if err != nil {
			return err
		}
		if img != nil {
			parts = append(parts, shrink.Part{Image: img, DPI: picture.DPI, Bytes: picture.Bytes})
			pixels = append(pixels, img)
		}
	}
	if len(parts) == 0 {
		return nil
	}
	release, err := s.room.take(ctx, pixels...)
	if err != nil {
		return err
	}
	defer release()
	m.Measured, err = shrink.MeasureParts(parts, pageBytes, m.Scope)
	return err
}

// decoded gives the pixels of a picture that is worth writing otherwise; nil for others, and for
// one that cannot be decoded. An error tells that the work was stopped, or that nothing can be decoded now.
func (s *Service) decoded(ctx context.Context, page inPlacePage, picture pdf.Picture) (image.Image, error) {
	if picture.Bytes < worthWriting || picture.IsKept {
		return nil, nil //nolint:nilnil // said above
	}
	img, err := s.sources.PicturePixels(ctx, page.file, page.page, picture.Object)
	if stopped := worker.NotTried(ctx, err); stopped != nil {
		return nil, stopped
	}
	if err != nil {
		s.log.Warn("picture kept as it is", "file", page.file, "page", page.page, "object", picture.Object, "error", err)
		return nil, nil //nolint:nilnil // said above
	}
	return img, nil
}

// rewriting is the pictures of pages that are written otherwise. Some pages are worked on at a
// time, on all cores, as their ink shares its shapes.
type rewriting struct {
	document *document
	pages    []placedPage // those that are written otherwise, in their order
	inPlace  []inPlacePage
	first    map[int]int // picture → place of the first page that draws it
	instead  map[int]pdf.Replacement
}

// rewritePictures gives what pictures of a document become, as was chosen for its pages. A
// picture that a page draws which is kept as it is stays, also where others draw it.
func (s *Service) rewritePictures(ctx context.Context, d *document, file string, pages []placedPage) (map[int]pdf.Replacement, error) {
	if !slices.ContainsFunc(pages, func(page placedPage) bool { return d.choice(page).Encoding != shrink.Original }) {
		return nil, nil
	}
	// Pages that are too small to have been measured are left as they are.
	pages = slices.DeleteFunc(slices.Clone(pages), func(page placedPage) bool {
		return d.choice(page).Encoding == shrink.Original && d.measured(page).known == nil
	})
	numbers := make([]int, len(pages))
	for i, page := range pages {
		numbers[i] = page.SourcePage
	}
	inPlace, err := s.inPlacePages(ctx, file, numbers)
	if err != nil {
		return nil, err
	}
	r := rewriting{document: d, first: map[int]int{}, instead: map[int]pdf.Replacement{}}
	kept := map[int]bool{}
	for i, page := range pages {
		if d.choice(page).Encoding != shrink.Original {
			r.pages, r.inPlace = append(r.pages, page), append(r.inPlace, inPlace[i])
			continue
		}
		for _, picture := range inPlace[i].pictures {
			kept[picture.Object] = true
		}
	}
	for i := range r.pages {
		for _, picture := range r.inPlace[i].pictures {
			if _, known := r.first[picture.Object]; !known && !kept[picture.Object] {
				r.first[picture.Object] = i
			}
		}
	}
	for from := 0; from < len(r.pages); from += together {
		if err := s.writeFew(ctx, &r, from, min(len(r.pages), from+together)); err != nil {
			return nil, err
		}
	}
	return r.instead, nil
}

// lightPicture is a picture that is written otherwise.
type lightPicture struct {
	object int
	before int64 // bytes
	*recoded
}

// writeFew writes the pictures of pages from one place to before another.
func (s *Service) writeFew(ctx context.Context, r *rewriting, from, to int) error {
	written := make([][]lightPicture, to-from)
	err := guard.Each(ctx, r.pages[from:to], func(ctx context.Context, i int, page placedPage) (err error) {
		written[i], err = s.writePicturesOf(ctx, r, from+i, page)
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
			r.instead[picture.object] = picture.replacement()
		}
		if len(pictures) > 0 {
			r.tell(r.pages[from+i], pictures)
		}
	}
	return nil
}

// writePicturesOf writes the pictures of a page that no page before draws.
func (s *Service) writePicturesOf(ctx context.Context, r *rewriting, place int, page placedPage) ([]lightPicture, error) {
	encoding := r.document.choice(page).EncodingParams
	var written []lightPicture
	for _, picture := range r.inPlace[place].pictures {
		if first, ok := r.first[picture.Object]; !ok || first != place {
			continue
		}
		compressed, isWorthIt, err := s.writePicture(ctx, r.inPlace[place], picture, encoding)
		if err != nil {
			return nil, fmt.Errorf("write a picture of page %d of source %s: %w", page.SourcePage, page.Source, err)
		}
		if isWorthIt {
			written = append(written, lightPicture{picture.Object, picture.Bytes, &recoded{compressed}})
		}
	}
	return written, nil
}

// writePicture writes a picture otherwise, and tells whether that is worth it. One that cannot be
// decoded is not.
func (s *Service) writePicture(ctx context.Context, page inPlacePage, picture pdf.Picture, encoding shrink.EncodingParams) (compressed shrink.CompressedPage, isWorthIt bool, err error) {
	if picture.IsWhole {
		if compressed, ok := s.takeWritten(page.picture(picture.Object), encoding); ok {
			return compressed, true, nil
		}
	}
	img, err := s.decoded(ctx, page, picture)
	if err != nil || img == nil {
		return compressed, false, err
	}
	release, err := s.room.take(ctx, img)
	if err != nil {
		return compressed, false, err
	}
	defer release()
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

// bySourceInPlace gathers the pages of PDFs that keep their content, by their sources.
func bySourceInPlace(pages []*measuredPage) [][]*measuredPage {
	inPlace := slices.DeleteFunc(slices.Clone(pages), func(page *measuredPage) bool { return !page.isInPlace() })
	return inGroups(inPlace, func(page *measuredPage) string { return page.source.ID })
}

// refineInPlace writes the only picture of a page in better quality than was measured.
func (s *Service) refineInPlace(ctx context.Context, page *measuredPage, v shrink.Candidate, room int64) (shrink.Candidate, error) {
	all, err := s.picturesOf(ctx, []*measuredPage{page})
	if err != nil || len(all[0].pictures) != 1 {
		return v, err
	}
	pictures := all[0].pictures
	img, err := s.decoded(ctx, all[0], pictures[0])
	if err != nil || img == nil {
		return v, err
	}
	release, err := s.room.take(ctx, img)
	if err != nil {
		return v, err
	}
	defer release()
	// What else is on the page stays, and of a picture that several pages draw each of
	// them has its share.
	share := min(pictures[0].Bytes, page.bytes)
	rest, times := page.bytes-share, float64(pictures[0].Bytes)/float64(max(1, share))
	v.Bytes = int64(float64(v.Bytes-rest) * times)
	refined, err := shrink.RefineQuality(img, pictures[0].DPI, v, nil, int64(float64(room)*times))
	refined.Bytes = rest + int64(float64(refined.Bytes)/times)
	return refined.Candidate, err
}
