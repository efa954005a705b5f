package export

import (
	"bytes"
	"context"
	"fmt"
	"slices"

	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/core/planning"
	"dorbin/core/shrink"
	"dorbin/internal/guard"
)

// RecodedPage is a page that was written in fewer bytes.
type RecodedPage struct {
	Number int         `json:"number" doc:"From 1."`
	Kind   shrink.Kind `json:"kind" enum:"blank,blackText,colourText,photograph" doc:"What it shows."`
	shrink.EncodingParams
	SamePixels bool     `json:"samePixels,omitempty" doc:"Its pictures are written in fewer bytes, and every pixel is the same."`
	Before     int64    `json:"before" doc:"Bytes of the page as it is."`
	After      int64    `json:"after" doc:"Bytes of the page as it is written."`
	Kept       float64  `json:"kept,omitempty" doc:"Share of what is on the page that is there as before, 0 to 1."`
	Words      *float64 `json:"words,omitempty" doc:"Share of the words that are read as before, where that was tried."`
}

// together is how many pages share the shapes of their ink: at most a few are in memory.
const together = 8

// isRecoded tells whether a page is written anew in fewer bytes, all of it.
func (d *document) isRecoded(page placedPage) bool {
	return d.choice(page).Encoding != shrink.Original && !d.measured(page).isInPlace()
}

// addRecoded writes pages in fewer bytes, as was chosen for them.
func (s *Service) addRecoded(ctx context.Context, d *document, pages []placedPage) error {
	for few := range slices.Chunk(pages, together) {
		compressedPages, err := s.recodeAll(ctx, d, few)
		if err != nil {
			return err
		}
		for i, page := range few {
			measured := d.measured(page)
			d.note(page, measured.bytes, int64(compressedPages[i].Bytes()))
			if err := d.addEncoded(measured.source, page, compressedPages[i].replacement()); err != nil {
				return err
			}
		}
	}
	return nil
}

// writtenTogether are pages that were written with each other, and how.
type writtenTogether struct {
	pages           []packet.PageID
	encodings       []shrink.EncodingParams
	compressedPages []*recoded
}

// hasInkOf tells whether the ink of pages that are to be written by encodings is the one
// that was written.
func (w writtenTogether) hasInkOf(pages []packet.PageID, encodings []shrink.EncodingParams) bool {
	if !slices.Equal(w.pages, pages) {
		return false
	}
	for i, encoding := range encodings {
		if w.encodings[i].Encoding != encoding.Encoding {
			return false
		}
	}
	return true
}

// mostHeld is how many bytes of pages are kept from one writing to the next.
const mostHeld = 200 << 20

// recoded is a page in fewer bytes.
type recoded struct{ shrink.CompressedPage }

// recodeAll writes pages that share the shapes of their ink. What was written before
// in the same way is taken again.
func (s *Service) recodeAll(ctx context.Context, d *document, pages []placedPage) ([]*recoded, error) {
	now := writtenTogether{make([]packet.PageID, len(pages)), make([]shrink.EncodingParams, len(pages)), make([]*recoded, len(pages))}
	for i, page := range pages {
		now.pages[i], now.encodings[i] = page.ID, d.choice(page).EncodingParams
	}
	before := d.written[pages[0].ID]
	isInkKnown := before.hasInkOf(now.pages, now.encodings)
	err := guard.Each(ctx, pages, func(ctx context.Context, i int, page placedPage) error {
		if isInkKnown && before.encodings[i] == now.encodings[i] {
			now.compressedPages[i] = before.compressedPages[i]
			return nil
		}
		err := ofSource(ctx, d.measured(page).source, func() (err error) {
			now.compressedPages[i], err = s.recode(ctx, d, page, now.encodings[i])
			return err
		})
		if err == nil && isInkKnown {
			now.compressedPages[i].TakeInk(before.compressedPages[i].CompressedPage)
		}
		return err
	})
	if err != nil {
		return nil, err
	}
	if !isInkKnown {
		if err := shrink.Encode(pictures(now.compressedPages)); err != nil {
			return nil, fmt.Errorf("write pages that share shapes: %w", err)
		}
	}
	d.remember(now)
	return now.compressedPages, nil
}

func pictures(compressedPages []*recoded) []*shrink.CompressedPage {
	all := make([]*shrink.CompressedPage, len(compressedPages))
	for i, compressed := range compressedPages {
		all[i] = &compressed.CompressedPage
	}
	return all
}

// remember keeps what was written for the next writing, as far as there is room.
func (m *making) remember(w writtenTogether) {
	first := w.pages[0]
	m.held -= bytesOf(m.written[first].compressedPages)
	delete(m.written, first)
	if bytes := bytesOf(w.compressedPages); m.request.Size == planning.Fit && m.held+bytes <= mostHeld {
		m.written[first] = w
		m.held += bytes
	}
}

func bytesOf(compressedPages []*recoded) (bytes int) {
	for _, compressed := range compressedPages {
		bytes += compressed.Bytes()
	}
	return bytes
}

// recode writes a page by an encoding, or takes it as it was refined or measured.
func (s *Service) recode(ctx context.Context, d *document, page placedPage, encoding shrink.EncodingParams) (*recoded, error) {
	if refined, ok := d.refined[page.ID]; ok && refined.EncodingParams == encoding {
		return &recoded{refined.Clone()}, nil
	}
	source := d.measured(page).source
	if written, ok := s.takeWritten(ofImageFile(source, page), encoding); ok {
		return &recoded{written}, nil
	}
	pixels, dpi, err := s.pixelsOf(ctx, source, page)
	if err != nil {
		return nil, err
	}
	release, err := s.room.take(ctx, pixels)
	if err != nil {
		return nil, err
	}
	defer release()
	compressed, err := shrink.Write(pixels, dpi, encoding)
	if err != nil {
		return nil, fmt.Errorf("write page %d of source %s smaller: %w", page.SourcePage, source.ID, err)
	}
	return &recoded{compressed}, nil
}

// replacement is what is written: an image, or layers.
func (l *recoded) replacement() pdf.Replacement {
	switch l.Encoding {
	case shrink.Layers:
		back, inks := l.layers()
		return pdf.Replacement{Image: back, Inks: inks}
	case shrink.OneBit:
		return pdf.Replacement{Image: l.inked(l.Layered.Inks[0])}
	}
	return pdf.Replacement{Image: jpegImage(l.JPEG)}
}

func (l *recoded) layers() (back pdf.Image, inks []pdf.Ink) {
	back = jpegImage(l.Layered.Background)
	back.Smooth = true
	inks = make([]pdf.Ink, len(l.Layered.Inks))
	for i, ink := range l.Layered.Inks {
		inks[i] = pdf.Ink{Image: l.inked(ink), Red: ink.Colour.R, Green: ink.Colour.G, Blue: ink.Colour.B}
		if ink.HasField() {
			colours := jpegImage(ink.Field)
			colours.Smooth = true
			inks[i].Colours = &colours
		}
	}
	return back, inks
}

// inked is where an ink is, as an image of one bit.
func (l *recoded) inked(ink shrink.ForegroundMask) pdf.Image {
	return pdf.Image{
		Width: l.Layered.Width, Height: l.Layered.Height, BitsPerComponent: 1, Colour: pdf.Gray, Filter: pdf.JBIG2,
		Shared: l.Shared, Data: bytes.NewReader(ink.Data), Length: int64(len(ink.Data)),
	}
}

func jpegImage(picture shrink.JPEG) pdf.Image {
	img := pdf.Image{
		Width: picture.Width, Height: picture.Height, BitsPerComponent: 8, Colour: pdf.RGB, Filter: pdf.DCT,
		Data: bytes.NewReader(picture.Data), Length: int64(picture.Bytes()),
	}
	if picture.Gray {
		img.Colour = pdf.Gray
	}
	if len(picture.Deflated) > 0 {
		img.Data, img.Deflated = bytes.NewReader(picture.Deflated), true
	}
	return img
}
