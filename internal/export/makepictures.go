package export

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"image"
	"io"

	"dorbin/core/bilevel"
	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/render"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

const (
	usualQuality   = 88 // of JPEGs
	leastQuality   = 30
	mostQuality    = 100
	usualDPI       = 200
	leastDPI       = 36
	mostDPI        = 600
	longestPicture = 16_000 // pixels
)

// makePictures makes a picture of each page, drawn by PDFium from the document as it
// would be exported.
func (s *Service) makePictures(ctx context.Context, e *store.Export, m *making) (*store.Pin, error) {
	silent := *m
	silent.progress = ctx.Err // what is told are the pictures
	document, err := s.assemble(ctx, &silent)
	if err != nil {
		return nil, err
	}
	defer document.Release()
	draw := func(i int) (image.Image, error) {
		if err := m.progress(); err != nil {
			return nil, err
		}
		return s.drawCompared(ctx, m, document.SHA256, i)
	}
	if m.request.Make == TIFF || m.request.Make == BlackTIFF {
		return s.store.Write(func(w io.Writer) error {
			return tiff.Write(w, len(m.pages), func(i int) (tiff.Encoded, error) {
				img, err := draw(i)
				if err != nil {
					return tiff.Encoded{}, err
				}
				return m.request.Make.tiffPage(img, m.request.DPI)
			})
		})
	}
	return s.writePictures(m, e.Name, draw)
}

// drawCompared draws a page of the document, and notes what is different about it from what the
// bench shows.
func (s *Service) drawCompared(ctx context.Context, m *making, document string, i int) (image.Image, error) {
	page := m.pages[i]
	img, err := s.drawPage(ctx, document, i, page.Size(), m.request.DPI)
	if err != nil {
		var told *problem.Error
		if errors.As(err, &told) && worker.GaveUp(err) {
			return nil, damaged(err, "Page %d (page %d of %s) cannot be made a picture: it %s.",
				m.request.number(i), page.SourcePage, page.source.Name, check.ProblemWords(told.Sentence))
		}
		return nil, err
	}
	difference, err := s.comparePage(ctx, page.Page, m.marks[i], func() (image.Image, error) { return img, nil })
	if !difference.IsEmpty() {
		m.differences = append(m.differences, message.Sentence("Page %d %s", i+1, difference))
	}
	return img, err
}

// writePictures writes a file for each page: in a zip when there are several.
func (s *Service) writePictures(m *making, name string, draw func(i int) (image.Image, error)) (*store.Pin, error) {
	stem, extension := stemOf(name), extensions[m.request.Make]
	encode := func(w io.Writer, i int) error {
		img, err := draw(i)
		if err != nil {
			return err
		}
		data, err := m.request.picture(img)
		if err != nil {
			return fmt.Errorf("write a picture of page %d: %w", i+1, err)
		}
		_, err = w.Write(data)
		return err
	}
	m.files = nil
	return s.store.Write(func(w io.Writer) error {
		if len(m.pages) == 1 {
			return encode(w, 0)
		}
		pack := newPack(w, m.request.At)
		for i := range m.pages {
			name := fmt.Sprintf("%s %s%s", stem, packet.Numbered(i+1, len(m.pages)), extension)
			file, err := pack.add(name, func(w io.Writer) error { return encode(w, i) })
			if err != nil {
				return err
			}
			file.First, file.Pages = m.request.number(i), 1
			m.files = append(m.files, file)
		}
		return pack.close()
	})
}

func (s *Service) drawPage(ctx context.Context, document string, i int, size geometry.Size, dpi int) (image.Image, error) {
	share := float64(dpi) / geometry.PointsPerInch
	edge := int(max(size.Width, size.Height)*share + 0.5)
	if edge > longestPicture {
		return nil, problem.New(problem.Invalid, "Page %d would be %d pixels long at %d dpi; choose fewer.", i+1, edge, dpi)
	}
	img, err := s.pictures.Upright(ctx, render.Page{
		Path: s.store.FilePath(document), IsPDF: true, Number: i + 1, Size: size,
	}, edge)
	if err != nil {
		return nil, fmt.Errorf("draw page %d: %w", i+1, err)
	}
	if raster.IsGrey(img) {
		img = raster.ToGray(img)
	}
	return img, nil
}

func (r exportRequest) picture(img image.Image) ([]byte, error) {
	if r.Make == PNGs {
		return raster.EncodePNG(img, r.DPI)
	}
	return raster.EncodeJPEG(img, cmp.Or(r.Quality, usualQuality), r.DPI)
}

func (m Make) tiffPage(img image.Image, dpi int) (tiff.Encoded, error) {
	if m == TIFF {
		return tiff.EncodeLZW(img, dpi)
	}
	bw, _ := raster.Tone{Mode: raster.BlackWhite}.Apply(img).(*image.Gray) // which it always is
	return tiff.EncodeG4(bilevel.FromGray(bw), dpi), nil
}
