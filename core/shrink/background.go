package shrink

import (
	"encoding/binary"
	"image"
	"image/color"
	"slices"

	"dorbin/core/bilevel"
)

// fillPasses is the most squares of background that are bridged.
const fillPasses = 64

// background averages what is not ink over squares of so many pixels. Squares that are
// all ink get what is around them.
func background(img *image.RGBA, ink *bilevel.Bitmap, factor int) *image.RGBA {
	w, h := ceilDiv(ink.Width, factor), ceilDiv(ink.Height, factor)
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	known := make([]bool, w*h)
	columns, squares := newPaperColumns(ink.Width), make([]sum, w)
	for y := range h {
		clear(squares)
		for v := y * factor; v < min(ink.Height, (y+1)*factor); v++ {
			columns.addRow(img.Pix[v*img.Stride:][:4*ink.Width], ink.Row(v))
			if columns.rows == mostRows {
				columns.flush(squares, factor)
			}
		}
		columns.flush(squares, factor)
		for x, square := range squares {
			if square.count > 0 {
				out.SetRGBA(x, y, square.mean())
				known[y*w+x] = true
			}
		}
	}
	fillUnknown(out, known)
	return out
}

// sum is that of the colours of so many pixels.
type sum struct{ red, green, blue, count uint32 }

func (s *sum) add(pixel []uint8) {
	s.red, s.green, s.blue = s.red+uint32(pixel[0]), s.green+uint32(pixel[1]), s.blue+uint32(pixel[2])
	s.count++
}

func (s *sum) mean() color.RGBA {
	if int(s.count) < len(inverses) {
		of := func(sum uint32) uint8 { return uint8(uint64(sum) * inverses[s.count] >> 32) } //nolint:gosec // a mean of bytes
		return color.RGBA{of(s.red), of(s.green), of(s.blue), 255}
	}
	return color.RGBA{uint8(s.red / s.count), uint8(s.green / s.count), uint8(s.blue / s.count), 255} //nolint:gosec // means of bytes
}

// inverses are those of small numbers, in 2⁻³²: to multiply sums of so many bytes by them takes much less time than to divide
// these, and gives the same whole numbers.
var inverses = func() (all [256]uint64) {
	for n := 1; n < len(all); n++ {
		all[n] = 1<<32/uint64(n) + 1
	}
	return all
}()

// paperColumns sums up the pixels of paper in the same column of several rows. Two neighbours are added at once, each of
// their channels in 16 bits: the red and blue ones, and the green ones with the number of pixels, times 255.
type paperColumns struct {
	width                int
	redBlue, greenNumber []uint64
	rows                 int // that were added
}

const (
	// mostRows is how many rows 16 bits hold the sum of.
	mostRows   = 0xFFFF / 0xFF
	twoAlphas  = 0xFF000000_FF000000
	everyOther = 0x00FF00FF_00FF00FF // byte
)

func newPaperColumns(width int) *paperColumns {
	return &paperColumns{width: width, redBlue: make([]uint64, ceilDiv(width, 2)), greenNumber: make([]uint64, ceilDiv(width, 2))}
}

// addRow adds the pixels of a row that are not ink.
func (c *paperColumns) addRow(pixels []uint8, ink []byte) {
	c.rows++
	whole := c.width / 8
	for i, of := range ink[:whole] {
		c.addEight(i, pixels[32*i:32*i+32], of)
	}
	if rest := pixels[32*whole:]; len(rest) > 0 {
		var eight [32]uint8
		copy(eight[:], rest)
		c.addEight(whole, eight[:], ink[whole]|0xFF>>(c.width%8)) // what is beyond the width is none
	}
}

// addEight adds those of eight pixels that are not ink.
func (c *paperColumns) addEight(at int, pixels []uint8, ink byte) {
	redBlue, greenNumber := c.redBlue[4*at:], c.greenNumber[4*at:]
	isPaper := &paperOfTwo[ink]
	for i := range min(4, len(redBlue)) {
		two := (binary.LittleEndian.Uint64(pixels[8*i:]) | twoAlphas) & isPaper[i]
		redBlue[i] += two & everyOther
		greenNumber[i] += two >> 8 & everyOther
	}
}

// paperOfTwo has the bits of those of eight pixels, in pairs, that are not ink in a byte of a bitmap.
var paperOfTwo = func() (all [256][4]uint64) {
	for ink := range all {
		for x := range 8 {
			if ink<<x&0x80 == 0 {
				all[ink][x/2] |= 0xFFFFFFFF << (x % 2 * 32)
			}
		}
	}
	return all
}()

// flush adds what was summed up to the squares, so many pixels across, that it is in.
func (c *paperColumns) flush(squares []sum, factor int) {
	for i := range squares {
		s := &squares[i]
		var numbers uint32
		for x := i * factor; x < min(c.width, (i+1)*factor); x++ {
			redBlue, greenNumber := uint32(c.redBlue[x/2]>>(x%2*32)), uint32(c.greenNumber[x/2]>>(x%2*32)) //nolint:gosec // of one pixel
			s.red += redBlue & 0xFFFF
			s.blue += redBlue >> 16
			s.green += greenNumber & 0xFFFF
			numbers += greenNumber >> 16
		}
		s.count += numbers / 0xFF
	}
	clear(c.redBlue)
	clear(c.greenNumber)
	c.rows = 0
}

// fillUnknown spreads what is known to its neighbours, a pixel each time, and then fills
// what is left with white.
func fillUnknown(img *image.RGBA, known []bool) {
	var unknown []image.Point
	w := img.Rect.Dx()
	for i, is := range known {
		if !is {
			unknown = append(unknown, image.Pt(i%w, i/w))
		}
	}
	var found []image.Point
	for range fillPasses {
		found = found[:0]
		unknown = slices.DeleteFunc(unknown, func(at image.Point) bool {
			isFound := spread(img, known, at.X, at.Y)
			if isFound {
				found = append(found, at)
			}
			return isFound
		})
		if len(found) == 0 {
			break
		}
		for _, at := range found {
			known[at.Y*w+at.X] = true
		}
	}
	for _, at := range unknown {
		img.SetRGBA(at.X, at.Y, color.RGBA{255, 255, 255, 255})
	}
}

func spread(img *image.RGBA, known []bool, x, y int) bool {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	var around sum
	for v := max(0, y-1); v <= min(h-1, y+1); v++ {
		for u := max(0, x-1); u <= min(w-1, x+1); u++ {
			if known[v*w+u] {
				around.add(img.Pix[img.PixOffset(u, v):])
			}
		}
	}
	if around.count > 0 {
		img.SetRGBA(x, y, around.mean())
	}
	return around.count > 0
}
