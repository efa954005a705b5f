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

// size gives the pixels of the inks.
func (l Layered) size() image.Point { return image.Pt(l.Width, l.Height) }

// draw gives the page as a reader shows it, its background from the bytes that are
// written, with so many pixels.
func (l Layered) draw(size image.Point) (*image.RGBA, error) {
	back, err := l.Background.decode()
	if err != nil {
		return nil, err
	}
	out := raster.ToRGBA(raster.Resize(back, size.X, size.Y))
	return out, l.paint(out.Pix, out.Stride, 4, size)
}

// drawGray gives the same in grey.
func (l Layered) drawGray(size image.Point) (*image.Gray, error) {
	back, err := l.Background.decode()
	if err != nil {
		return nil, err
	}
	out := raster.ToGray(raster.Resize(raster.ToGray(back), size.X, size.Y))
	return out, l.paint(out.Pix, out.Stride, 1, size)
}

// paint lays the inks over the samples of a picture of such a size, so many a pixel: one of grey, or four of colours.
func (l Layered) paint(samples []uint8, stride, perPixel int, size image.Point) error {
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
			colours = raster.Resize(colours, size.X, size.Y)
		}
		ofInk, inkStride := samplesOf(colours, perPixel)
		cover := whereClear(ink.mask, size)
		for y := range size.Y {
			for x, clear := range cover.Pix[y*cover.Stride:][:size.X] {
				if clear == opaque {
					continue
				}
				at := 0
				if isField {
					at = y*inkStride + perPixel*x
				}
				lay(ofInk[at:], samples[y*stride+perPixel*x:][:perPixel], uint32(clear))
			}
		}
	}
	return nil
}

// samplesOf gives the samples of a picture, so many a pixel, and how many there are from one row to the next.
func samplesOf(img image.Image, perPixel int) (samples []uint8, stride int) {
	if perPixel == 1 {
		gray := raster.ToGray(img)
		return gray.Pix, gray.Stride
	}
	rgba := raster.ToRGBA(img)
	return rgba.Pix, rgba.Stride
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

// opaque is a whole, of what is told in a byte.
const opaque = 255

// whereClear gives, for a picture of such a size, how much of each pixel a mask leaves as it is: 255 where there is no ink.
func whereClear(mask *bilevel.Bitmap, size image.Point) *image.Gray {
	return raster.ToGray(raster.Resize(mask.Gray(), size.X, size.Y))
}

// lay puts a colour over a pixel, of which it leaves a share clear.
func lay(colour, pixel []uint8, clear uint32) {
	for i := range pixel {
		pixel[i] = byte((uint32(colour[i])*(opaque-clear) + uint32(pixel[i])*clear + opaque/2) / opaque) //nolint:gosec // between two bytes
	}
}
