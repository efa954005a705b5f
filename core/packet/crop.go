package packet

import (
	"math"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/message"
)

// Crop leaves a rectangle of each page: one for all, or one for each. The rectangle is in points of the
// page as it would stand without a crop, so that cropping again can also give back. Without any
// rectangle the crop is removed.
type Crop struct {
	Selected
	Box      *geometry.Box           `json:"box,omitempty"`
	Boxes    map[PageID]geometry.Box `json:"boxes,omitempty"`
	Mirrored bool                    `json:"mirrored,omitempty"` // left and right of Box change places on even pages
}

func (c Crop) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if c.Box == nil && len(c.Boxes) == 0 {
		on, err := p.adjust(ids, func(page *Page) error {
			page.Crop = geometry.Box{}
			return nil
		})
		return message.Of("Removed the crop of %s", on), err
	}
	numbers := p.numbers()
	pages := slices.Clone(ids)
	for id := range c.Boxes {
		pages = append(pages, id)
	}
	on, err := p.adjust(pages, func(page *Page) error {
		box, ok := c.cropFor(*page, numbers[page.ID])
		if !ok {
			return message.Errorf("page %d has no rectangle to be cropped to", numbers[page.ID])
		}
		if err := page.cropTo(box); err != nil {
			return message.Errorf("page %d: %s", numbers[page.ID], err)
		}
		return nil
	})
	return message.Of("Cropped %s", on), err
}

// cropFor is the rectangle that a command has for a page; false when it has none.
func (c Crop) cropFor(page Page, number int) (box geometry.Box, ok bool) {
	if own, ok := c.Boxes[page.ID]; ok {
		return own, true
	}
	switch {
	case c.Box == nil:
		return box, false
	case c.Mirrored && number%2 == 0:
		return c.Box.MirroredIn(page.Framing().Uncropped().Size().Width), true
	}
	return *c.Box, true
}

func (p *Page) cropTo(box geometry.Box) error {
	kept, err := p.Framing().CropAsDisplayed(box)
	if err == nil {
		p.Crop = kept
	}
	return err
}

// Straighten turns the content of each page to an angle in degrees clockwise against what it was when
// it came in, as the pages stand: a mirrored page is turned the other way.
type Straighten struct {
	Selected
	Angle float64 `json:"angle,omitempty"`
}

func (c Straighten) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if !(math.Abs(c.Angle) <= geometry.SteepestTilt) {
		return message.Text{}, message.Errorf("a page is straightened by %.0f degrees at most", geometry.SteepestTilt)
	}
	on, err := p.adjust(ids, func(page *Page) error {
		page.Straighten = c.Angle
		if page.Mirror {
			page.Straighten = -c.Angle
		}
		return nil
	})
	if c.Angle == 0 {
		return message.Count(on.count, "Left %s at its own angle", "Left %s at their own angle", on), err
	}
	return message.Of("Straightened %s", on), err
}
