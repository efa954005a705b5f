package packet

import (
	"maps"
	"reflect"
	"slices"
)

// Changes is what became of a packet since a document was made of it. Notes on pages and pages set
// aside are in no document.
type Changes struct {
	Pages  []PageID // that are not as they were, or are new, in their order
	Gone   int      // pages of the document that the packet has no longer
	Order  bool     // the pages that are in both follow each other otherwise
	Titles bool     // parts have other titles, or other pages
	Finish bool     // something else is added to the pages or to the document
}

// Any tells whether anything changed.
func (c Changes) Any() bool {
	return len(c.Pages) > 0 || c.Gone > 0 || c.Order || c.Titles || c.Finish
}

// Since tells how a packet differs from what it was when a document was made of it. Of a document of
// some pages alone, the pages that were left out are no news.
func (p Packet) Since(made Packet, isSelection bool) (c Changes) {
	before := map[PageID]Page{}
	for _, page := range made.Pages() {
		before[page.ID] = page
	}
	isInBoth := map[PageID]bool{}
	for _, page := range p.Pages() {
		was, isThere := before[page.ID]
		if isThere {
			isInBoth[page.ID] = true
		}
		if isThere && !was.looksLike(page) || !isThere && !isSelection {
			c.Pages = append(c.Pages, page.ID)
		}
	}
	c.Gone = len(before) - len(isInBoth)
	order, titles := p.inOrder(isInBoth)
	orderBefore, titlesBefore := made.inOrder(isInBoth)
	c.Order = !slices.Equal(order, orderBefore)
	c.Titles = !isSelection && !maps.Equal(titles, titlesBefore)
	c.Finish = !reflect.DeepEqual(made.Finish.OrDefaults(), p.Finish.OrDefaults())
	return c
}

// looksLike tells whether a page is the same in a document, with its text.
func (p Page) looksLike(o Page) bool {
	return p.Fingerprint() == o.Fingerprint() && reflect.DeepEqual(p.Corrected, o.Corrected)
}

// inOrder gives of some pages their order, and the titles of the parts that they are in.
func (p Packet) inOrder(some map[PageID]bool) (order []PageID, titles map[PageID]string) {
	titles = map[PageID]string{}
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			if some[page.ID] {
				order, titles[page.ID] = append(order, page.ID), part.Title
			}
		}
	}
	return order, titles
}
