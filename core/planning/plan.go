package planning

import (
	"cmp"
	"slices"

	"dorbin/core/shrink"
)

// Target is how large a document may be.
type Target string

// The targets.
const (
	AsItIs  Target = ""        // pages go in as they are
	Smaller Target = "lighter" // nothing is lost that is seen at twice the size of the paper
	Fit     Target = "fit"     // the document is no larger than a limit
)

// Scope is how much has to be measured of a page for a target, which may have an override.
func (t Target) Scope(isOverridden bool) shrink.Scope {
	if t == Fit || isOverridden {
		return shrink.Fully
	}
	return shrink.LosslessOnly
}

// Page is what is known of a page of a document.
type Page struct {
	Bytes    int64            // as it is
	Fixed    bool             // it can be written in no other way
	Measured *shrink.Measured // how it can be written; nil while that was not measured
	Override shrink.Override  // what somebody decided for it
	Part     string           // pages of a part follow each other
}

// Candidates are what the page may be written as, from the largest to the smallest. They
// are estimated while it is not measured.
func (p Page) Candidates() []shrink.Candidate {
	switch {
	case p.Fixed:
		return []shrink.Candidate{shrink.AsItIs(p.Bytes)}
	case p.Measured == nil:
		return []shrink.Candidate{shrink.AsItIs(p.Bytes), p.estimate()}
	}
	return p.Measured.Allowed(p.Override)
}

// Smallest is the candidate of the fewest bytes.
func (p Page) Smallest() shrink.Candidate { return smallest(p.Candidates()) }

func smallest(candidates []shrink.Candidate) shrink.Candidate {
	return slices.MinFunc(candidates, func(a, b shrink.Candidate) int { return cmp.Compare(a.Bytes, b.Bytes) })
}

// smaller is what the page is written as where nothing is to be lost that is seen.
func (p Page) smaller() shrink.Candidate {
	switch {
	case p.Fixed:
		return shrink.AsItIs(p.Bytes)
	case p.Measured == nil:
		return p.estimate()
	}
	return p.Measured.Smaller(p.Override)
}

const (
	usualShare = 0.2  // of its bytes, that most pictures of pages can do with
	usualLoss  = 0.02 // that this costs
)

func (p Page) estimate() shrink.Candidate {
	c := shrink.AsItIs(int64(usualShare * float64(p.Bytes)))
	c.Loss = usualLoss
	return c
}

// Choose gives the candidate as which each page is written, and whether all of them together
// have no more bytes than the limit. Only Fit has a limit.
func Choose(pages []Page, target Target, limit int64) (chosen []shrink.Candidate, fits bool) {
	chosen = make([]shrink.Candidate, len(pages))
	if target == Fit {
		candidates := make([][]shrink.Candidate, len(pages))
		for i, page := range pages {
			candidates[i] = page.Candidates()
		}
		indexes, fits := shrink.ChooseWithinBudget(candidates, limit)
		for i, index := range indexes {
			chosen[i] = candidates[i][index]
		}
		return chosen, fits
	}
	for i, page := range pages {
		if chosen[i] = shrink.AsItIs(page.Bytes); target == Smaller {
			chosen[i] = page.smaller()
		}
	}
	return chosen, true
}

// Overhead is about what a document has in bytes besides its pages.
const Overhead = 2000

// Files tells into about how many files pages are split that are written as chosen, where each
// file is to be under the limit; 0 where a page alone is not.
func Files(pages []Page, chosen []shrink.Candidate, limit int64) int {
	var parts [][]int64
	for i, page := range pages {
		bytes := chosen[i].Bytes
		if bytes > limit-Overhead {
			return 0
		}
		if i == 0 || page.Part != pages[i-1].Part {
			parts = append(parts, nil)
		}
		parts[len(parts)-1] = append(parts[len(parts)-1], bytes)
	}
	return len(SplitBySize(parts, limit-Overhead))
}
