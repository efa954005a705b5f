package packet

import (
	"cmp"
	"errors"
	"fmt"
	"slices"

	"golang.org/x/text/collate"
	"golang.org/x/text/language"
)

// rearrange puts the named pages, given in packet order, into another order
// among the places that they have, and counts them.
func (p *Packet) rearrange(ids []PageID, order func([]Page) []Page) (int, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return 0, err
	}
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
	return len(pages), nil
}

// arrange puts pages in the order in which they are named.
func arrange(p *Packet, c Command, _ Known) (string, error) {
	n, err := p.rearrange(c.Pages, func(pages []Page) []Page {
		place := make(map[PageID]int, len(c.Pages))
		for i, id := range c.Pages {
			place[id] = i
		}
		slices.SortFunc(pages, func(a, b Page) int { return cmp.Compare(place[a.ID], place[b.ID]) })
		return pages
	})
	return fmt.Sprintf("Put %s in order", countPages(n)), err
}

func swap(p *Packet, c Command, _ Known) (string, error) {
	if len(c.Pages) != 2 {
		return "", errors.New("two pages change places")
	}
	_, err := p.rearrange(c.Pages, reversed)
	return "Swapped 2 pages", err
}

func reverse(p *Packet, c Command, _ Known) (string, error) {
	n, err := p.rearrange(c.Pages, reversed)
	return fmt.Sprintf("Reversed the order of %s", countPages(n)), err
}

func reversed(pages []Page) []Page {
	slices.Reverse(pages)
	return pages
}

// interleave puts fronts and backs together that lie one run after the other.
func interleave(p *Packet, c Command, _ Known) (string, error) {
	n, err := p.rearrange(c.Pages, func(pages []Page) []Page {
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
	return fmt.Sprintf("Put fronts and backs of %s together", countPages(n)), err
}

// deal takes apart what interleave puts together.
func deal(p *Packet, c Command, _ Known) (string, error) {
	n, err := p.rearrange(c.Pages, func(pages []Page) []Page {
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
	return fmt.Sprintf("Took fronts and backs of %s apart", countPages(n)), err
}

// sortByName sorts pages by the names of their sources, in which 2 comes before
// 10, and by their numbers in them.
func sortByName(p *Packet, c Command, known Known) (string, error) {
	names := collate.New(language.Und, collate.Numeric, collate.IgnoreCase)
	n, err := p.rearrange(c.Pages, func(pages []Page) []Page {
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
	return fmt.Sprintf("Sorted %s by name", countPages(n)), err
}
