package packet

import (
	"strings"

	"dorbin/core/finish"
	"dorbin/core/message"
)

// Finish changes what is added to the document. A section that is nil stays as it is.
type Finish struct {
	Cover      *finish.Cover      `json:"cover,omitempty"`
	Contents   *finish.Contents   `json:"contents,omitempty"`
	Sheets     *finish.Sheets     `json:"sheets,omitempty"`
	Numbers    *finish.Numbers    `json:"numbers,omitempty"`
	Header     *finish.Line       `json:"header,omitempty"`
	Footer     *finish.Line       `json:"footer,omitempty"`
	Watermark  *finish.Watermark  `json:"watermark,omitempty"`
	Letterhead *finish.Letterhead `json:"letterhead,omitempty"`
	Bookmarks  *finish.Bookmarks  `json:"bookmarks,omitempty"`
	Properties *finish.Properties `json:"properties,omitempty"`
	Opening    *finish.Opening    `json:"opening,omitempty"`
	Protection *finish.Protection `json:"protection,omitempty"`
}

func (c Finish) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	var words []message.Text
	for _, section := range c.sections(&p.Finish) {
		if section.given {
			words = append(words, changeWords(section.name, section.was, section.is))
			section.set()
		}
	}
	if len(words) == 0 {
		return message.Text{}, message.Errorf("nothing is said of what is added to the document")
	}
	// What is not changed may be of pages that are gone: that is no reason to refuse the change.
	given := Packet{Parts: p.Parts} // with what is given alone
	for _, section := range c.sections(&given.Finish) {
		section.set()
	}
	if err := given.checkSkipped(); err != nil {
		return message.Text{}, err
	}
	return message.Commas(words...), given.Finish.Check(p.PageCount())
}

// section is a section of what is added that a command may change.
type section struct {
	name    message.Text
	given   bool
	was, is bool // switched on
	set     func()
}

func (c Finish) sections(f *finish.Finish) []section {
	return []section{
		sectionOf(message.Of("the cover"), &f.Cover, c.Cover, func(s finish.Cover) bool { return s.On }),
		sectionOf(message.Of("the contents"), &f.Contents, c.Contents, func(s finish.Contents) bool { return s.On }),
		sectionOf(message.Of("part sheets"), &f.Sheets, c.Sheets, func(s finish.Sheets) bool { return s.On }),
		sectionOf(message.Of("page numbers"), &f.Numbers, c.Numbers, func(s finish.Numbers) bool { return s.On }),
		sectionOf(message.Of("the header"), &f.Header, c.Header, func(s finish.Line) bool { return s.On }),
		sectionOf(message.Of("the footer"), &f.Footer, c.Footer, func(s finish.Line) bool { return s.On }),
		sectionOf(message.Of("the watermark"), &f.Watermark, c.Watermark, func(s finish.Watermark) bool { return s.On }),
		sectionOf(message.Of("the letterhead"), &f.Letterhead, c.Letterhead, func(s finish.Letterhead) bool { return s.On }),
		sectionOf(message.Of("bookmarks"), &f.Bookmarks, c.Bookmarks, func(s finish.Bookmarks) bool { return s.On || s == finish.Bookmarks{} }), // unless said otherwise
		sectionOf(message.Of("properties"), &f.Properties, c.Properties, func(s finish.Properties) bool { return s.On }),
		sectionOf(message.Of("“How it opens”"), &f.Opening, c.Opening, func(s finish.Opening) bool { return s.On }),
		sectionOf(message.Of("protection"), &f.Protection, c.Protection, func(s finish.Protection) bool { return s.On }),
	}
}

func sectionOf[T any](name message.Text, now, given *T, on func(T) bool) section {
	if given == nil {
		return section{set: func() {}}
	}
	return section{name, true, on(*now), on(*given), func() { *now = *given }}
}

func changeWords(what message.Text, was, is bool) message.Text {
	switch {
	case is && !was:
		return message.Of("Switched on %s", what)
	case was && !is:
		return message.Of("Switched off %s", what)
	}
	return message.Of("Changed %s", what)
}

type skip struct {
	of    message.Text
	words string
}

// skips are the selections of pages that are left out.
func (p Packet) skips() []skip {
	f := p.Finish
	return []skip{
		{message.Of("page numbers"), f.Numbers.Skip},
		{message.Of("the header"), f.Header.Skip},
		{message.Of("the footer"), f.Footer.Skip},
		{message.Of("part sheets"), f.Sheets.Skip},
		{message.Of("the watermark"), f.Watermark.Only},
		{message.Of("the letterhead"), f.Letterhead.Only},
	}
}

func (p Packet) checkSkipped() error {
	for _, skip := range p.skips() {
		if _, err := p.inWords(skip.words); err != nil {
			return message.Errorf("pages of %s: %s", skip.of, err)
		}
	}
	return nil
}

// inWords are the pages of a selection; none where it is empty.
func (p Packet) inWords(words string) (map[PageID]bool, error) {
	selected := map[PageID]bool{}
	if strings.TrimSpace(words) == "" {
		return selected, nil
	}
	ids, err := ParseSelection(words, p, Known{})
	for _, id := range ids {
		selected[id] = true
	}
	return selected, err
}

// orNone are the pages of a selection. Pages that were meant and are gone are none.
func (p Packet) orNone(words string) map[PageID]bool {
	selected, err := p.inWords(words)
	if err != nil {
		return nil
	}
	return selected
}

// PageFacts are what is known of pages besides their state. A function may be nil.
type PageFacts struct {
	Printed  func(Page) bool     // whether it has a page number in its text
	Headings func(Page) []string // the titles of its document's bookmarks that open it
}

// FinishPages are the pages of the packet as what is added to them sees them.
func (p Packet) FinishPages(facts PageFacts) []finish.Page {
	f := p.Finish
	printed, headings := facts.Printed, facts.Headings
	if printed == nil {
		printed = func(Page) bool { return false }
	}
	if headings == nil {
		headings = func(Page) []string { return nil }
	}
	number, header, footer := p.orNone(f.Numbers.Skip), p.orNone(f.Header.Skip), p.orNone(f.Footer.Skip)
	watermark, letterhead := p.only(f.Watermark.Only), p.only(f.Letterhead.Only)
	annexes, elsewhere := p.annexes(), setOfIDs[PageID](f.Numbers.Elsewhere)
	pages := make([]finish.Page, 0, p.PageCount())
	for i, part := range p.Parts {
		for j, page := range part.Pages {
			pages = append(pages, finish.Page{
				Size: page.Size(), Part: part.Title, Begins: j == 0, Made: page.Made, Annex: annexes[i], Elsewhere: elsewhere[page.ID], Headings: headings(page),
				Without: finish.Without{
					Number: number[page.ID] || f.Numbers.Printed && printed(page), Header: header[page.ID], Footer: footer[page.ID], Watermark: !watermark(page.ID), Letterhead: !letterhead(page.ID),
				},
			})
		}
	}
	return pages
}

// only tells of the pages of a selection; of all where it is empty.
func (p Packet) only(words string) func(PageID) bool {
	selected, all := p.orNone(words), strings.TrimSpace(words) == ""
	return func(id PageID) bool { return all || selected[id] }
}

// annexes counts the parts that have a sheet or a label, by their places; others are 0.
func (p Packet) annexes() []int {
	skipped, without := p.orNone(p.Finish.Sheets.Skip), p.withoutSheet()
	annexes, count := make([]int, len(p.Parts)), 0
	for i, part := range p.Parts {
		if first, ok := part.firstGiven(); ok && !skipped[first.ID] && !(p.Finish.Sheets.WantsSheets() && without[part.ID]) {
			count++
			annexes[i] = count
		}
	}
	return annexes
}
