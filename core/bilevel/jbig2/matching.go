package jbig2

import (
	"math/bits"

	"dorbin/core/bilevel"
)

// match is a symbol that a shape is like, and where it lies then.
type match struct {
	symbol       *symbol
	right, below int // of the shape's bottom left, where the symbol's lies
	exact        bool
}

// differs counts the pixels in which two shapes differ, up to a limit, where the other lies so much right of the
// bottom left of the first, and below it.
func (s shape) differs(o shape, right, below, most int) int {
	n := 0
	for i := min(0, -below); i < max(s.height, o.height-below); i++ {
		a, b := s.fromBottom(i), o.fromBottom(i+below)
		switch {
		case right > 0:
			b = [2]uint64{b[0] >> right, b[1]>>right | b[0]<<(64-right)}
		case right < 0:
			// What comes to lie left of the first shape differs as well.
			n += bits.OnesCount64(b[0] >> (64 + right))
			b = [2]uint64{b[0]<<-right | b[1]>>(64+right), b[1] << -right}
		}
		n += bits.OnesCount64(a[0]^b[0]) + bits.OnesCount64(a[1]^b[1])
		if n > most {
			return n
		}
	}
	return n
}

func (s shape) fromBottom(i int) [2]uint64 {
	if i < 0 || i >= s.height {
		return [2]uint64{}
	}
	return s.rows[s.height-1-i]
}

// symbolSet finds the symbols of pages.
type symbolSet struct {
	bySize map[[2]int][]*symbol
	all    []*symbol
}

func newSymbolSet() *symbolSet { return &symbolSet{bySize: map[[2]int][]*symbol{}} }

func (s *symbolSet) add(of shape, bitmap *bilevel.Bitmap) *symbol {
	added := &symbol{shape: of, bitmap: bitmap}
	size := [2]int{of.width, of.height}
	s.bySize[size] = append(s.bySize[size], added)
	s.all = append(s.all, added)
	return added
}

// find gives the symbol that is most like a shape; none where none is alike.
func (s *symbolSet) find(wanted shape) (found match) {
	best := int(unlike*float64(wanted.area)) + 1
	for dw := -1; dw <= 1; dw++ {
		for dh := -1; dh <= 1; dh++ {
			for _, other := range s.bySize[[2]int{wanted.width + dw, wanted.height + dh}] {
				best = found.consider(wanted, other, best)
			}
		}
	}
	return found
}

// shifts are the places that a symbol is tried in: a pixel more on one side of a shape puts all others beside their
// places.
var shifts = [...][2]int{{0, 0}, {-1, 0}, {1, 0}, {0, -1}, {0, 1}, {-1, -1}, {1, -1}, {-1, 1}, {1, 1}}

// atMost is how many times as many pixels differ where a symbol lies a pixel beside its place.
const atMost = 4

// consider takes a symbol that differs from a shape in fewer pixels than the best so far, and gives in how many the
// best does.
func (m *match) consider(wanted shape, other *symbol, best int) int {
	if wanted.differs(other.shape, 0, 0, atMost*best) > atMost*best {
		return best // a pixel beside it is no better
	}
	for _, at := range shifts {
		if n := wanted.differs(other.shape, at[0], at[1], best-1); n < best {
			best = n
			isOfSize := other.width == wanted.width && other.height == wanted.height
			*m = match{other, at[0], at[1], n == 0 && at == shifts[0] && isOfSize}
		}
	}
	return best
}

// firstSymbols matches instances with those that came before and are like them. Those that are like none are symbols.
func firstSymbols(found [][]instance) *symbolSet {
	set := newSymbolSet()
	for _, instances := range found {
		for i := range instances {
			in := &instances[i]
			wanted := shapeOf(in.component)
			if in.match = set.find(wanted); in.symbol == nil {
				in.match = match{symbol: set.add(wanted, in.component.Bitmap()), exact: true}
			}
			in.symbol.uses++
		}
	}
	return set
}

// averaged makes, of the symbols that several instances are like, those that have the pixels that most of the instances
// have: what one has by chance is not coded as a difference of all others.
func averaged(set *symbolSet, found [][]instance) *symbolSet {
	counts := map[*symbol][]int{}
	for _, instances := range found {
		for _, in := range instances {
			if counts[in.symbol] == nil {
				counts[in.symbol] = make([]int, in.symbol.width*in.symbol.height)
			}
			in.addTo(counts[in.symbol])
		}
	}
	out := newSymbolSet()
	for _, of := range set.all {
		if of.uses > 1 {
			out.add(of.majority(counts[of]))
		}
	}
	return out
}

// addTo counts the pixels of an instance that lie on its symbol.
func (in instance) addTo(counts []int) {
	box := in.component.Box
	for _, r := range in.component.Runs {
		y := r.Y - box.Max.Y + in.symbol.height - in.below
		if y < 0 || y >= in.symbol.height {
			continue
		}
		left := box.Min.X + in.right
		for x := max(0, r.From-left); x < min(in.symbol.width, r.To-left); x++ {
			counts[y*in.symbol.width+x]++
		}
	}
}

// majority gives the pixels that more than half of a symbol's instances have.
func (s *symbol) majority(counts []int) (shape, *bilevel.Bitmap) {
	of := shape{width: s.width, height: s.height, rows: make([][2]uint64, s.height)}
	bitmap := bilevel.New(s.width, s.height)
	for i, n := range counts {
		if 2*n > s.uses {
			x, y := i%s.width, i/s.width
			bitmap.Set(x, y)
			of.set(x, y)
			of.area++
		}
	}
	return of, bitmap
}

// matchAll finds the symbol that each instance is most like. One that is like none has a symbol of its own, which is not in
// the set.
func (s *symbolSet) matchAll(found [][]instance) {
	for _, instances := range found {
		for i := range instances {
			in := &instances[i]
			if in.match = s.find(shapeOf(in.component)); in.symbol == nil {
				in.symbol = &symbol{}
			}
			in.symbol.uses++
		}
	}
}
