package packet

import (
	"errors"
	"slices"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/raster"
)

// adjust changes each of the named pages, which must be in parts.
func (p *Packet) adjust(ids []PageID, change func(*Page) error) (affected, error) {
	wanted, err := p.placedSet(ids)
	if err != nil {
		return affected{}, err
	}
	for i := range p.Parts {
		for j := range p.Parts[i].Pages {
			if page := &p.Parts[i].Pages[j]; wanted[page.ID] {
				if err := change(page); err != nil {
					return affected{}, err
				}
			}
		}
	}
	return p.affected(wanted), nil
}

// eachBecomes puts what it becomes in the place of each wanted page.
func (p *Packet) eachBecomes(wanted map[PageID]bool, become func(Page) ([]Page, error)) error {
	for i := range p.Parts {
		var pages []Page
		for _, page := range p.Parts[i].Pages {
			if !wanted[page.ID] {
				pages = append(pages, page)
				continue
			}
			several, err := become(page)
			if err != nil {
				return err
			}
			pages = append(pages, several...)
		}
		p.Parts[i].Pages = pages
	}
	return nil
}

// Flip mirrors pages as they now stand. A page is mirrored before it is turned, so the turn goes the
// other way round afterwards.
type Flip struct {
	Selected
	Axis string `json:"axis" enum:"leftRight,topBottom"`
}

// The axes.
const (
	leftRight = "leftRight"
	topBottom = "topBottom"
)

func (c Flip) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if c.Axis != leftRight && c.Axis != topBottom {
		return message.Text{}, message.Errorf("a page is flipped leftRight or topBottom, not %q", c.Axis)
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Mirror = !page.Mirror
		page.Turn = geometry.NormalTurn(-page.Turn)
		if c.Axis == topBottom {
			page.Turn = geometry.NormalTurn(page.Turn + 180)
		}
		return nil
	})
	if c.Axis == topBottom {
		return message.Of("Flipped %s top to bottom", on), err
	}
	return message.Of("Flipped %s left to right", on), err
}

// Outline lays the paper in pictures flat, or shows the whole pictures again.
type Outline struct {
	Selected
	Outline *geometry.PaperQuad `json:"outline,omitempty" doc:"Corners clockwise from the paper's top left, as fractions of the source page."`
}

func (c Outline) apply(p *Packet, ids []PageID, known Known) (message.Text, error) {
	if c.Outline == nil {
		on, err := p.adjust(ids, func(page *Page) error {
			page.Paper, page.Flat = geometry.PaperQuad{}, geometry.Size{}
			page.Straighten, page.Crop, page.Patches = 0, geometry.Box{}, ""
			return nil
		})
		return message.Of("Showed the whole picture of %s", on), err
	}
	if err := c.Outline.Check(); err != nil {
		return message.Text{}, err
	}
	on, err := p.adjust(ids, func(page *Page) error { return page.layFlat(*c.Outline, known) })
	return message.Of("Set the outline of %s", on), err
}

// layFlat gives a page an outline. What was straightened, cropped and painted over was so
// on another paper, and is lifted.
func (p *Page) layFlat(o geometry.PaperQuad, known Known) error {
	source, ok := known.source(p.Source)
	if !ok || p.SourcePage > len(source.Pages) {
		return message.Errorf("the source of page %s is not there", p.ID)
	}
	p.Straighten, p.Crop, p.Patches = 0, geometry.Box{}, ""
	p.Paper, p.Flat = o, o.FlatSize(p.Upright, source.Pages[p.SourcePage-1].Scanned)
	return nil
}

// Cut makes two pages of each: the left one keeps its ID, the right one follows it. Left and right
// are those of the picture before mirror and turn, except that a page that is mirrored has its right
// half first.
type Cut struct {
	Selected
	Fold       raster.Fold `json:"fold"`
	RightFirst bool        `json:"rightFirst,omitempty"`
}

func (c Cut) apply(p *Packet, ids []PageID, known Known) (message.Text, error) {
	if !(c.Fold.Top > 0.02 && c.Fold.Top < 0.98 && c.Fold.Bottom > 0.02 && c.Fold.Bottom < 0.98) {
		return message.Text{}, message.Errorf("the fold must lie inside the page")
	}
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	err = p.eachBecomes(wanted, func(page Page) ([]Page, error) { return p.halves(page, c, known) })
	if err != nil {
		return message.Text{}, err
	}
	return message.Of("Cut %s into %s at the fold", CountPages(len(wanted)), CountPages(2*len(wanted))), nil
}

func (p *Packet) halves(page Page, c Cut, known Known) ([]Page, error) {
	whole := page.Paper
	if whole.IsZero() {
		whole = geometry.WholePicture
	}
	left, right := whole.Cut(c.Fold.Top, c.Fold.Bottom)
	first, second := page, page
	second.ID = p.newPageID()
	if page.Mirror != c.RightFirst {
		left, right = right, left
	}
	err := errors.Join(first.layFlat(left, known), second.layFlat(right, known))
	return []Page{first, second}, err
}

// Tone gives pages a tone.
type Tone struct {
	Selected
	Tone raster.Tone `json:"tone"`
}

func (c Tone) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if err := c.Tone.Check(); err != nil {
		return message.Text{}, err
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Tone = c.Tone
		return nil
	})
	if c.Tone.IsZero() {
		return message.Count(on.count, "Left %s in its own tone", "Left %s in their own tone", on), err
	}
	return message.Of("Made %s %s", on, toneWords[c.Tone.Mode]), err
}

var toneWords = map[raster.ToneMode]message.Text{
	raster.AsItIs:     message.Of("lighter or darker"),
	raster.PaperWhite: message.Of("paper white"),
	raster.GrayTone:   message.Of("grey"),
	raster.BlackWhite: message.Of("black and white"),
}

// Annotate says what becomes of form fields and comments of pages.
type Annotate struct {
	Selected
	Annotations annotation.Policy `json:"annotations"`
}

func (c Annotate) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if err := c.Annotations.Check(); err != nil {
		return message.Text{}, err
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Annotations = c.Annotations
		return nil
	})
	return annotateWords(c.Annotations, on), err
}

func annotateWords(p annotation.Policy, on affected) message.Text {
	switch p {
	case annotation.Policy{}:
		return message.Of("Kept form fields and comments of %s", on)
	case annotation.NoneSeen:
		return message.Of("Left out form fields and comments of %s", on)
	case annotation.Policy{Fields: annotation.Fixed, Comments: annotation.LeftOut}:
		return message.Of("Made form values part of the page and left out comments of %s", on)
	case annotation.Policy{Fields: annotation.Fixed, Comments: annotation.Fixed}:
		return message.Of("Made form values and comments part of %s", on)
	}
	return message.Of("Changed what becomes of form fields and comments of %s", on)
}

// RemoveSource takes a source and all its pages out.
type RemoveSource struct {
	Source SourceID `json:"source"`
}

func (c RemoveSource) apply(p *Packet, _ []PageID, known Known) (message.Text, error) {
	source, ok := known.source(c.Source)
	if !ok || slices.Contains(p.Removed, c.Source) {
		return message.Text{}, message.Errorf("there is no source %s", c.Source)
	}
	for i := range p.Parts {
		p.Parts[i].Pages = slices.DeleteFunc(p.Parts[i].Pages, func(page Page) bool { return page.Source == c.Source })
	}
	p.SetAside = slices.DeleteFunc(p.SetAside, func(aside Aside) bool { return aside.Source == c.Source })
	p.Removed = append(p.Removed, c.Source)
	p.dropEmptyParts()
	return message.Of("Removed “%s” from the packet", source.Name), nil
}

// ReturnSource takes a source in again that was taken out. None of its pages is placed.
type ReturnSource struct {
	Source SourceID `json:"source"`
}

func (c ReturnSource) apply(p *Packet, _ []PageID, known Known) (message.Text, error) {
	source, ok := known.source(c.Source)
	if !ok || !slices.Contains(p.Removed, c.Source) {
		return message.Text{}, message.Errorf("source %s was not taken out", c.Source)
	}
	p.takeBack(c.Source)
	return message.Of("Added “%s” again", source.Name), nil
}

// IsMadeAnew tells whether the page is written from pixels that are made for the export. A page of a
// PDF stays what it is when it is only straightened or cropped.
func (p Page) IsMadeAnew(ofPDF bool) bool {
	if p.hasOtherPixels() || (p.Picture && ofPDF) {
		return true
	}
	framing := p.Framing().Cut()
	return !ofPDF && (!framing.Crop.IsZero() || framing.Straighten != 0)
}

// hasOtherPixels tells whether what is seen of the page has other colours than its source, or lies otherwise.
func (p Page) hasOtherPixels() bool {
	return !p.Paper.IsZero() || !p.Tone.IsZero() || !p.Clean.IsZero() || p.Patches != ""
}

// OnlyCrop is what is seen of a page whose pixels are those of its source, in shares of the page's width and
// height. It is zero where all of the page is seen, and where the pixels are others.
func (p Page) OnlyCrop() geometry.Box {
	framing := p.Framing().Cut()
	if p.hasOtherPixels() || framing.Straighten != 0 {
		return geometry.Box{}
	}
	return framing.Crop.Mapped(geometry.Scaling(1/framing.Flat.Width, 1/framing.Flat.Height))
}
