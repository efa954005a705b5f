package jbig2

import (
	"image"
	"iter"
	"math"

	"dorbin/core/bilevel"
)

// Decide sets those pixels of a bitmap that may as well be white as black, so that the bitmap takes fewer bits. They are
// black in undecided, which is as large. About as many become white as black: letters keep their weight.
func Decide(b, undecided *bilevel.Bitmap) {
	const passes = 2 // after one, less is seen of noise
	for range passes {
		d := newDecider(b)
		for y := range b.Height {
			d.load(b, y+2)
			for x := range undecided.Blacks(y) {
				if d.isBetterInverted(x, b.Width, b.Height-y) {
					b.Row(y)[x>>3] ^= 0x80 >> (x & 7)
				}
			}
		}
	}
}

// theRow is the place of the row that is decided, among those that see its pixels or are seen from them.
const theRow = 2

// decider knows what pixels take, in a row and in those around it.
type decider struct {
	rows      [5]pixels
	bits      pixelBits
	blackened int // pixels that became black, less those that became white
}

// newDecider stands above the first row of a bitmap.
func newDecider(b *bilevel.Bitmap) *decider {
	const learnt = 800 // rows, at least
	d := &decider{bits: pixelBitsOf(b, max(1, b.Height/learnt))}
	for i := range d.rows {
		d.rows[i] = newPixels(b.Width)
	}
	d.load(b, 0)
	d.load(b, 1)
	return d
}

// load takes a further row, below the others.
func (d *decider) load(b *bilevel.Bitmap, y int) {
	last := d.rows[0]
	copy(d.rows[:], d.rows[1:])
	d.rows[len(d.rows)-1] = last
	clear(last)
	if y < b.Height {
		last.unpack(b.Row(y), b.Width)
	}
}

// isBetterInverted tells whether a pixel had better have the other colour, and gives it that.
func (d *decider) isBetterInverted(x, width, height int) bool {
	// Without it ink would become thinner, by up to a fiftieth: white takes fewer bits.
	const bitsOfBalance = 0.02
	pixel := &d.rows[theRow][margin+x]
	blackens := 1 - 2*int(*pixel)
	if d.saves(x, width, height) <= bitsOfBalance*float32(blackens*d.blackened) {
		return false
	}
	*pixel ^= 1
	d.blackened += blackens
	return true
}

// saves is how many bits are saved by giving a pixel the other colour, in a row that is so wide and has so many rows from it
// on. They are its own and those of the pixels that see it, to each of which it is another bit of what it sees (figure 3).
func (d *decider) saves(x, width, height int) float32 {
	v := viewOf(d.rows[:], x)
	seen, pixel := v.at(x), d.rows[theRow][margin+x]
	saved := d.bits[seen][pixel] - d.bits[seen][1-pixel]
	for right := 1; right <= 4 && x+right < width; right++ {
		saved += d.bits.saved(v.at(x+right), right-1, v.row[margin+x+right])
	}
	if height > 1 {
		saved += d.savedBelow(1, x, 3, 4, width)
	}
	if height > 2 {
		saved += d.savedBelow(2, x, 2, 11, width)
	}
	return saved
}

// savedBelow is what is saved so many rows below a pixel, by those that are so near to it. To the leftmost it is the lowest
// of some bits.
func (d *decider) savedBelow(rows, x, near, lowest, width int) (saved float32) {
	from, to := max(0, x-near), min(width-1, x+near)
	v := viewOf(d.rows[rows:], from)
	for at := from; at <= to; at++ {
		saved += d.bits.saved(v.at(at), lowest+at-(x-near), v.row[margin+at])
	}
	return saved
}

// pixelBits is how many bits a white and a black pixel take, by what template 0 sees of its neighbours.
type pixelBits [][2]float32

// saved is what a pixel takes less, when a bit of what it sees is the other one.
func (p pixelBits) saved(seen uint32, bit int, pixel uint8) float32 {
	return p[seen][pixel] - p[seen^1<<bit][pixel]
}

// pixelBitsOf estimates them by how often each is seen in a bitmap, in each of so many rows.
func pixelBitsOf(b *bilevel.Bitmap, rows int) pixelBits {
	counts := make([][2]int, len(more.contexts()))
	unseen := b.Width * (b.Height / rows)
	for at, seen := range seenIn(b, rows) {
		unseen--
		colour := 0
		if b.Black(at.X, at.Y) {
			colour = 1
		}
		counts[seen][colour]++
	}
	counts[0][0] += unseen
	const beforehand = 0.5 // of each colour, as if it had been seen
	taken := make(pixelBits, len(counts))
	for seen, n := range counts {
		taken[seen] = [2]float32{1, 1}
		if n != [2]int{} {
			white, black := float64(n[0])+beforehand, float64(n[1])+beforehand
			all := math.Log2(white + black)
			taken[seen] = [2]float32{float32(all - math.Log2(white)), float32(all - math.Log2(black))}
		}
	}
	return taken
}

// seenIn gives the pixels of the last of each so many rows of a bitmap, and what template 0 sees of their neighbours. It
// leaves out runs of white that sees nothing.
func seenIn(b *bilevel.Bitmap, rows int) iter.Seq2[image.Point, uint32] {
	return func(yield func(image.Point, uint32) bool) {
		seen := []pixels{newPixels(b.Width), newPixels(b.Width), newPixels(b.Width)}
		for y := rows - 1; y < b.Height; y += rows {
			for i := max(0, len(seen)-1-y); i < len(seen); i++ {
				seen[i].unpack(b.Row(y-len(seen)+1+i), b.Width)
			}
			v := viewOf(seen, 0)
			ink, around := newBlackAhead(v.row), newInkAround(v.above, v.above2, v.above[usualFirst.X:])
			for x := 0; x < b.Width; x++ {
				seen := v.at(x)
				if seen == 0 {
					if white := min(around.whiteFrom(x, b.Width), ink.from(x)-x); white > 1 {
						x += white - 1
						continue
					}
				}
				if !yield(image.Pt(x, y), seen) {
					return
				}
			}
		}
	}
}

// view is what template 0 sees of the neighbours of pixels in a row, one after the other.
type view struct {
	above2, above, row pixels
	two, one, here     uint32
}

// viewOf begins at a pixel of the third of some rows.
func viewOf(rows []pixels, x int) view {
	v := view{above2: rows[0], above: rows[1], row: rows[2]}
	v.two, v.one, v.here = v.above2.bits(x-2, x+2), v.above.bits(x-3, x+3), v.row.bits(x-4, x-1)
	return v
}

// bits are pixels from one on to another, without it.
func (p pixels) bits(from, to int) (all uint32) {
	for _, pixel := range p[margin+from : margin+to] {
		all = all<<1 | uint32(pixel)
	}
	return all
}

// at is what is seen of a pixel, after the one on its left.
func (v *view) at(x int) uint32 {
	ofTwo, ofOne, ofHere := more.masks()
	v.two = (v.two<<1 | uint32(v.above2[margin+x+2])) & ofTwo
	v.one = (v.one<<1 | uint32(v.above[margin+x+3])) & (ofOne<<1 | 1)
	v.here = (v.here<<1 | uint32(v.row[margin+x-1])) & ofHere
	return v.two<<(more.one+1+more.here) | v.one<<more.here | v.here
}
