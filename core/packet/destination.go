package packet

import (
	"dorbin/core/message"
	"dorbin/core/problem"
	"slices"
	"strings"
)

// Destination is where pages go: after or before a page, or into a part, at an index among
// its other pages or at its end.
type Destination struct {
	After  PageID `json:"after,omitempty"`
	Before PageID `json:"before,omitempty"`
	Part   PartID `json:"part,omitempty"`
	At     *int   `json:"at,omitempty"`
}

// names tells whether a page or a part is named.
func (d Destination) names() bool { return d.After != "" || d.Before != "" || d.Part != "" }

// insert puts pages, which are in no part at this time, at the destination.
func (p *Packet) insert(pages []Page, d Destination) error {
	part, at, err := p.find(d)
	if err != nil {
		return err
	}
	p.Parts[part].Pages = slices.Insert(p.Parts[part].Pages, at, pages...)
	return nil
}

// find gives the index of a destination's part, and that of the place within the part.
func (p *Packet) find(d Destination) (part, at int, err error) {
	if anchor := d.After + d.Before; anchor != "" {
		if d.After != "" && d.Before != "" {
			return 0, 0, message.Errorf("give either after or before, not both")
		}
		part, at, found := p.position(anchor)
		if !found {
			return 0, 0, message.Errorf("page %s is not there to put them next to", anchor)
		}
		if d.After != "" {
			at++
		}
		return part, at, nil
	}
	part = p.partIndex(d.Part)
	if part < 0 {
		return 0, 0, message.Errorf("there is no part %q", d.Part)
	}
	end := len(p.Parts[part].Pages)
	if d.At == nil {
		return part, end, nil
	}
	if *d.At < 0 || *d.At > end {
		return 0, 0, message.Errorf("a part of %s has no place %d", CountPages(end), *d.At)
	}
	return part, *d.At, nil
}

// ParsePlace reads where the pages of a file or of a scan are to go, and gives the command
// without its source:
//
//	end, or nothing        as a part of their own, at the end
//	start                  as a part of their own, at the start
//	after:<page>           before:<page>
//	part:<part>            at the end of the part
//	replace:<page>,<page>  in place of pages, which are set aside
//
// The error is a problem.Invalid.
func ParsePlace(text string) (Place, error) {
	if text == "" {
		text = "end"
	}
	kind, name, named := strings.Cut(text, ":")
	place, known := placements[kind]
	if !known || named != place.named || (named && name == "") {
		return Place{}, problem.New(problem.Invalid, "there is no place %q", text)
	}
	return place.at(name), nil
}

// placements are the kinds of places: whether each names pages or a part, and what it comes to.
var placements = map[string]struct {
	named bool
	at    func(name string) Place
}{
	"end":    {false, func(string) Place { return Place{} }},
	"start":  {false, func(string) Place { return Place{Destination: Destination{At: new(int)}} }},
	"after":  {true, func(name string) Place { return Place{Destination: Destination{After: PageID(name)}} }},
	"before": {true, func(name string) Place { return Place{Destination: Destination{Before: PageID(name)}} }},
	"part":   {true, func(name string) Place { return Place{Destination: Destination{Part: PartID(name)}} }},
	"replace": {true, func(name string) (place Place) {
		for id := range strings.SplitSeq(name, ",") {
			place.Replace = append(place.Replace, PageID(strings.TrimSpace(id)))
		}
		return place
	}},
}
