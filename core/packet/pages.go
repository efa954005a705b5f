package packet

import (
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/message"
)

// MaxNote is the longest note on a page, in characters.
const MaxNote = 1000

// KeepOnly sets aside all pages but these.
type KeepOnly struct {
	Selected
}

func (KeepOnly) apply(p *Packet, ids []PageID, known Known) (message.Text, error) {
	kept, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	on := p.affected(kept)
	var others []PageID
	for _, page := range p.Pages() {
		if !kept[page.ID] {
			others = append(others, page.ID)
		}
	}
	if len(others) > 0 {
		_, err = SetAside{}.apply(p, others, known)
	}
	return message.Of("Kept %s and set aside %d", on, len(others)), err
}

// Duplicate puts a double after each page. Notes are not doubled.
type Duplicate struct {
	Selected
}

func (Duplicate) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	on := p.affected(wanted)
	err = p.eachBecomes(wanted, func(page Page) ([]Page, error) {
		if page.IsMade() {
			return nil, errMadeTwice
		}
		return []Page{page, p.double(page)}, nil
	})
	if err != nil {
		return message.Text{}, err
	}
	return message.Of("Duplicated %s", on), nil
}

// The edges of a blank page, in points: from a stamp to A0.
const (
	smallestBlank = 28
	largestBlank  = 3400
)

// MaxBlank is how many blank pages are inserted at once at most.
const MaxBlank = 100

// InsertBlank puts blank pages at a destination.
type InsertBlank struct {
	Size  geometry.Size `json:"size" doc:"Points."`
	Count int           `json:"count,omitempty" minimum:"1" maximum:"100" doc:"How many; one where it is left out."`
	Destination
}

func (c InsertBlank) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	if !blankEdge(c.Size.Width) || !blankEdge(c.Size.Height) {
		return message.Text{}, message.Errorf("a blank page is between 10 mm and 1200 mm wide and high")
	}
	count := max(1, c.Count)
	if count > MaxBlank {
		return message.Text{}, message.Errorf("at most %d blank pages are inserted at once", MaxBlank)
	}
	blanks := make([]Page, count)
	for i := range blanks {
		blanks[i] = Page{ID: p.newPageID(), Upright: geometry.Size{Width: c.Size.Width, Height: c.Size.Height}}
	}
	if err := p.insert(blanks, c.Destination); err != nil {
		return message.Text{}, err
	}
	if count == 1 {
		return message.Of("Inserted a blank page %s", p.placeOf(blanks[0].ID)), nil
	}
	return message.Of("Inserted %d blank pages %s", count, p.placeOf(blanks[0].ID)), nil
}

func blankEdge(points float64) bool { return points >= smallestBlank && points <= largestBlank }

// Note leaves a note on pages; an empty one removes theirs.
type Note struct {
	Selected
	Title string `json:"title,omitempty"`
}

func (c Note) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	text := strings.TrimSpace(c.Title)
	if n := utf8.RuneCountInString(text); n > MaxNote {
		return message.Text{}, message.Errorf("a note has at most %d characters, this one has %d", MaxNote, n)
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Note = text
		return nil
	})
	if text == "" {
		return message.Of("Removed the note on %s", on), err
	}
	return message.Of("Left a note on %s", on), err
}

// Expect notes how many pages the packet should have; 0 is unknown.
type Expect struct {
	Count int `json:"count,omitempty"`
}

func (c Expect) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	if c.Count < 0 || c.Count > MaxTake {
		return message.Text{}, message.Errorf("a packet has between 0 and %d pages", MaxTake)
	}
	p.Expected = c.Count
	if c.Count == 0 {
		return message.Of("Removed the page count"), nil
	}
	return message.Of("Noted that there should be %s", CountPages(c.Count)), nil
}
