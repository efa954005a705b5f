package shrink

import (
	"cmp"
	"math"
	"slices"
)

// Override is what somebody decided for a page.
type Override string

// The holds.
const (
	Auto       Override = ""           // the plan decides
	KeepAsItIs Override = "keep"       // it is not touched
	KeepColour Override = "colour"     // it is not made black and white
	InGrey     Override = "grey"       // it loses its colour
	InBlack    Override = "blackWhite" // it is made black and white, however it reads
	AsPhoto    Override = "photo"      // it is a JPEG, without layers
)

// Holds are all of them.
var Overrides = []Override{Auto, KeepAsItIs, KeepColour, InGrey, InBlack, AsPhoto}

// leastKept is the share of what is on a page, and of its words, that is kept of it by
// every encoding that is taken without asking.
const leastKept = 0.97

// reads tells whether a version reads as well as the page does.
func (v Candidate) reads() bool {
	return v.Fidelity >= leastKept && (v.Words == nil || *v.Words >= leastKept)
}

// Allowed gives the versions that may be chosen for a page, from the largest to the
// smallest; at least one.
func (m Measured) Allowed(override Override) []Candidate {
	var allowed []Candidate
	for _, v := range m.Candidates {
		if m.allows(v, override) {
			allowed = append(allowed, v)
		}
	}
	if len(allowed) == 0 {
		return m.Candidates[:1]
	}
	return allowed
}

// Holds are what can be decided for the page.
func (m Measured) Overrides() []Override {
	switch {
	case m.isOneBit():
		return []Override{KeepAsItIs}
	case m.Coloured:
		return []Override{KeepAsItIs, InGrey, InBlack}
	case m.Kind == ContinuousTone:
		return []Override{KeepAsItIs, InBlack}
	}
	return []Override{KeepAsItIs, KeepColour, InBlack, AsPhoto}
}

// Can tells whether anything was found that a hold allows.
func (m Measured) Can(override Override) bool {
	return slices.ContainsFunc(m.Candidates, func(v Candidate) bool { return m.allows(v, override) })
}

func (m Measured) allows(v Candidate, override Override) bool {
	if v.Grey != (override == InGrey) {
		return false
	}
	switch override {
	case KeepAsItIs:
		return v.Encoding == Original
	case InGrey:
		return v.reads()
	case InBlack:
		return v.Encoding == OneBit
	case AsPhoto:
		return (v.Encoding == Original || v.Encoding == Resized) && v.reads()
	case KeepColour:
		return (v.Encoding != OneBit || v.Loss == 0) && v.reads()
	}
	return (v.Encoding != OneBit || m.Kind == BlackText || m.Kind == Blank) && v.reads()
}

// Smaller gives the version by which nothing is lost that is seen at twice the size of
// the paper.
func (m Measured) Smaller(override Override) Candidate {
	allowed := m.Allowed(override)
	smallest := allowed[0]
	for _, v := range allowed {
		if (v.VisuallyLossless || override == InBlack) && v.Bytes < smallest.Bytes {
			smallest = v
		}
	}
	return smallest
}

// isOneBit tells whether the page has no levels between ink and paper as it is.
func (m Measured) isOneBit() bool {
	return slices.ContainsFunc(m.Candidates, func(v Candidate) bool { return v.Encoding == OneBit && v.Loss == 0 })
}

// ChooseWithinBudget chooses a version for each page, by its place in the page's list, so that all of
// them are no larger than the limit and lose the least together. Where that cannot be,
// it gives the smallest of each and does not fit.
//
// It is the multiple-choice knapsack problem (Kellerer, Pferschy and Pisinger 2004,
// chapter 11). A price of bytes tells what most pages come to; the few for which another
// version is nearly as good, up to corePages, are decided together by dynamic
// programming. Of no more pages than that the choice is the best there is.
func ChooseWithinBudget(pages [][]Candidate, limit int64) (chosen []int, fits bool) {
	chosen = make([]int, len(pages))
	least := int64(0)
	for i, candidates := range pages {
		chosen[i] = cheapest(candidates, math.Inf(1))
		least += candidates[chosen[i]].Bytes
	}
	if least > limit {
		return chosen, false
	}
	price := priceFor(pages, limit)
	room := limit
	for i, candidates := range pages {
		chosen[i] = cheapest(candidates, price)
		room -= candidates[chosen[i]].Bytes
	}
	core := undecided(pages, chosen, price)
	together := make([][]Candidate, len(core))
	for i, page := range core {
		together[i] = pages[page]
		room += pages[page][chosen[page]].Bytes
	}
	for i, candidate := range fitExactly(together, room) {
		chosen[core[i]] = candidate
	}
	return chosen, true
}

const corePages = 20

// priceFor finds the lowest price of a byte, in loss, at which pages fit that are each
// written by the version that is cheapest then.
func priceFor(pages [][]Candidate, limit int64) float64 {
	fits := func(price float64) bool {
		left := limit
		for _, candidates := range pages {
			left -= candidates[cheapest(candidates, price)].Bytes
		}
		return left >= 0
	}
	const highest, halvings = 1e3, 80
	low, high := 0.0, highest
	for range halvings {
		if middle := (low + high) / 2; fits(middle) {
			high = middle
		} else {
			low = middle
		}
	}
	return high
}

// cheapest gives the version with the least loss and bytes at a price; at an infinite
// one the smallest.
func cheapest(candidates []Candidate, price float64) int {
	best := 0
	for i, v := range candidates {
		b := candidates[best]
		difference := cmp.Compare(v.Loss+price*float64(v.Bytes), b.Loss+price*float64(b.Bytes))
		if math.IsInf(price, 1) {
			difference = cmp.Compare(v.Bytes, b.Bytes)
		}
		if cmp.Or(difference, cmp.Compare(v.Loss, b.Loss), cmp.Compare(v.Bytes, b.Bytes)) < 0 {
			best = i
		}
	}
	return best
}

// undecided gives the pages, by their places, for which another version would be the
// least dearer than what is chosen.
func undecided(pages [][]Candidate, chosen []int, price float64) []int {
	dearer := make([]float64, len(pages))
	order := make([]int, len(pages))
	for i, candidates := range pages {
		order[i], dearer[i] = i, math.Inf(1)
		cost := func(v Candidate) float64 { return v.Loss + price*float64(v.Bytes) }
		for j, v := range candidates {
			if j != chosen[i] {
				dearer[i] = math.Min(dearer[i], cost(v)-cost(candidates[chosen[i]]))
			}
		}
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(dearer[a], dearer[b]) })
	return order[:min(len(order), corePages)]
}

// fitExactly chooses the versions of few pages, which fit.
func fitExactly(pages [][]Candidate, limit int64) []int {
	rest := make([]int64, len(pages)+1) // what the pages from here on take up at least
	for i := len(pages) - 1; i >= 0; i-- {
		rest[i] = rest[i+1] + pages[i][cheapest(pages[i], math.Inf(1))].Bytes
	}
	layers := make([][]state, len(pages))
	states := []state{{}}
	for i, candidates := range pages {
		states = better(extend(states, candidates, limit-rest[i+1]))
		layers[i] = states
	}
	chosen := make([]int, len(pages))
	at := len(states) - 1 // the largest is the best
	for i := len(layers) - 1; i >= 0; i-- {
		s := layers[i][at]
		chosen[i], at = s.candidate, s.before
	}
	return chosen
}

// state is a choice for some of the pages.
type state struct {
	bytes             int64
	loss              float64
	candidate, before int // of the last page, and the place of the state without it
}

// mostStates bounds the time: of more, those of nearly the same size are made one.
const mostStates = 3000

func extend(states []state, candidates []Candidate, most int64) []state {
	extended := make([]state, 0, len(states)*len(candidates))
	for before, s := range states {
		for i, v := range candidates {
			if bytes := s.bytes + v.Bytes; bytes <= most {
				extended = append(extended, state{bytes, s.loss + v.Loss, i, before})
			}
		}
	}
	return extended
}

// better leaves the states that no other is smaller and better than, by size; of many
// of nearly the same size the best and the smallest.
func better(states []state) []state {
	slices.SortFunc(states, func(a, b state) int {
		return cmp.Or(cmp.Compare(a.bytes, b.bytes), cmp.Compare(a.loss, b.loss))
	})
	kept := states[:0]
	least := math.Inf(1)
	for _, s := range states {
		if s.loss < least {
			least = s.loss
			kept = append(kept, s)
		}
	}
	if len(kept) <= mostStates {
		return kept
	}
	return thinned(kept)
}

// thinned leaves states evenly over the sizes: in each stretch the best.
func thinned(states []state) []state {
	first, last := states[0].bytes, states[len(states)-1].bytes
	stretch := func(s state) int64 { return (s.bytes - first) * (mostStates / 2) / max(1, last-first+1) }
	var left []state
	for i, s := range states {
		isLast := i == len(states)-1 || stretch(states[i+1]) != stretch(s)
		isFirst := i == 0 || stretch(states[i-1]) != stretch(s)
		if isFirst || isLast {
			left = append(left, s)
		}
	}
	return left
}
