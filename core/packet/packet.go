package packet

import (
	"fmt"
	"slices"

	"dorbin/core/annotation"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/core/requirements"
)

// PageID names a page within its packet. It never changes and is never reused.
type PageID string

// PartID names a part within its packet.
type PartID string

// SourceID names a source.
type SourceID string

// Page is a reference to one page of a source, with its adjustments. They are
// carried out in this order: outline, straighten, crop, fit, mirror, turn; the tone
// is independent.
type Page struct {
	ID         PageID        `json:"id"`
	Source     SourceID      `json:"source"`
	SourcePage int           `json:"sourcePage"` // counted from 1
	Upright    geometry.Size `json:"upright"`    // the source page before adjustments, in points
	Adjustments
	Turn int         `json:"turn,omitempty"` // degrees clockwise
	Note string      `json:"note,omitempty"`
	Made finish.Made `json:"made,omitempty"` // what the program makes it as

	Corrected Corrections `json:"corrected,omitzero"` // of the words that were recognised on it
}

// IsBlank tells whether a page is of no source: an empty sheet that was
// inserted, or one that the program made for what is added to it.
func (p Page) IsBlank() bool { return p.Source == "" }

// IsLandscape tells whether a page is wider than high as it now stands.
func (p Page) IsLandscape() bool {
	size := p.Size()
	return size.Width > size.Height
}

// Adjustments is how a page's content is shown, apart from its turn.
type Adjustments struct {
	Paper       geometry.PaperQuad   `json:"outline,omitzero"`     // of the paper in the source page; zero is none
	Flat        geometry.Size        `json:"flat,omitzero"`        // the outlined paper laid flat, in points
	Straighten  float64              `json:"straighten,omitempty"` // degrees clockwise, before mirror and turn
	Crop        geometry.Box         `json:"crop,omitzero"`        // of the flat page, straightened; zero keeps all
	Sheet       geometry.SheetLayout `json:"fit,omitzero"`         // of what is kept, on a sheet, before mirror and turn
	Mirror      bool                 `json:"mirror,omitempty"`     // left is right
	Clean       raster.Cleaning      `json:"clean,omitzero"`
	Patches     Patches              `json:"patches,omitzero"` // painted over with paper
	Tone        raster.Tone          `json:"tone,omitzero"`
	Picture     bool                 `json:"picture,omitempty"` // a picture is made of it, of which nothing can be copied
	Annotations annotation.Policy    `json:"bare,omitzero"`     // what becomes of form fields and comments
}

// Size is the page's size in points as it now stands.
func (p Page) Size() geometry.Size { return p.Framing().Size() }

// Framing is how the page's flat paper comes to stand as it does.
func (p Page) Framing() geometry.Framing { return p.Adjustments.Framing(p.Upright, p.Turn) }

// Framing is how a page with these adjustments comes to stand, out of a source page of this
// size and turned by degrees clockwise.
func (l Adjustments) Framing(upright geometry.Size, turn int) geometry.Framing {
	flat := upright
	if !l.Paper.IsZero() {
		flat = l.Flat
	}
	return geometry.Framing{Flat: flat, Straighten: l.Straighten, Crop: l.Crop, Fit: l.Sheet, Mirror: l.Mirror, Turn: turn}
}

// Part is a named run of pages. A part in a packet is never empty.
type Part struct {
	ID    PartID `json:"id"`
	Title string `json:"title"`
	Paper string `json:"paper,omitempty"` // which of the papers that the receiver asks for it is, by its title
	Pages []Page `json:"pages"`
}

// Origin is where a page that was set aside came from.
type Origin struct {
	Part  PartID `json:"part"`
	Title string `json:"title"`
	After PageID `json:"after,omitempty"` // the page before it; empty at the start of its part
}

// Aside is a page that was set aside, with the place it can go back to.
type Aside struct {
	Page
	Origin Origin `json:"origin"`
}

// Packet is one submission being assembled. Every page is in exactly one place:
// in one part, or set aside.
type Packet struct {
	Name     string        `json:"name"`
	Parts    []Part        `json:"parts"`
	SetAside []Aside       `json:"setAside"`
	Removed  []SourceID    `json:"removed,omitempty"`  // sources that were taken out; none of their pages is left
	LastID   int           `json:"lastId"`             // the highest number given to a page or part
	Expected int           `json:"expected,omitempty"` // how many pages there should be; 0 is unknown
	Finish   finish.Finish `json:"finish,omitzero"`    // what is added to the document
	// Receiver is whom it is for, with the rules that it is held against; nil where nobody was
	// named. It is never changed, only replaced.
	Receiver *requirements.Receiver `json:"receiver,omitempty"`
}

// New returns an empty packet.
func New(name string) Packet { return Packet{Name: name} }

// PageCount is the number of pages in the parts.
func (p Packet) PageCount() int {
	n := 0
	for _, part := range p.Parts {
		n += len(part.Pages)
	}
	return n
}

// Pages returns the pages of all parts, in order.
func (p Packet) Pages() []Page {
	pages := make([]Page, 0, p.PageCount())
	for _, part := range p.Parts {
		pages = append(pages, part.Pages...)
	}
	return pages
}

// Find returns the page with this id, in a part or set aside.
func (p Packet) Find(id PageID) (Page, bool) {
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			if page.ID == id {
				return page, true
			}
		}
	}
	for _, aside := range p.SetAside {
		if aside.ID == id {
			return aside.Page, true
		}
	}
	return Page{}, false
}

// Placed counts, for each source, how many of its different pages are in parts.
func (p Packet) Placed() map[SourceID]int {
	type key struct {
		source SourceID
		page   int
	}
	seen := map[key]bool{}
	placed := map[SourceID]int{}
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			k := key{page.Source, page.SourcePage}
			if !page.IsBlank() && !seen[k] {
				seen[k] = true
				placed[page.Source]++
			}
		}
	}
	return placed
}

// Only is the packet with these of its placed pages alone. The error is a
// problem.Invalid.
func (p Packet) Only(ids []PageID) (Packet, error) {
	only := p.clone()
	if _, err := (KeepOnly{}).apply(&only, ids, Known{}); err != nil {
		return p, problem.Because(problem.Invalid, err)
	}
	return only, nil
}

// clone copies the packet deeply enough that parts and pages can be changed.
func (p Packet) clone() Packet {
	parts := make([]Part, len(p.Parts))
	for i, part := range p.Parts {
		part.Pages = slices.Clone(part.Pages)
		parts[i] = part
	}
	p.Parts = parts
	p.SetAside = slices.Clone(p.SetAside)
	p.Removed = slices.Clone(p.Removed)
	return p
}

func (p Packet) partIndex(id PartID) int {
	return slices.IndexFunc(p.Parts, func(part Part) bool { return part.ID == id })
}

// position finds a page in the parts: its part's index and its own within it.
func (p Packet) position(id PageID) (part, at int, found bool) {
	for i := range p.Parts {
		for j := range p.Parts[i].Pages {
			if p.Parts[i].Pages[j].ID == id {
				return i, j, true
			}
		}
	}
	return 0, 0, false
}

// takeBack has a source in the packet again if it was taken out.
func (p *Packet) takeBack(source SourceID) {
	p.Removed = slices.DeleteFunc(p.Removed, func(id SourceID) bool { return id == source })
}

func (p *Packet) dropEmptyParts() {
	p.Parts = slices.DeleteFunc(p.Parts, func(part Part) bool { return len(part.Pages) == 0 })
}

func (p *Packet) newPageID() PageID {
	p.LastID++
	return PageID(fmt.Sprintf("p%d", p.LastID))
}

func (p *Packet) newPartID() PartID {
	p.LastID++
	return PartID(fmt.Sprintf("s%d", p.LastID))
}
