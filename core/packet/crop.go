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
		if err := page.cropTo(c.cropFor(*page, numbers[page.ID])); err != nil {
			return fmt.Errorf("page %d: %w", numbers[page.ID], err)
		}
		return nil
	})
	return "Cropped " + countPages(n), err
}

// cropFor is the rectangle that a command has for a page.
func (c Command) cropFor(page Page, number int) geometry.Box {
	if own, ok := c.Boxes[page.ID]; ok {
		return own
	}
	if c.Mirrored && number%2 == 0 {
		return c.Box.MirroredIn(page.Framing().Uncropped().Size().Width)
	}
	return *c.Box
}

func (p *Page) cropTo(box geometry.Box) error {
	kept, err := p.Framing().CropAsStands(box)
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
