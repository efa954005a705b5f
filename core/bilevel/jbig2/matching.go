package jbig2

import (
	"iter"
	"math/bits"
	"slices"
)

// Shapes are alike when at most this share of their pixels differs. What differs is coded, so these decide about bytes
// alone, and about time.
const (
	sameSymbol  = 0.16 // of what makes one symbol
	couldBeSame = 0.36 // of what may be written as it, if that takes fewer bits
)

// match is a symbol that a shape is like, and where it lies then.
type match struct {
	symbol       *symbol
	right, below int // of the shape's bottom left, where the symbol's lies
}

// isExactly tells whether a shape is the symbol, pixel by pixel.
func (m match) isExactly(s shape) bool {
	return m.right == 0 && m.below == 0 && s.isSame(m.symbol.shape)
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
	saves  cost // about, against pages without symbols
}

func newSymbolSet() *symbolSet { return &symbolSet{bySize: map[[2]int][]*symbol{}} }

func (s *symbolSet) add(added *symbol) *symbol {
	size := [2]int{added.width, added.height}
	s.bySize[size] = append(s.bySize[size], added)
	s.all = append(s.all, added)
	return added
}

// likely goes through the symbols that are as large as a shape, but for a pixel.
func (s *symbolSet) likely(wanted shape) iter.Seq[*symbol] {
	return func(yield func(*symbol) bool) {
		for dw := -1; dw <= 1; dw++ {
			for dh := -1; dh <= 1; dh++ {
				for _, symbol := range s.bySize[[2]int{wanted.width + dw, wanted.height + dh}] {
					if !yield(symbol) {
						return
					}
				}
			}
		}
	}
}

// find gives the symbol that is most like a shape; none where none is the same.
func (s *symbolSet) find(wanted shape) (found match) {
	best := wanted.share(sameSymbol) + 1
	for symbol := range s.likely(wanted) {
		if m, n := wanted.lay(symbol, best); n < best {
			found, best = m, n
		}
	}
	return found
}

// share is a share of the shape's pixels.
func (s shape) share(of float64) int { return int(of * float64(s.area)) }

// mostNearest is for how many symbols it is worked out what a shape takes as each.
const mostNearest = 2

// nearest gives the symbols that are most like a shape, the most alike first.
func (s *symbolSet) nearest(wanted shape) []match {
	var found []match
	var differing []int
	most := wanted.share(couldBeSame) + 1
	for symbol := range s.likely(wanted) {
		m, n := wanted.lay(symbol, most)
		if n >= most {
			continue
		}
		at := 0
		for at < len(differing) && differing[at] <= n {
			at++
		}
		found, differing = slices.Insert(found, at, m), slices.Insert(differing, at, n)
		if len(found) > mostNearest {
			found, differing = found[:mostNearest], differing[:mostNearest]
		}
		if len(found) == mostNearest {
			most = differing[mostNearest-1]
		}
	}
	return found
}

// shifts are the places that a symbol is tried in: a pixel more on one side of a shape puts all others beside their
// places.
var shifts = [...][2]int{{0, 0}, {-1, 0}, {1, 0}, {0, -1}, {0, 1}, {-1, -1}, {1, -1}, {-1, 1}, {1, 1}}

// besideIsWorse is how many times as many pixels differ, at most, where a symbol lies a pixel beside its place.
const besideIsWorse = 4

// lay puts a symbol where it differs from a shape in the fewest pixels, and tells in how many: in most, where it does not
// differ in fewer.
func (s shape) lay(symbol *symbol, most int) (best match, differing int) {
	if s.differs(symbol.shape, 0, 0, besideIsWorse*most) > besideIsWorse*most {
		return match{}, most
	}
	for _, at := range shifts {
		if n := s.differs(symbol.shape, at[0], at[1], most-1); n < most {
			best, most = match{symbol, at[0], at[1]}, n
		}
	}
	return best, most
}

// firstSymbols matches instances with those that came before and are the same. Those that are like none are symbols.
func firstSymbols(found [][]instance) *symbolSet {
	set := newSymbolSet()
	for _, instances := range found {
		for i := range instances {
			in := &instances[i]
			if in.match = set.find(in.shape); in.symbol == nil {
				in.match = match{symbol: set.add(&symbol{shape: in.shape})}
			}
			in.symbol.uses++
		}
	}
	return set
}

// average makes of each symbol what most of its instances have: what one has by chance is not coded as a difference of all
// others.
func average(found [][]instance) {
	counts := map[*symbol][]int{}
	for _, instances := range found {
		for _, in := range instances {
			if in.symbol == nil || in.symbol.uses < 2 {
				continue
			}
			if counts[in.symbol] == nil {
				counts[in.symbol] = make([]int, in.symbol.width*in.symbol.height)
			}
			in.addTo(counts[in.symbol])
		}
	}
	for symbol, counts := range counts {
		symbol.shape = symbol.majority(counts)
	}
}

// addTo counts the pixels of an instance that lie on its symbol.
func (i instance) addTo(counts []int) {
	box := i.symbolBox()
	for _, r := range i.component.Runs {
		if r.Y < box.Min.Y || r.Y >= box.Max.Y {
			continue
		}
		row := counts[(r.Y-box.Min.Y)*box.Dx():]
		for x := max(r.From, box.Min.X); x < min(r.To, box.Max.X); x++ {
			row[x-box.Min.X]++
		}
	}
}

// majority gives the pixels that more than half of a symbol's instances have.
func (s *symbol) majority(counts []int) shape {
	of := shape{width: s.width, height: s.height, rows: make([][2]uint64, s.height)}
	for i, n := range counts {
		if 2*n > s.uses {
			of.set(i%s.width, i/s.width)
			of.area++
		}
	}
	return of
}
