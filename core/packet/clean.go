package packet

import (
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/raster"
)

// Patch is a rectangle of a page that is painted over with paper.
type Patch struct {
	Box  geometry.Box `json:"box"`            // of the flat page, straightened by Tilt
	Tilt float64      `json:"tilt,omitempty"` // degrees clockwise: what the page was straightened by when it was painted
}

// Corners are the patch's corners on a flat page of this size, not straightened, in
// points.
func (p Patch) Corners(flat geometry.Size) (corners [4]geometry.Point) {
	m := geometry.Framing{Flat: flat, Straighten: p.Tilt}.Straightening().Inverse()
	for i, c := range p.Box.Corners() {
		corners[i].X, corners[i].Y = m.Apply(c.X, c.Y)
	}
	return corners
}

// Patches are those of a page, in the order in which they were painted.
type Patches = ListJSON[Patch]

// PatchesOf keeps a list.
func PatchesOf(list []Patch) Patches { return listJSON(list) }

// MostPatches is how many places of a page can be painted over.
const MostPatches = 50

const smallestPatch = geometry.PointsPerInch / geometry.MillimetresPerInch // 1 mm

// Clean wipes dark edges and specks off pages, or leaves them.
type Clean struct {
	Selected
	Clean raster.Cleaning `json:"clean"`
}

func (c Clean) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	on, err := p.adjust(ids, func(page *Page) error {
		if page.IsBlank() {
			return nil
		}
		page.Clean = c.Clean
		return nil
	})
	if c.Clean.IsZero() {
		return message.Count(on.count, "Left %s as it was scanned", "Left %s as they were scanned", on), err
	}
	return message.Of("Cleaned %s", on), err
}

// Paint paints a rectangle of each page over with paper, in points of the page as it would stand
// uncropped. Without a rectangle it removes what was painted: all of it, or the patch at an index.
type Paint struct {
	Selected
	Box *geometry.Box `json:"box,omitempty"`
	At  *int          `json:"at,omitempty"`
}

func (c Paint) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	if c.Box == nil {
		on, err := p.adjust(ids, func(page *Page) error { return page.unpaint(c.At) })
		return message.Of("Showed again what was painted over on %s", on), err
	}
	on, err := p.adjust(ids, func(page *Page) error { return page.paint(*c.Box) })
	return message.Of("Painted over a place on %s", on), err
}

// paint paints over a box of the page as it would stand uncropped.
func (p *Page) paint(standing geometry.Box) error {
	if p.IsBlank() {
		return message.Errorf("there is nothing on a blank page to paint over")
	}
	if err := standing.Check(); err != nil {
		return err
	}
	whole := p.Framing().Uncropped()
	box := standing.Intersect(whole.Size().Box())
	if size := box.Size(); size.Width < smallestPatch || size.Height < smallestPatch {
		return message.Errorf("what is painted over is at least a millimetre wide and high")
	}
	list := p.Patches.List()
	if len(list) >= MostPatches {
		return message.Errorf("a page has at most %d places that are painted over", MostPatches)
	}
	whole.Straighten = 0 // the box is one of the straightened page
	p.Patches = PatchesOf(append(list, Patch{Box: box.Mapped(whole.Transform().Inverse()), Tilt: p.Straighten}))
	return nil
}

func (p *Page) unpaint(at *int) error {
	list := p.Patches.List()
	if at == nil {
		p.Patches = ""
		return nil
	}
	if *at < 0 || *at >= len(list) {
		return message.Errorf("the page has %d places that are painted over", len(list))
	}
	p.Patches = PatchesOf(slices.Delete(list, *at, *at+1))
	return nil
}

// DisplayedPatches are boxes around what is painted over, on the page as it would stand
// uncropped.
func (p Page) DisplayedPatches() []geometry.Box {
	whole := p.Framing().Uncropped()
	list := p.Patches.List()
	boxes := make([]geometry.Box, len(list))
	for i, patch := range list {
		lean := geometry.Framing{Flat: whole.Flat, Straighten: patch.Tilt}.Straightening().Inverse()
		boxes[i] = patch.Box.Mapped(lean.Then(whole.Transform()))
	}
	return boxes
}

// Picture makes pictures of pages, of which nothing can be copied, or leaves them what they are.
type Picture struct {
	Selected
	Picture bool `json:"picture,omitempty"`
}

func (c Picture) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	on, err := p.adjust(ids, func(page *Page) error {
		page.Picture = c.Picture
		return nil
	})
	switch {
	case !c.Picture:
		return message.Count(on.count, "Left %s as it was", "Left %s as they were", on), err
	case on.count == 1:
		return message.Of("Turned %s into an image", on), err
	}
	return message.Of("Turned %s into images", on), err
}
