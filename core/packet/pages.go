package packet

import (
	"errors"
	"fmt"
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
)

// MaxNote is the longest note on a page, in characters.
const MaxNote = 1000

// KeepOnly sets aside all pages but these.
type KeepOnly struct {
	Selected
}

func (KeepOnly) apply(p *Packet, ids []PageID, known Known) (string, error) {
	kept, err := p.placedSet(ids)
	if err != nil {
		return "", err
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
	return fmt.Sprintf("Kept %s and set aside %d", on, len(others)), err
}

// Duplicate puts a double after each page. Notes are not doubled.
type Duplicate struct {
	Selected
}

func (Duplicate) apply(p *Packet, ids []PageID, _ Known) (string, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return "", err
	}
	on := p.affected(wanted)
	err = p.eachBecomes(wanted, func(page Page) ([]Page, error) {
		if page.IsMade() {
			return nil, errMadeTwice
		}
		return []Page{page, p.double(page)}, nil
	})
	if err != nil {
		return "", err
	}
	return fmt.Sprintf("Duplicated %s", on), nil
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

func (c InsertBlank) apply(p *Packet, _ []PageID, _ Known) (string, error) {
	if !blankEdge(c.Size.Width) || !blankEdge(c.Size.Height) {
		return "", errors.New("a blank page is between 10 mm and 1200 mm wide and high")
	}
	count := max(1, c.Count)
	if count > MaxBlank {
		return "", fmt.Errorf("at most %d blank pages are inserted at once", MaxBlank)
	}
	blanks := make([]Page, count)
	for i := range blanks {
		blanks[i] = Page{ID: p.newPageID(), Upright: geometry.Size{Width: c.Size.Width, Height: c.Size.Height}}
	}
	if err := p.insert(blanks, c.Destination); err != nil {
		return "", err
	}
	if count == 1 {
		return "Inserted a blank page " + p.placeOf(blanks[0].ID), nil
	}
	return fmt.Sprintf("Inserted %d blank pages %s", count, p.placeOf(blanks[0].ID)), nil
}

func blankEdge(points float64) bool { return points >= smallestBlank && points <= largestBlank }

// Note leaves a note on pages; an empty one removes theirs.
type Note struct {
	Selected
	Title string `json:"title,omitempty"`
}

func (c Note) apply(p *Packet, ids []PageID, _ Known) (string, error) {
	text := strings.TrimSpace(c.Title)
	if n := utf8.RuneCountInString(text); n > MaxNote {
		return "", fmt.Errorf("a note has at most %d characters, this one has %d", MaxNote, n)
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Note = text
		return nil
	})
	if text == "" {
		return "Removed the note on " + on.String(), err
	}
	return "Left a note on " + on.String(), err
}

// Expect notes how many pages the packet should have; 0 is unknown.
type Expect struct {
	Count int `json:"count,omitempty"`
}

func (c Expect) apply(p *Packet, _ []PageID, _ Known) (string, error) {
	if c.Count < 0 || c.Count > MaxTake {
		return "", fmt.Errorf("a packet has between 0 and %d pages", MaxTake)
	}
	p.Expected = c.Count
	if c.Count == 0 {
		return "Removed the page count", nil
	}
	return fmt.Sprintf("Noted that there should be %s", CountPages(c.Count)), nil
}
