package planning

import (
	"cmp"
	"slices"

	"dorbin/core/shrink"
)

// Remedy is what would make a document smaller.
type Remedy struct {
	Page     int             // its index
	Bytes    int64           // of the page in the smallest plan
	Override shrink.Override // that would make it smaller
	Free     bool            // it would be smaller without the override that it has
	Saves    int64           // bytes that this saves; 0 where nothing does
	Fidelity float64         // share of what is on the page that would be there as before
}

const (
	mostRemedies  = 4
	worthTelling  = 0.1 // share of a page's bytes that a remedy saves at least
	leastFidelity = 0.9 // share of what is on the page that it leaves at least
)

// Remedies names the pages that save the most if something else is decided for them, and
// the largest page.
func Remedies(pages []Page) []Remedy {
	if len(pages) == 0 {
		return nil
	}
	all := make([]Remedy, len(pages))
	for i, page := range pages {
		all[i] = page.remedy()
		all[i].Page = i
	}
	slices.SortStableFunc(all, func(a, b Remedy) int {
		return cmp.Or(cmp.Compare(b.Saves, a.Saves), cmp.Compare(b.Bytes, a.Bytes))
	})
	largest := slices.MaxFunc(all, func(a, b Remedy) int { return cmp.Compare(a.Bytes, b.Bytes) })
	all = all[:min(len(all), mostRemedies)]
	if !slices.Contains(all, largest) {
		all[len(all)-1] = largest
	}
	return all
}

// remedy finds the override by which a page becomes the smallest.
func (p Page) remedy() Remedy {
	r := Remedy{Bytes: p.Smallest().Bytes}
	if p.Measured == nil {
		return r
	}
	for _, override := range []shrink.Override{shrink.Auto, shrink.InGrey, shrink.InBlack, shrink.AsPhoto} {
		if override == p.Override || !p.Measured.Can(override) {
			continue
		}
		c := smallest(p.Measured.Allowed(override))
		saves := r.Bytes - c.Bytes
		if saves > r.Saves && float64(saves) > worthTelling*float64(r.Bytes) && c.Fidelity >= leastFidelity {
			r.Override, r.Free, r.Saves, r.Fidelity = override, override == shrink.Auto, saves, c.Fidelity
		}
	}
	return r
}
