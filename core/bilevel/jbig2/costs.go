package jbig2

import "math"

// cost is a number of bits, in parts of one.
type cost int

const oneBit = 256

// costOf is what something takes that is as probable.
func costOf(probability float64) cost { return cost(-math.Log2(probability) * oneBit) }

// costs are what pixels take by what is around them, on some pages.
type costs struct {
	refined, generic bitCosts
	instances        int
}

// around is how many kinds of neighbourhoods are told apart. In what is seen of a pixel, its own colour is the lowest bit.
const around = 1 << 10

// bitCosts is what each pixel takes by what is seen of it.
type bitCosts [2 * around]cost

func (b *bitCosts) of(seen []uint16) (sum cost) {
	for _, one := range seen {
		sum += b[one]
	}
	return sum
}

// tally counts what is seen.
type tally [2 * around]int32

func (t *tally) add(seen []uint16) {
	for _, one := range seen {
		t[one]++
	}
}

// bitsOf is what pixels take, in the mean, to a coder that adapts itself to what is counted.
func bitsOf(tallies []*tally) (out bitCosts) {
	const beforehand = 0.4 // of each colour, as if it had been seen
	for i := 0; i < len(out); i += 2 {
		white, black := beforehand, beforehand
		for _, t := range tallies {
			white, black = white+float64(t[i]), black+float64(t[i+1])
		}
		out[i], out[i+1] = costOf(white/(white+black)), costOf(black/(white+black))
	}
	return out
}

// frame is how many white pixels lie around a grid: as far as is looked from a shape that another lies on.
const frame = 4

// grid is a shape with a byte for each pixel.
type grid struct {
	width, height, stride int
	pixels                []uint8
}

// row is a row with its frame.
func (g grid) row(y int) []uint8 { return g.pixels[(y+frame)*g.stride:][:g.stride] }

// workspace is memory that is used for one shape after the other: what it gives is good until it is asked again.
type workspace struct {
	pixels []uint8
	seen   []uint16
}

// unpack gives a shape with a byte for each pixel.
func (w *workspace) unpack(s shape) grid {
	g := grid{width: s.width, height: s.height, stride: s.width + 2*frame}
	w.pixels = roomFor(w.pixels, g.stride*(s.height+2*frame))
	g.pixels = w.pixels
	clear(g.pixels)
	for y, words := range s.rows {
		row := g.row(y)[frame:]
		for x := range s.width {
			row[x] = uint8(words[x>>6] >> (63 - x&63) & 1) //nolint:gosec // one bit
		}
	}
	return g
}

// roomFor gives room for so many, in the same memory when it has as much.
func roomFor[T any](memory []T, n int) []T {
	if cap(memory) < n {
		return make([]T, n, 2*n)
	}
	return memory[:n]
}

// refined gives what is seen of a shape that is refined from a symbol.
func (w *workspace) refined(pixels grid, m match) []uint16 {
	return w.seenBeside(pixels, m.symbol.grid, m.right, pixels.height+m.below-m.symbol.height)
}

// seenBeside gives what template 1 of refinement (figure 13) sees of each pixel where both grids lie, when the other lies so
// much to the right, and so much further down.
func (w *workspace) seenBeside(g, other grid, right, down int) []uint16 {
	from, to := min(0, right), max(g.width, right+other.width)
	top, bottom := min(0, down), max(g.height, down+other.height)
	width := to - from
	w.seen = roomFor(w.seen, width*(bottom-top))
	for y := top; y < bottom; y++ {
		// Each begins with the pixel left of the first one.
		at, otherAt := frame+from-1, frame+from-right-1
		here, above := g.row(y)[at:][:width+1], g.row(y - 1)[at:][:width+2]
		higher, beside := other.row(y - down - 1)[otherAt:][:width+1], other.row(y - down)[otherAt:][:width+2]
		lower := other.row(y - down + 1)[otherAt:][:width+2]
		row := w.seen[(y-top)*width:][:width]
		ofAbove, ofBeside := uint16(above[0])<<1|uint16(above[1]), uint16(beside[0])<<1|uint16(beside[1])
		for x := range row {
			ofAbove, ofBeside = ofAbove<<1&7|uint16(above[x+2]), ofBeside<<1&7|uint16(beside[x+2])
			seen := uint16(here[x]) | ofAbove<<1 | uint16(higher[x+1])<<4 | ofBeside<<5 | uint16(lower[x+2])<<8 | uint16(lower[x+1])<<9
			row[x] = seen<<1 | uint16(here[x+1])
		}
	}
	return w.seen
}

// generic gives what template 2 (figure 5) sees of each pixel and of those right around the grid: it has fewer pixels than
// the templates that are written, as costs are learned from a few pages.
func (w *workspace) generic(g grid) []uint16 {
	width := g.width + 2
	w.seen = roomFor(w.seen, width*(g.height+2))
	for y := range g.height + 2 {
		// Each begins two pixels left of the first one.
		here, above, above2 := g.row(y)[frame-3:][:width+2], g.row(y - 1)[frame-3:][:width+4], g.row(y - 2)[frame-3:][:width+4]
		row := w.seen[y*width:][:width]
		ofAbove := uint16(above[0])<<3 | uint16(above[1])<<2 | uint16(above[2])<<1 | uint16(above[3])
		ofAbove2 := uint16(above2[1])<<1 | uint16(above2[2])
		ofHere := uint16(here[0])<<1 | uint16(here[1])
		for x := range row {
			ofAbove, ofAbove2 = ofAbove<<1&31|uint16(above[x+4]), ofAbove2<<1&7|uint16(above2[x+3])
			row[x] = (ofHere|ofAbove<<2|ofAbove2<<7)<<1 | uint16(here[x+2])
			ofHere = ofHere<<1&3 | uint16(here[x+2])
		}
	}
	return w.seen
}
