package packet

import (
	"slices"

	"dorbin/core/annotation"
	"dorbin/core/message"
)

// Place puts pages of a source into the packet: at a destination, in place of pages that are set aside
// for them, or as a part of their own. A source that was taken out comes back by it.
type Place struct {
	Source      SourceID          `json:"source"`
	Take        []int             `json:"take,omitempty" doc:"Numbers of the source's pages, from 1, in the order wanted."`
	Replace     []PageID          `json:"replace,omitempty"`
	Title       string            `json:"title,omitempty"` // of the part, if they become one
	Annotations annotation.Policy `json:"annotations,omitzero"`
	Destination
}

func (c Place) apply(p *Packet, _ []PageID, known Known) (message.Text, error) {
	if len(c.Replace) == 0 && !c.names() {
		return p.placeAsPart(c, known)
	}
	pages, err := p.newPages(c, known)
	if err != nil {
		return message.Text{}, err
	}
	if len(c.Replace) > 0 {
		return p.placeInstead(pages, c)
	}
	if err := p.insert(pages, c.Destination); err != nil {
		return message.Text{}, err
	}
	return message.Of("Added %s %s", CountPages(len(pages)), p.placeOf(pages[0].ID)), nil
}

// newPages makes pages of a source, which is no longer taken out then.
func (p *Packet) newPages(c Place, known Known) ([]Page, error) {
	source, ok := known.source(c.Source)
	all := source.Pages
	if !ok || len(all) == 0 {
		return nil, message.Errorf("source %s has no pages to place", c.Source)
	}
	take := c.Take
	if len(take) == 0 {
		take = make([]int, len(all))
		for i := range take {
			take[i] = i + 1
		}
	}
	if len(take) > MaxTake {
		return nil, message.Errorf("at most %d pages are taken at once", MaxTake)
	}
	p.takeBack(c.Source)
	pages := make([]Page, len(take))
	for i, number := range take {
		if number < 1 || number > len(all) {
			return nil, message.Errorf("the source has %s, there is no page %d", CountPages(len(all)), number)
		}
		pages[i] = Page{
			ID: p.newPageID(), Source: c.Source, SourcePage: number,
			Upright: all[number-1].Size, Adjustments: Adjustments{Annotations: c.Annotations},
		}
	}
	return pages, nil
}

// MaxTake is how many pages of a source are placed at once at most.
const MaxTake = 20_000

func (p *Packet) placeAsPart(c Place, known Known) (message.Text, error) {
	title, err := cleanTitle(c.Title)
	if err != nil {
		return message.Text{}, err
	}
	at := len(p.Parts)
	if c.At != nil {
		at = *c.At
	}
	if at < 0 || at > len(p.Parts) {
		return message.Text{}, message.Errorf("there is no place %d among the parts", at)
	}
	part := Part{ID: p.newPartID(), Title: title}
	if part.Pages, err = p.newPages(c, known); err != nil {
		return message.Text{}, err
	}
	p.Parts = slices.Insert(p.Parts, at, part)
	return message.Of("Added %s as “%s”", CountPages(len(part.Pages)), title), nil
}

// placeInstead sets pages aside and puts the new ones where the first was.
func (p *Packet) placeInstead(pages []Page, c Place) (message.Text, error) {
	if c.names() {
		return message.Text{}, message.Errorf("give either pages to replace or a destination")
	}
	part, at, found := p.firstPosition(c.Replace)
	if !found {
		return message.Text{}, message.Errorf("none of the pages to replace is in a part")
	}
	wanted, err := uniqueIDs(c.Replace)
	if err != nil {
		return message.Text{}, err
	}
	on := p.affected(wanted)
	p.Parts[part].Pages = slices.Insert(p.Parts[part].Pages, at, pages...)
	if _, err := (SetAside{}).apply(p, c.Replace, Known{}); err != nil {
		return message.Text{}, err
	}
	if on.count == 1 {
		return message.Of("Replaced %s by %s; the old page was set aside", on, CountPages(len(pages))), nil
	}
	return message.Of("Replaced %s by %s; the old pages were set aside", on, CountPages(len(pages))), nil
}
