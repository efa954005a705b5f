package packet

import (
	"fmt"
	"slices"
	"unicode/utf8"

	"dorbin/core/message"
)

// Split makes a part of pages, after the part in which they are.
type Split struct {
	Selected
	Title string `json:"title,omitempty"`
}

func (c Split) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	title, err := cleanTitle(c.Title)
	if err != nil {
		return message.Text{}, err
	}
	first, _, found := p.firstPosition(ids)
	if !found {
		return message.Text{}, message.Errorf("none of these pages is in a part")
	}
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	on := p.affected(wanted)
	pages, err := p.takePlaced(ids)
	if err != nil {
		return message.Text{}, err
	}
	part := Part{ID: p.newPartID(), Title: title, Pages: pages}
	p.Parts = slices.Insert(p.Parts, first+1, part)
	p.dropEmptyParts()
	return message.Count(on.count, "Made %s a part of its own", "Made %s a part of their own", on), nil
}

// RenamePart renames a part.
type RenamePart struct {
	Part  PartID `json:"part"`
	Title string `json:"title"`
}

func (c RenamePart) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	title, err := cleanTitle(c.Title)
	if err != nil {
		return message.Text{}, err
	}
	i := p.partIndex(c.Part)
	if i < 0 {
		return message.Text{}, message.Errorf("there is no part %s", c.Part)
	}
	p.Parts[i].Title = title
	return message.Of("Renamed a part to “%s”", title), nil
}

// Divide begins a part at each of the pages. One that begins a part already keeps it, and gives it a new
// title if there is one.
type Divide struct {
	Selected
	Titles []string `json:"titles,omitempty"`
}

func (c Divide) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	if len(c.Titles) > 0 && len(c.Titles) != len(ids) {
		return message.Text{}, message.Errorf("there are %d titles for %d parts", len(c.Titles), len(ids))
	}
	titles := map[PageID]string{}
	for i, title := range c.Titles {
		if titles[ids[i]], err = cleanTitle(title); err != nil {
			return message.Text{}, err
		}
	}
	before := len(p.Parts)
	var parts []Part
	for _, part := range p.Parts {
		parts = append(parts, p.divided(part, wanted, titles)...)
	}
	p.Parts = parts
	if len(parts) == before {
		return message.Of("Named %s", countParts(len(wanted))), nil
	}
	return message.Of("Split into %s more", countParts(len(parts)-before)), nil
}

func (p *Packet) divided(part Part, at map[PageID]bool, titles map[PageID]string) []Part {
	pieces := []Part{{ID: part.ID, Title: part.Title}}
	for i, page := range part.Pages {
		if at[page.ID] && i > 0 {
			title := numbered(part.Title, len(pieces)+1)
			pieces = append(pieces, Part{ID: p.newPartID(), Title: title})
		}
		piece := &pieces[len(pieces)-1]
		if title := titles[page.ID]; title != "" {
			piece.Title = title
		}
		piece.Pages = append(piece.Pages, page)
	}
	return pieces
}

// numbered is a title with a number behind it, short enough to be one.
func numbered(title string, n int) string {
	number := fmt.Sprintf(", %d", n)
	runes := []rune(title)
	return string(runes[:min(len(runes), MaxTitle-utf8.RuneCountInString(number))]) + number
}

// Join makes one part of several, where the first is.
type Join struct {
	Parts []PartID `json:"parts" nullable:"false"`
}

func (c Join) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	wanted := map[PartID]bool{}
	for _, id := range c.Parts {
		if p.partIndex(id) < 0 {
			return message.Text{}, message.Errorf("there is no part %q", id)
		}
		wanted[id] = true
	}
	if len(wanted) < 2 {
		return message.Text{}, message.Errorf("it takes two parts to join")
	}
	var parts []Part
	first := -1
	for _, part := range p.Parts {
		switch {
		case !wanted[part.ID]:
			parts = append(parts, part)
		case first < 0:
			first = len(parts)
			parts = append(parts, part)
		default:
			parts[first].Pages = append(parts[first].Pages, part.Pages...)
		}
	}
	p.Parts = parts
	return message.Of("Joined %s into “%s”", countParts(len(wanted)), parts[first].Title), nil
}

// MovePart moves a part to an index among the other parts.
type MovePart struct {
	Part PartID `json:"part"`
	At   int    `json:"at"`
}

func (c MovePart) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	i := p.partIndex(c.Part)
	if i < 0 {
		return message.Text{}, message.Errorf("there is no part %q", c.Part)
	}
	if c.At < 0 || c.At >= len(p.Parts) {
		return message.Text{}, message.Errorf("there is no such place among the parts")
	}
	part := p.Parts[i]
	p.Parts = slices.Insert(slices.Delete(p.Parts, i, i+1), c.At, part)
	return message.Of("Moved “%s”", part.Title), nil
}

// PartPerSource gathers all pages by source, in the order in which the sources first appear. A blank
// page stays with the page before it.
type PartPerSource struct{}

func (PartPerSource) apply(p *Packet, _ []PageID, known Known) (message.Text, error) {
	index := map[SourceID]int{}
	var last SourceID
	parts, pages := p.madeParts()
	madeParts := len(parts)
	for _, page := range pages {
		source := page.Source
		if page.IsBlank() {
			source = last
		}
		last = source
		i, ok := index[source]
		if !ok {
			i = len(parts)
			index[source] = i
			parts = append(parts, Part{ID: p.newPartID(), Title: sourceTitle(source, known)})
		}
		parts[i].Pages = append(parts[i].Pages, page)
	}
	if len(parts) == madeParts {
		return message.Text{}, message.Errorf("there are no pages")
	}
	p.Parts = parts
	return message.Of("Made %s, one for each file", countParts(len(parts)-madeParts)), nil
}

func sourceTitle(id SourceID, known Known) string {
	source, _ := known.source(id)
	title, err := cleanTitle(source.Title)
	if err != nil {
		return "Blank pages"
	}
	return title
}

func countParts(n int) message.Text { return message.Count(n, "%d part", "%d parts") }
