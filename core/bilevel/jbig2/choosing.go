package jbig2

import (
	"encoding/binary"
	"hash/fnv"
	"math"
	"slices"
)

// symbolsOf finds the symbols of pages, and decides which components are written as which. A component becomes whatever takes
// the fewest bits. These are estimated from how often a pixel is black among the same neighbours.
func symbolsOf(found [][]instance) *symbolSet {
	set := firstSymbols(found)
	set.drop(func(s *symbol) bool { return s.uses < 2 })
	average(found)
	onAllCores(len(found), func(page int) {
		for i := range found[page] {
			in := &found[page][i]
			if in.nearest, in.match = set.nearest(in.shape), (match{}); len(in.nearest) > 0 {
				in.match = in.nearest[0]
			}
		}
	})
	set.count(found)
	const rounds = 2
	for range rounds {
		costs := set.learn(found)
		onAllCores(len(found), func(page int) { costs.chooseAmong(found[page]) })
		set.count(found)
		average(found)
	}
	generic := genericCosts(found)
	set.addRepeated(found, generic)
	set.leaveOut(found, generic)
	makeRoom(found)
	return set
}

// drop takes symbols out of the set.
func (s *symbolSet) drop(isDropped func(*symbol) bool) {
	kept := newSymbolSet()
	for _, symbol := range s.all {
		if !isDropped(symbol) {
			kept.add(symbol)
		}
	}
	s.bySize, s.all = kept.bySize, kept.all
}

// count counts how often each symbol is used.
func (s *symbolSet) count(found [][]instance) {
	for _, symbol := range s.all {
		symbol.uses = 0
	}
	for _, instances := range found {
		for _, in := range instances {
			if in.symbol != nil {
				in.symbol.uses++
			}
		}
	}
}

// learn estimates what pixels take that are refined from symbols, as these are now. It unpacks the symbols.
func (s *symbolSet) learn(found [][]instance) *costs {
	for _, symbol := range s.all {
		symbol.grid = new(workspace).unpack(symbol.shape)
	}
	refined, instances := make([]*tally, len(found)), make([]int, len(found))
	onAllCores(len(found), func(page int) {
		refined[page] = &tally{}
		var w workspace
		for _, in := range found[page] {
			if in.symbol == nil {
				continue
			}
			instances[page]++
			if in.symbol.uses > 1 && !in.isExactly(in.shape) {
				refined[page].add(w.refined(w.unpack(in.shape), in.match))
			}
		}
	})
	c := &costs{refined: bitsOf(refined)}
	for _, n := range instances {
		c.instances += n
	}
	return c
}

// genericCosts estimates what pixels take that are not written as symbols.
func genericCosts(found [][]instance) bitCosts {
	generic := make([]*tally, len(found))
	onAllCores(len(found), func(page int) {
		generic[page] = &tally{}
		var w workspace
		for _, in := range found[page] {
			generic[page].add(w.generic(w.unpack(in.shape)))
		}
	})
	return bitsOf(generic)
}

// chooseAmong gives each instance the one of its nearest symbols that takes the fewest bits.
func (c *costs) chooseAmong(instances []instance) {
	var w workspace
	for i := range instances {
		in := &instances[i]
		if len(in.nearest) < 2 {
			continue
		}
		pixels, least := w.unpack(in.shape), cost(math.MaxInt)
		for _, m := range in.nearest {
			if m.symbol.uses == 0 {
				continue
			}
			if bits := c.asSymbol(&w, in.shape, pixels, m); bits < least {
				in.match, least = m, bits
			}
		}
	}
}

// asSymbol is what a shape takes as a symbol.
func (c *costs) asSymbol(w *workspace, of shape, pixels grid, m match) cost {
	bits := placed + costOf(float64(m.symbol.uses)/float64(c.instances))
	if m.isExactly(of) {
		return bits
	}
	return bits + c.refined.of(w.refined(pixels, m))
}

// asItIs is what a shape takes that is left where it is, or stands in the dictionary.
func (c *costs) asItIs(w *workspace, pixels grid) cost {
	return c.generic.of(w.generic(pixels)) / 10 * rareTakesMore
}

const (
	placed        = 12 * oneBit // where an instance lies, and whether it is its symbol
	sized         = 6 * oneBit  // how large a symbol is
	rareTakesMore = 11          // tenths, of the estimate: a coder learns less from the few that are left
)

// addRepeated makes symbols of shapes that come again exactly, as in print that was never on paper, where that takes fewer
// bits than to refine each.
func (s *symbolSet) addRepeated(found [][]instance, generic bitCosts) {
	c := s.learn(found)
	c.generic = generic
	var w workspace
	for _, same := range repeated(found) {
		shape, pixels := same[0].shape, w.unpack(same[0].shape)
		refined := c.asSymbol(&w, shape, pixels, same[0].match)
		exactly := placed + costOf(float64(len(same))/float64(c.instances))
		if cost(len(same))*(refined-exactly) <= c.asItIs(&w, pixels)+sized {
			continue
		}
		added := s.add(&symbol{shape: shape})
		for _, in := range same {
			in.match = match{symbol: added}
		}
	}
	s.count(found)
}

// repeated gives the instances that are not exactly their symbol, but exactly as others that are not.
func repeated(found [][]instance) (groups [][]*instance) {
	byHash := map[uint64]int{}
	for _, instances := range found {
		for i := range instances {
			in := &instances[i]
			if in.symbol == nil || in.isExactly(in.shape) {
				continue
			}
			hash := in.shape.hash()
			at, isKnown := byHash[hash]
			if !isKnown {
				byHash[hash] = len(groups)
				groups = append(groups, []*instance{in})
			} else if groups[at][0].shape.isSame(in.shape) {
				groups[at] = append(groups[at], in)
			}
		}
	}
	return slices.DeleteFunc(groups, func(group []*instance) bool { return len(group) < 2 })
}

// hash is nearly always another for another shape.
func (s shape) hash() uint64 {
	hash := fnv.New64a()
	var word [8]byte
	for _, row := range s.rows {
		for _, some := range row {
			binary.LittleEndian.PutUint64(word[:], some)
			_, _ = hash.Write(word[:]) // it does not fail
		}
	}
	return hash.Sum64()
}

// leaveOut takes the symbols from those instances that need fewer bits without one, and drops symbols that save less than
// they take in the dictionary.
func (s *symbolSet) leaveOut(found [][]instance, generic bitCosts) {
	c := s.learn(found)
	c.generic = generic
	saved := make([]map[*symbol]cost, len(found))
	onAllCores(len(found), func(page int) {
		saved[page] = map[*symbol]cost{}
		var w workspace
		for i := range found[page] {
			in := &found[page][i]
			if in.symbol == nil {
				continue
			}
			pixels := w.unpack(in.shape)
			asSymbol, asItIs := c.asSymbol(&w, in.shape, pixels, in.match), c.asItIs(&w, pixels)
			if asSymbol < asItIs {
				saved[page][in.symbol] += asItIs - asSymbol
			} else {
				in.match = match{}
			}
		}
	})
	s.count(found)
	var w workspace
	s.drop(func(symbol *symbol) bool {
		saves := -c.asItIs(&w, symbol.grid) - sized
		for _, page := range saved {
			saves += page[symbol]
		}
		if saves < 0 {
			symbol.uses = 0
			return true
		}
		s.saves += saves
		return false
	})
	for _, instances := range found {
		for i := range instances {
			if in := &instances[i]; in.symbol != nil && in.symbol.uses == 0 {
				in.match = match{}
			}
		}
	}
}

// makeRoom gives each symbol room for all its instances. So all are of its size, and no size or shift is written for any.
func makeRoom(found [][]instance) {
	for _, instances := range found {
		for _, in := range instances {
			if in.symbol == nil {
				continue
			}
			inner, outer, room := in.symbolBox(), in.component.Box, &in.symbol.room
			room.left, room.top = max(room.left, inner.Min.X-outer.Min.X), max(room.top, inner.Min.Y-outer.Min.Y)
			room.right, room.bottom = max(room.right, outer.Max.X-inner.Max.X), max(room.bottom, outer.Max.Y-inner.Max.Y)
		}
	}
}
