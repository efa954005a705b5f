package jbig2

import (
	"bytes"
	"encoding/binary"
	"image"
	"math"

	"dorbin/core/bilevel"
)

// template is what is seen of a pixel's neighbours (6.2.5.3): a number of pixels in the two rows above it and on its left, and
// adaptive ones. The first of these may be elsewhere; the others stand next to the rest, where the standard expects them.
type template struct {
	number uint8
	first  image.Point // how far the first adaptive pixel is to the right, and how far down
	others []byte      // where the others are, as it is written
	// How many pixels are seen: in the row two above, up to the second on the right; in the one above, up to the second,
	// too; and on the left.
	two, one, here uint
	sameRow        uint32 // the context that tells of rows that are the same as the one above (figures 8 and 9)
}

// usualFirst is where the standard expects the first adaptive pixel: next to what is seen of the row above.
var usualFirst = image.Pt(3, -1)

var (
	// more is template 0, for what there is much of.
	more = template{number: 0, first: usualFirst, others: []byte{0xFD, 0xFF, 2, 0xFE, 0xFE, 0xFE}, two: 5, one: 6, here: 4, sameRow: 0x9B25}
	// fewer is template 1, which learns from less.
	fewer = template{number: 1, first: usualFirst, two: 4, one: 5, here: 3, sameRow: 0x0795}
)

// masks are those of the pixels that are seen in each row.
func (t *template) masks() (two, one, here uint32) { return 1<<t.two - 1, 1<<t.one - 1, 1<<t.here - 1 }

func (t *template) contexts() []context { return make([]context, 1<<(t.two+t.one+1+t.here)) }

// adaptive is where the adaptive pixels are, as it is written.
func (t *template) adaptive() []byte {
	return append([]byte{byte(t.first.X), byte(t.first.Y)}, t.others...) //nolint:gosec // as signed bytes
}

// generic codes a bitmap (6.2). Where rows are told to be the same as
// those above, they cost next to nothing.
func (e *arithmeticEncoder) generic(b *bilevel.Bitmap, t *template, contexts []context, tellSame bool) {
	above2, above, row := newPixels(b.Width), newPixels(b.Width), newPixels(b.Width)
	firsts := t.firstRows(b)
	wasSame := false
	blank := make([]byte, b.Stride)
	for y := range b.Height {
		if tellSame {
			before := blank
			if y > 0 {
				before = b.Row(y - 1)
			}
			same := bytes.Equal(b.Row(y), before)
			e.encode(bit(same != wasSame), &contexts[t.sameRow])
			wasSame = same
			if same {
				above2, above, row = above, above.copyTo(row), above2
				continue
			}
		}
		row.unpack(b.Row(y), b.Width)
		e.genericRow(row, above, above2, firsts.of(y, above), b.Width, t, contexts)
		above2, above, row = above, row, above2
	}
}

func (e *arithmeticEncoder) genericRow(row, above, above2, first pixels, width int, t *template, contexts []context) {
	ink, around := newBlackAhead(row), newInkAround(above, above2, first)
	// Pixels right of the present one that the template sees already.
	two := uint32(above2[margin])<<1 | uint32(above2[margin+1])
	one := uint32(above[margin])<<1 | uint32(above[margin+1])
	var here uint32
	ofTwo, ofOne, ofHere := t.masks()
	for x := 0; x < width; x++ {
		two = (two<<1 | uint32(above2[margin+x+2])) & ofTwo
		one = (one<<1 | uint32(above[margin+x+2])) & ofOne
		seen := two<<(t.one+1+t.here) | one<<(1+t.here) | uint32(first[margin+x])<<t.here | here
		if seen == 0 {
			if white := min(around.whiteFrom(x, width), ink.from(x)-x); white > 1 {
				e.encodeZeros(&contexts[0], white)
				x += white - 1
				continue
			}
		}
		pixel := row[margin+x]
		e.encode(pixel, &contexts[seen])
		here = (here<<1 | uint32(pixel)) & ofHere
	}
}

// blackAhead finds the black pixels of a row, one after the other.
type blackAhead struct {
	row pixels
	at  int // the one found last
}

func newBlackAhead(row pixels) blackAhead { return blackAhead{row: row, at: -1} }

// from gives the first black pixel from x on, which is no less than the last time. After the last one it is far away.
func (b *blackAhead) from(x int) int {
	if b.at < x {
		b.at = math.MaxInt
		if i := bytes.IndexByte(b.row[margin+x:], 1); i >= 0 {
			b.at = x + i
		}
	}
	return b.at
}

// inkAround is what the template sees of other rows.
type inkAround struct{ above, above2, first blackAhead }

func newInkAround(above, above2, first pixels) inkAround {
	return inkAround{newBlackAhead(above), newBlackAhead(above2), newBlackAhead(first)}
}

// whiteFrom gives for how many pixels of a row, from one on for which it is so, the template sees nothing but white in other
// rows: up to two pixels to the right, and the first adaptive pixel.
func (i *inkAround) whiteFrom(x, width int) int {
	return min(width, i.above.from(x)-2, i.above2.from(x)-2, i.first.from(x)) - x
}

// margin is how many white pixels stand on both sides of a row.
const margin = 5

// pixels is a row, a byte each, with margins.
type pixels []uint8

func newPixels(width int) pixels { return make(pixels, width+2*margin) }

// unpacked are the eight pixels of each byte, the leftmost in the lowest byte of a word.
var unpacked = func() (all [256]uint64) {
	for i := range all {
		for x := range 8 {
			all[i] |= uint64(i>>(7-x)&1) << (8 * x) //nolint:gosec // one bit
		}
	}
	return all
}()

func (p pixels) unpack(row []byte, width int) {
	whole := width / 8
	for i, b := range row[:whole] {
		binary.LittleEndian.PutUint64(p[margin+8*i:], unpacked[b])
	}
	for x := 8 * whole; x < width; x++ {
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

// refinementContexts is how many contexts template 1 has.
const refinementContexts = 1 << 10

// refine codes a bitmap by how it differs from another, which lies dx to the right of
// it and dy below it, by template 1 (6.3): PDFium does not read template 0 right.
func (e *arithmeticEncoder) refine(b, from *bilevel.Bitmap, dx, dy int, contexts []context) {
	r := newRefiner(b, from, dx, dy)
	for y := range b.Height {
		r.beginRow(y)
		r.row.unpack(b.Row(y), b.Width)
		for x := range b.Width {
			cx := &contexts[r.context(x)]
			r.left = uint32(r.row[margin+x])
			e.encode(r.row[margin+x], cx)
		}
	}
}

// refiner goes through the pixels of a bitmap, row by row, and tells what template 1 sees of each one's neighbours in the
// bitmap and in the one that it is refined from (figure 13).
type refiner struct {
	from   *bilevel.Bitmap
	dx, dy int
	width  int
	// Rows of the bitmap: the present one, and the one above. Rows of what it is refined from, as they lie on the bitmap:
	// those above, beside and below the present one.
	row, above, higher, beside, lower pixels
	// What is seen: the pixel on the left, and of each row three pixels.
	left, ofAbove, ofHigher, ofBeside, ofLower uint32
}

func newRefiner(b, from *bilevel.Bitmap, dx, dy int) *refiner {
	r := &refiner{from: from, dx: dx, dy: dy, width: b.Width}
	for _, row := range []*pixels{&r.row, &r.above, &r.higher, &r.beside, &r.lower} {
		*row = newPixels(b.Width)
	}
	r.load(r.beside, -dy-1)
	r.load(r.lower, -dy)
	return r
}

// load unpacks a row of what the bitmap is refined from.
func (r *refiner) load(row pixels, y int) {
	clear(row)
	if y < 0 || y >= r.from.Height {
		return
	}
	for x := max(-margin, r.dx); x < min(r.width+margin, r.dx+r.from.Width); x++ {
		if r.from.Black(x-r.dx, y) {
			row[margin+x] = 1
		}
	}
}

func (r *refiner) beginRow(y int) {
	r.above, r.row = r.row, r.above
	r.higher, r.beside, r.lower = r.beside, r.lower, r.higher
	r.load(r.lower, y-r.dy+1)
	firstTwo := func(row pixels) uint32 { return uint32(row[margin-1])<<1 | uint32(row[margin]) }
	r.left, r.ofAbove, r.ofHigher = 0, firstTwo(r.above), firstTwo(r.higher)
	r.ofBeside, r.ofLower = firstTwo(r.beside), firstTwo(r.lower)
}

func (r *refiner) context(x int) uint32 {
	at := margin + x + 1
	r.ofAbove = (r.ofAbove<<1 | uint32(r.above[at])) & 7
	r.ofHigher = (r.ofHigher<<1 | uint32(r.higher[at])) & 7
	r.ofBeside = (r.ofBeside<<1 | uint32(r.beside[at])) & 7
	r.ofLower = (r.ofLower<<1 | uint32(r.lower[at])) & 7
	return r.left | r.ofAbove<<1 | r.ofHigher>>1&1<<4 | r.ofBeside<<5 | r.ofLower&3<<8
}
