package packet

import (
	"cmp"
	"slices"

	"golang.org/x/text/collate"
	"golang.org/x/text/language"

	"dorbin/core/message"
)

// rearrange puts the named pages, given in packet order, into another order
// among the places that they have.
func (p *Packet) rearrange(ids []PageID, order func([]Page) []Page) (affected, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return affected{}, err
	}
	on := p.affected(wanted)
	var places []*Page
	pages := make([]Page, 0, len(wanted))
	for i := range p.Parts {
		for j := range p.Parts[i].Pages {
			if page := &p.Parts[i].Pages[j]; wanted[page.ID] {
				places = append(places, page)
				pages = append(pages, *page)
			}
		}
	}
	for i, page := range order(pages) {
		*places[i] = page
	}
	return on, nil
}

// Arrange puts pages in the order in which they are named, among the places that they have.
type Arrange struct {
	Selected
}

func (Arrange) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	on, err := p.rearrange(ids, func(pages []Page) []Page {
		place := make(map[PageID]int, len(ids))
		for i, id := range ids {
			place[id] = i
		}
		slices.SortFunc(pages, func(a, b Page) int { return cmp.Compare(place[a.ID], place[b.ID]) })
		return pages
	})
	return message.Of("Put %s in order", on), err
}

// Swap lets two pages change places.
type Swap struct {
	Selected
}

func (Swap) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if len(ids) != 2 {
		return message.Text{}, message.Errorf("two pages change places")
	}
	_, err := p.rearrange(ids, reversed)
	return message.Of("Swapped 2 pages"), err
}

// Reverse puts pages in reverse order, among the places that they have.
type Reverse struct {
	Selected
}

func (Reverse) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	on, err := p.rearrange(ids, reversed)
	return message.Of("Reversed the order of %s", on), err
}

func reversed(pages []Page) []Page {
	slices.Reverse(pages)
	return pages
}

// Interleave puts fronts and backs together that lie one run after the other.
type Interleave struct {
	Selected
	Backwards bool `json:"backwards,omitempty"` // the backs come from the last
}

func (c Interleave) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	on, err := p.rearrange(ids, func(pages []Page) []Page {
		fronts, backs := pages[:(len(pages)+1)/2], pages[(len(pages)+1)/2:]
		if c.Backwards {
			slices.Reverse(backs)
		}
		woven := make([]Page, 0, len(pages))
		for i, front := range fronts {
			woven = append(woven, front)
			if i < len(backs) {
				woven = append(woven, backs[i])
			}
		}
		return woven
	})
	return message.Of("Combined fronts and backs of %s", on), err
}

// Deal takes apart what Interleave puts together.
type Deal struct {
	Selected
	Backwards bool `json:"backwards,omitempty"` // the backs come from the last
}

func (c Deal) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	on, err := p.rearrange(ids, func(pages []Page) []Page {
		var odd, even []Page
		for i, page := range pages {
			if i%2 == 0 {
				odd = append(odd, page)
			} else {
				even = append(even, page)
			}
		}
		if c.Backwards {
			slices.Reverse(even)
		}
		return append(odd, even...)
	})
	return message.Of("Separated fronts and backs of %s", on), err
}

// Sort sorts pages by the names of their sources, in which 2 comes before 10, and by their numbers in
// them.
type Sort struct {
	Selected
}

func (Sort) apply(p *Packet, ids []PageID, known Known) (message.Text, error) {
	names := collate.New(language.Und, collate.Numeric, collate.IgnoreCase)
	on, err := p.rearrange(ids, func(pages []Page) []Page {
		slices.SortStableFunc(pages, func(a, b Page) int {
			one, _ := known.source(a.Source)
			other, _ := known.source(b.Source)
			return cmp.Or(
				names.CompareString(one.Name, other.Name),
				cmp.Compare(a.Source, b.Source),
				cmp.Compare(a.SourcePage, b.SourcePage),
			)
		})
		return pages
	})
	return message.Of("Sorted %s by name", on), err
}
