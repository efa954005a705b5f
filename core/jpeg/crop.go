package jpeg

import (
	"errors"
	"image"
	"slices"
)

// ErrNothingLeft is returned where a rectangle holds nothing of a picture.
var ErrNothingLeft = errors.New("nothing of the picture is left")

// Cropped is a rectangle that was cut out of a JPEG.
type Cropped struct {
	Data []byte
	Size image.Point     // pixels
	Seen image.Rectangle // where the rectangle lies in them
}

// Crop cuts a rectangle, in pixels, out of a JPEG without writing its blocks anew: every coefficient of those that lie
// in the rectangle, and so each of their pixels, is the same. A picture begins where a unit of blocks does (A.2.4), so that
// there are pixels to the left of the rectangle and above it. They show nothing of what was there: blocks
// that the rectangle's border runs through are written anew, and go on outside as they are at the border. What is told
// about the picture is left out, as Essential has it. Errors are ErrNothingLeft and those of Repack.
func Crop(data []byte, wanted image.Rectangle) (Cropped, error) {
	data, _, err := Strip(data)
	if err != nil {
		return Cropped{}, err
	}
	d, head, err := openCoefficients(data)
	if err != nil {
		return Cropped{}, err
	}
	f := d.frame
	if wanted = wanted.Intersect(image.Rect(0, 0, f.width, f.height)); wanted.Empty() {
		return Cropped{}, ErrNothingLeft
	}
	from := image.Pt(wanted.Min.X/(8*f.mostH), wanted.Min.Y/(8*f.mostV))
	origin := image.Pt(from.X*8*f.mostH, from.Y*8*f.mostV)
	cut := f.cut(from, wanted.Max.Sub(origin))
	seen := wanted.Sub(origin)
	for i := range cut.components {
		c := &cut.components[i]
		c.clearOutside(image.Rect(
			seen.Min.X*c.h/cut.mostH, seen.Min.Y*c.v/cut.mostV,
			ceil(seen.Max.X*c.h, cut.mostH), ceil(seen.Max.Y*c.v, cut.mostV)), d.quants[c.quants])
	}
	cropped := Cropped{Size: wanted.Max.Sub(origin), Seen: seen, Data: written(cut, head, finerAndFiner(len(cut.components)))}
	d.frame = cut
	return cropped, d.checkSame(cropped.Data)
}

// cut is a picture of a size, whose first unit is the given one of this picture.
func (f *frame) cut(from image.Point, size image.Point) *frame {
	cut := *f
	cut.width, cut.height = size.X, size.Y
	cut.components = slices.Clone(f.components)
	cut.layOut()
	for i := range cut.components {
		c, whole := &cut.components[i], &f.components[i]
		c.samples, c.coefficients = nil, make([]int16, 0, 64*c.wide*c.high)
		for y := range c.high {
			at := 64 * ((from.Y*c.v+y)*whole.wide + from.X*c.h)
			c.coefficients = append(c.coefficients, whole.coefficients[at:at+64*c.wide]...)
		}
	}
	return &cut
}

// clearOutside has nothing be left of the samples outside of a rectangle.
func (c *component) clearOutside(seen image.Rectangle, quants *[64]uint16) {
	blocks := image.Rect(seen.Min.X/8, seen.Min.Y/8, ceil(seen.Max.X, 8), ceil(seen.Max.Y, 8))
	for y := blocks.Min.Y; y < blocks.Max.Y; y++ {
		for x := blocks.Min.X; x < blocks.Max.X; x++ {
			samples := image.Rect(8*x, 8*y, 8*x+8, 8*y+8)
			if part := samples.Intersect(seen); part != samples {
				goOn(c.block(x, y), part.Sub(samples.Min), quants)
			}
		}
	}
	for y := range c.high {
		for x := range c.wide {
			if !image.Pt(x, y).In(blocks) {
				nearest := c.block(min(max(x, blocks.Min.X), blocks.Max.X-1), min(max(y, blocks.Min.Y), blocks.Max.Y-1))
				*c.block(x, y) = [64]int16{nearest[0]}
			}
		}
	}
}

// goOn has a block's samples go on, outside of a part of it, as they are at the border of the part.
func goOn(coefficients *[64]int16, part image.Rectangle, quants *[64]uint16) {
	var b block
	for k, c := range coefficients {
		b[zigzag[k]] = int32(c) * int32(quants[k])
	}
	var samples [64]byte
	inverse8(&b, samples[:], 8)
	for y := range 8 {
		for x := range 8 {
			inX, inY := min(max(x, part.Min.X), part.Max.X-1), min(max(y, part.Min.Y), part.Max.Y-1)
			b[8*y+x] = int32(samples[8*inY+inX]) - middle
		}
	}
	forward(&b)
	for k, quant := range quants {
		coefficients[k] = nearestLevel(b[zigzag[k]], transformScale*int32(max(1, quant))) // a broken table may have a 0
	}
}
