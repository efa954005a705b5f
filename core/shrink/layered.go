package shrink

import (
	"image"
	"image/color"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

// ForegroundMask is what is of one ink on a page, at the page's own resolution. Pictures among the ink
// are as an ink with very many colours.
type ForegroundMask struct {
	Colour color.RGBA      // of the ink, where it has no field
	Field  JPEG            // the ink's colour in each place, as a small picture of the whole page; without data where it is one colour
	Data   []byte          // where the ink is, by JBIG2; written by Encode
	mask   *bilevel.Bitmap // the same; none once it is written

	isPictures bool // it is the pictures among the ink
}

// HasField tells whether the ink's colour is not the same everywhere.
func (i ForegroundMask) HasField() bool { return len(i.Field.Data) > 0 }

// Layered is a page as ink over a background: mixed raster content, as a PDF expresses
// it by image masks, and images with masks, over an image (ISO 32000-1, 8.9.6.2 and 8.9.6.3).
type Layered struct {
	Width, Height int // pixels, of the inks
	Background    JPEG
	Inks          []ForegroundMask
}

// pictureBytes is what the background and the colours of inks take up.
func (l Layered) pictureBytes() int {
	n := l.Background.Bytes()
	for _, ink := range l.Inks {
		n += ink.Field.Bytes()
	}
	return n
}

// draw gives the page as a reader shows it, its background from the bytes that are
// written, with so many of its dots as one, across and down.
func (l Layered) draw(detail int) (*image.RGBA, error) {
	back, err := l.Background.decode()
	if err != nil {
		return nil, err
	}
	out := raster.ToRGBA(l.drawnSize(back, detail))
	return out, l.paint(out.Pix, out.Stride, 4, detail)
}

// drawGray gives the same in grey.
func (l Layered) drawGray(detail int) (*image.Gray, error) {
	back, err := l.Background.decode()
	if err != nil {
		return nil, err
	}
	out := raster.ToGray(l.drawnSize(raster.ToGray(back), detail))
	return out, l.paint(out.Pix, out.Stride, 1, detail)
}

// drawnSize gives a picture of the whole page as many pixels as the page is drawn with.
func (l Layered) drawnSize(whole image.Image, detail int) image.Image {
	return raster.Resize(whole, max(1, l.Width/detail), max(1, l.Height/detail))
}

// paint lays the inks over samples, so many a pixel: one of grey, or four of colours.
func (l Layered) paint(samples []uint8, stride, perPixel, detail int) error {
	counts := make([]uint32, max(1, l.Width/detail))
	for _, ink := range l.Inks {
		colours, err := ink.colours()
		if err != nil {
			return err
		}
		isField := ink.HasField()
		if perPixel == 1 {
			colours = raster.ToGray(colours) // before they are scaled, which takes less time then
		}
		if isField {
			colours = l.drawnSize(colours, detail)
		}
		var ofInk []uint8
		if perPixel == 1 {
			ofInk = raster.ToGray(colours).Pix
		} else {
			ofInk = raster.ToRGBA(colours).Pix
		}
		for y := range max(1, l.Height/detail) {
			if !ink.cover(counts, y, detail) {
				continue
			}
			for x, covered := range counts {
				if covered == 0 {
					continue
				}
				at := 0
				if isField {
					at = perPixel * (y*len(counts) + x)
				}
				cover(samples[y*stride+perPixel*x:][:perPixel], ofInk[at:], covered, uint32(detail*detail)) //nolint:gosec // a few pixels
			}
		}
	}
	return nil
}

// colours are those of an ink: a small picture of the whole page, or one pixel.
func (i ForegroundMask) colours() (image.Image, error) {
	if i.HasField() {
		return i.Field.decode()
	}
	one := image.NewRGBA(image.Rect(0, 0, 1, 1))
	one.SetRGBA(0, 0, i.Colour)
	return one, nil
}

// cover counts the dots of ink in each square of a row of squares of so many dots, and
// tells whether there are any.
func (i ForegroundMask) cover(counts []uint32, y, size int) (found bool) {
	clear(counts)
	for v := y * size; v < min((y+1)*size, i.mask.Height); v++ {
		square, end := 0, size
		for x := range i.mask.Blacks(v) {
			for ; x >= end; end += size {
				square++
			}
			found = true
			if square < len(counts) {
				counts[square]++
			}
		}
	}
	return found
}

// cover lays a colour over a pixel, of which it covers a share.
func cover(pixel, colour []uint8, share, of uint32) {
	if share == of {
		copy(pixel, colour)
		return
	}
	for i := range pixel {
		pixel[i] = byte((uint32(colour[i])*share + uint32(pixel[i])*(of-share)) / of) //nolint:gosec // between two bytes
	}
}
