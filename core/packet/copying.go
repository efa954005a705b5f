package packet

import (
	"errors"

	"dorbin/core/finish"
	"dorbin/core/message"
)

// Copy puts doubles of pages at a destination. Notes are not doubled.
type Copy struct {
	Selected
	Destination
}

func (c Copy) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	on := p.affected(wanted)
	var doubles []Page
	for _, page := range p.Pages() {
		if wanted[page.ID] {
			doubles = append(doubles, p.double(page))
		}
	}
	if err := errors.Join(refuseMade(doubles), p.insert(doubles, c.Destination)); err != nil {
		return message.Text{}, err
	}
	return message.Of("Copied %s %s", on, p.placeOf(doubles[0].ID)), nil
}

// double is another page that shows the same as one, without its note.
func (p *Packet) double(page Page) Page {
	page.ID, page.Note = p.newPageID(), ""
	return page
}

// Bring puts doubles of another packet's pages at a destination; without one they become a
// part at the end, named after the part that the first is in.
type Bring struct {
	From      string   `json:"from" doc:"The other packet's id."`
	FromPages []PageID `json:"fromPages" nullable:"false" doc:"Its pages, in the order wanted."`
	Destination
}

// Foreign are pages of another packet, whose sources this packet has too.
type Foreign struct {
	Packet string // its name
	Title  string // of the part that the first page is in
	Pages  []Page
}

func (c Bring) apply(p *Packet, _ []PageID, known Known) (message.Text, error) {
	if known.Foreign == nil {
		return message.Text{}, message.Errorf("pages of other packets are not at hand")
	}
	foreign, err := known.Foreign(c)
	if err != nil {
		return message.Text{}, err
	}
	if len(foreign.Pages) == 0 {
		return message.Text{}, message.Errorf("no pages are named")
	}
	if err := refuseMade(foreign.Pages); err != nil {
		return message.Text{}, err
	}
	doubles := make([]Page, len(foreign.Pages))
	for i, page := range foreign.Pages {
		doubles[i] = p.double(page)
		p.takeBack(page.Source)
	}
	if c.names() {
		err = p.insert(doubles, c.Destination)
	} else {
		p.Parts = append(p.Parts, Part{ID: p.newPartID(), Title: foreign.Title, Pages: doubles})
	}
	return message.Of("Copied %s from “%s”", CountPages(len(doubles)), foreign.Packet), err
}

// TitleAt is the title of the part that the first of some pages is in, or was in before it was
// set aside; the packet's name where there is none.
func (p Packet) TitleAt(pages []PageID) string {
	if len(pages) == 0 {
		return p.Name
	}
	if part, _, found := p.position(pages[0]); found {
		return p.Parts[part].Title
	}
	for _, aside := range p.SetAside {
		if aside.ID == pages[0] {
			return aside.Origin.Title
		}
	}
	return p.Name
}

// WithSources is the packet with other sources in place of its own, which show the same.
func (p Packet) WithSources(other map[SourceID]SourceID) Packet {
	same := p.clone()
	for i := range same.Parts {
		for j := range same.Parts[i].Pages {
			page := &same.Parts[i].Pages[j]
			page.Source = other[page.Source]
		}
	}
	for i := range same.SetAside {
		same.SetAside[i].Source = other[same.SetAside[i].Source]
	}
	for i, id := range same.Removed {
		same.Removed[i] = other[id]
	}
	f := &same.Finish
	for _, picture := range []*finish.Picture{&f.Letterhead.Picture, &f.Letterhead.First, &f.Watermark.Picture, &f.Cover.Picture} {
		picture.Source = string(other[SourceID(picture.Source)])
	}
	return same
}
