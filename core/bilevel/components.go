package bilevel

import (
	"encoding/binary"
	"image"
)

// Run is a horizontal run of black pixels, To excluded.
type Run struct{ Y, From, To int }

// Component is black pixels that hang together, also at their corners.
type Component struct {
	Box  image.Rectangle
	Area int // pixels
	Runs []Run
}

// Bitmap is the component on its own.
func (c Component) Bitmap() *Bitmap { return c.BitmapIn(c.Box) }

// BitmapIn is the component on its own in a box, which its own is within.
func (c Component) BitmapIn(box image.Rectangle) *Bitmap {
	b := New(box.Dx(), box.Dy())
	for _, r := range c.Runs {
		fill(b.Row(r.Y-box.Min.Y), r.From-box.Min.X, r.To-box.Min.X)
	}
	return b
}

// Erase makes a component's pixels white.
func (b *Bitmap) Erase(c Component) {
	for _, r := range c.Runs {
		row := b.Row(r.Y)
		for x := r.From; x < r.To; x++ {
			row[x>>3] &^= 0x80 >> (x & 7)
		}
	}
}

// Draw makes a component's pixels black.
func (b *Bitmap) Draw(c Component) {
	for _, r := range c.Runs {
		fill(b.Row(r.Y), r.From, r.To)
	}
}

// Thickened has all pixels of the bitmap and their eight neighbours.
func (b *Bitmap) Thickened() *Bitmap {
	wide := New(b.Width, b.Height)
	for y := range b.Height {
		widened(wide.Row(y), b.Row(y))
	}
	out := wide.Clone()
	for y := range b.Height {
		if y > 0 {
			addBits(out.Row(y), wide.Row(y-1))
		}
		if y+1 < b.Height {
			addBits(out.Row(y), wide.Row(y+1))
		}
	}
	out.clearPadding()
	return out
}

// widened has the bits of a row and those to their left and right, eight bytes at once where there are as
// many.
func widened(to, row []byte) {
	i := 0
	for ; i+8 <= len(row); i += 8 {
		v := binary.BigEndian.Uint64(row[i:])
		v |= v<<1 | v>>1
		if i > 0 {
			v |= uint64(row[i-1]) << 63
		}
		if i+8 < len(row) {
			v |= uint64(row[i+8] >> 7)
		}
		binary.BigEndian.PutUint64(to[i:], v)
	}
	for ; i < len(row); i++ {
		v := row[i] | row[i]<<1 | row[i]>>1
		if i > 0 {
			v |= row[i-1] << 7
		}
		if i+1 < len(row) {
			v |= row[i+1] >> 7
		}
		to[i] = v
	}
}

// addBits has a row have the bits of another, too.
func addBits(to, row []byte) {
	i := 0
	for ; i+8 <= len(row); i += 8 {
		binary.NativeEndian.PutUint64(to[i:], binary.NativeEndian.Uint64(to[i:])|binary.NativeEndian.Uint64(row[i:]))
	}
	for ; i < len(row); i++ {
		to[i] |= row[i]
	}
}

// Clone is a bitmap of its own.
func (b *Bitmap) Clone() *Bitmap {
	out := New(b.Width, b.Height)
	copy(out.Bits, b.Bits)
	return out
}

// Components finds what hangs together, row by row, in the order in which each begins.
func (b *Bitmap) Components() []Component {
	var runs []Run
	var parent []int // of each run
	find := func(i int) int {
		for parent[i] != i {
			parent[i] = parent[parent[i]]
			i = parent[i]
		}
		return i
	}
	aboveFrom, aboveTo := 0, 0 // the runs of the row above
	for y := range b.Height {
		first := len(runs)
		next := aboveFrom
		row := b.Row(y)
		for x := nextChange(row, 0, b.Width, false); x < b.Width; {
			end := nextChange(row, x, b.Width, true)
			this := len(runs)
			runs = append(runs, Run{y, x, end})
			parent = append(parent, this)
			for next > aboveFrom && runs[next-1].To >= x {
				next--
			}
			for ; next < aboveTo && runs[next].From <= end; next++ {
				if runs[next].To < x {
					continue
				}
				// The earlier run stays the root, so that the order is theirs.
				a, c := find(next), find(this)
				parent[max(a, c)] = min(a, c)
			}
			x = nextChange(row, end, b.Width, false)
		}
		aboveFrom, aboveTo = first, len(runs)
	}
	index := map[int]int{}
	var components []Component
	for i, r := range runs {
		root := find(i)
		at, known := index[root]
		if !known {
			at = len(components)
			index[root] = at
			components = append(components, Component{})
		}
		c := &components[at]
		c.Box = c.Box.Union(image.Rect(r.From, r.Y, r.To, r.Y+1))
		c.Area += r.To - r.From
		c.Runs = append(c.Runs, r)
	}
	return components
}
