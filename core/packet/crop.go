package packet

import (
	"fmt"
	"math"

	"dorbin/core/geometry"
)

// crop leaves a rectangle of each page. The rectangle is one of the page as it
// would stand without a crop, so that cropping again can also give back.
func crop(p *Packet, c Command, _ Known) (string, error) {
	if c.Box == nil && len(c.Boxes) == 0 {
		n, err := p.adjust(c.Pages, func(page *Page) error {
			page.Crop = geometry.Box{}
			return nil
		})
		return "Lifted the crop of " + countPages(n), err
	}
	numbers := p.numbers()
	pages := c.Pages
	for id := range c.Boxes {
		pages = append(pages, id)
	}
	n, err := p.adjust(pages, func(page *Page) error {
		box, ok := c.cropFor(*page, numbers[page.ID])
		if !ok {
			return fmt.Errorf("page %d has no rectangle to be cropped to", numbers[page.ID])
		}
		if err := page.cropTo(box); err != nil {
			return fmt.Errorf("page %d: %w", numbers[page.ID], err)
		}
		return nil
	})
	return "Cropped " + countPages(n), err
}

// cropFor is the rectangle that a command has for a page; false when it has none.
func (c Command) cropFor(page Page, number int) (box geometry.Box, ok bool) {
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

// straighten turns the content of each page to an angle against what it was
// when it came in, as the pages stand: a mirrored page is turned the other way.
func straighten(p *Packet, c Command, _ Known) (string, error) {
	if !(math.Abs(c.Angle) <= geometry.SteepestTilt) {
		return "", fmt.Errorf("a page is straightened by %.0f degrees at most", geometry.SteepestTilt)
	}
	n, err := p.adjust(c.Pages, func(page *Page) error {
		page.Straighten = c.Angle
		if page.Mirror {
			page.Straighten = -c.Angle
		}
		return nil
	})
	if c.Angle == 0 {
		return fmt.Sprintf("Left %s at %s own angle", countPages(n), its(n)), err
	}
	return "Straightened " + countPages(n), err
}
