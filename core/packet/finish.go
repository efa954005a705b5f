package packet

import (
	"errors"
	"fmt"
	"strings"

	"dorbin/core/finish"
)

// Finish changes what is added to the document. A section that is nil stays as it is.
type Finish struct {
	Numbers    *finish.Numbers    `json:"numbers,omitempty"`
	Header     *finish.Line       `json:"header,omitempty"`
	Footer     *finish.Line       `json:"footer,omitempty"`
	Properties *finish.Properties `json:"properties,omitempty"`
	Opening    *finish.Opening    `json:"opening,omitempty"`
}

func (c Finish) apply(p *Packet, _ []PageID, _ Known) (string, error) {
	before, given := p.Finish, finish.Finish{}
	var words []string
	if c.Numbers != nil {
		words = append(words, changeWords("page numbers", before.Numbers.On, c.Numbers.On))
		p.Finish.Numbers, given.Numbers = *c.Numbers, *c.Numbers
		if _, err := p.skipped(); err != nil {
			return "", fmt.Errorf("pages without a number: %w", err)
		}
	}
	if c.Header != nil {
		words = append(words, changeWords("the header", before.Header.On, c.Header.On))
		p.Finish.Header, given.Header = *c.Header, *c.Header
	}
	if c.Footer != nil {
		words = append(words, changeWords("the footer", before.Footer.On, c.Footer.On))
		p.Finish.Footer, given.Footer = *c.Footer, *c.Footer
	}
	if c.Properties != nil {
		words = append(words, changeWords("properties", before.Properties.On, c.Properties.On))
		p.Finish.Properties, given.Properties = *c.Properties, *c.Properties
	}
	if c.Opening != nil {
		words = append(words, changeWords("“How it opens”", before.Opening.On, c.Opening.On))
		p.Finish.Opening, given.Opening = *c.Opening, *c.Opening
	}
	if len(words) == 0 {
		return "", errors.New("nothing is said of what is added to the document")
	}
	return strings.Join(words, ", "), given.Check(p.PageCount())
}

func changeWords(what string, was, is bool) string {
	switch {
	case is && !was:
		return "Switched on " + what
	case was && !is:
		return "Switched off " + what
	}
	return "Changed " + what
}

// skipped are the pages that get no number.
func (p Packet) skipped() (map[PageID]bool, error) {
	skipped := map[PageID]bool{}
	if strings.TrimSpace(p.Finish.Numbers.Skip) == "" {
		return skipped, nil
	}
	ids, err := ParseSelection(p.Finish.Numbers.Skip, p, Known{})
	for _, id := range ids {
		skipped[id] = true
	}
	return skipped, err
}

// FinishPages are the pages of the packet as what is added to them sees them. Pages that were to
// be skipped and are gone are none.
func (p Packet) FinishPages() []finish.Page {
	skipped, err := p.skipped()
	if err != nil {
		skipped = nil
	}
	pages := make([]finish.Page, 0, p.PageCount())
	for _, part := range p.Parts {
		for i, page := range part.Pages {
			pages = append(pages, finish.Page{Size: page.Size(), Part: part.Title, Begins: i == 0, Skipped: skipped[page.ID]})
		}
	}
	return pages
}
