package jbig2

import (
	"bytes"

	"dorbin/core/bilevel"
)

// sameRow is the context that tells of rows that are the same as the one above (figure
// 8).
const sameRow = 0x9B25

// nominalAT are the adaptive pixels of template 0 where the standard expects them
// (6.2.5.4): with these, the template is runs of pixels next to each other.
var nominalAT = []byte{3, 0xFF, 0xFD, 0xFF, 2, 0xFE, 0xFE, 0xFE}

// generic codes a bitmap by template 0 (6.2). Where rows are told to be the same as
// those above, they cost next to nothing.
func (e *arithmeticEncoder) generic(b *bilevel.Bitmap, contexts []context, tellSame bool) {
	above2, above, row := newPixels(b.Width), newPixels(b.Width), newPixels(b.Width)
	wasSame := false
	blank := make([]byte, b.Stride)
	for y := range b.Height {
		if tellSame {
			before := blank
			if y > 0 {
				before = b.Row(y - 1)
			}
			same := bytes.Equal(b.Row(y), before)
			e.encode(bit(same != wasSame), &contexts[sameRow])
			wasSame = same
			if same {
				above2, above, row = above, above.copyTo(row), above2
				continue
			}
		}
		row.unpack(b.Row(y), b.Width)
		e.genericRow(row, above, above2, b.Width, contexts)
		above2, above, row = above, row, above2
	}
}

func (e *arithmeticEncoder) genericRow(row, above, above2 pixels, width int, contexts []context) {
	// Pixels right of the present one that the template sees already.
	two := uint32(above2[margin])<<1 | uint32(above2[margin+1])
	one := uint32(above[margin])<<2 | uint32(above[margin+1])<<1 | uint32(above[margin+2])
	var here uint32
	for x := range width {
		two = (two<<1 | uint32(above2[margin+x+2])) & 0x1F
		one = (one<<1 | uint32(above[margin+x+3])) & 0x7F
		pixel := row[margin+x]
		e.encode(pixel, &contexts[two<<11|one<<4|here])
		here = (here<<1 | uint32(pixel)) & 0xF
	}
}

// margin is how many white pixels stand on both sides of a row.
const margin = 4

// pixels is a row, a byte each, with margins.
type pixels []uint8

func newPixels(width int) pixels { return make(pixels, width+2*margin) }

func (p pixels) unpack(row []byte, width int) {
	for x := range width {
		p[margin+x] = row[x>>3] >> (7 - x&7) & 1
	}
}

func (p pixels) copyTo(other pixels) pixels {
	copy(other, p)
	return other
}

func bit(b bool) uint8 {
	if b {
		return 1
	}
	return 0
}

// refine codes a bitmap by how it differs from another, which lies dx to the right of
// it and dy below it, by template 1 (6.3).
func (e *arithmeticEncoder) refine(b, from *bilevel.Bitmap, dx, dy int, contexts []context) {
	for y := range b.Height {
		for x := range b.Width {
			e.encode(bit(b.Black(x, y)), &contexts[refinementContext(b, from, x, y, dx, dy)])
		}
	}
}

// refinementContext is what template 1 sees of a pixel's neighbours in the bitmap and in
// the one that it is refined from (figure 13).
func refinementContext(b, from *bilevel.Bitmap, x, y, dx, dy int) uint32 {
	u, v := x-dx, y-dy
	return black(b, x-1, y) | black(b, x+1, y-1)<<1 | black(b, x, y-1)<<2 | black(b, x-1, y-1)<<3 |
		black(from, u+1, v+1)<<4 | black(from, u, v+1)<<5 | black(from, u+1, v)<<6 | black(from, u, v)<<7 |
		black(from, u-1, v)<<8 | black(from, u, v-1)<<9
}

func black(b *bilevel.Bitmap, x, y int) uint32 {
	if x < 0 || y < 0 || x >= b.Width || y >= b.Height || !b.Black(x, y) {
		return 0
	}
	return 1
}
