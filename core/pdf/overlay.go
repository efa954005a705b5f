package pdf

import (
	"bytes"
	"errors"
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/finish"
	"dorbin/core/geometry"
)

// overlay is a picture that marks draw: a form that fills the unit square, whose origin is its
// upper left corner.
type overlay struct {
	number int
	filled bool
}

// overlay gives the object of a picture, which may be written later.
func (a *Assembler) overlay(p finish.Picture) *overlay {
	known, ok := a.overlays[p]
	if !ok {
		known = &overlay{number: a.out.allocate()}
		a.overlays[p] = known
	}
	return known
}

// checkOverlays fails where a picture that marks draw was not added.
func (a *Assembler) checkOverlays() error {
	for picture, overlay := range a.overlays {
		if !overlay.filled {
			return fmt.Errorf("page %d of %s is drawn on pages and was not added", picture.Page, picture.Source)
		}
	}
	return nil
}

var errOverlayTwice = errors.New("a picture that marks draw is added twice")

// AddOverlay adds a page of a document, counted from 0, as a picture that marks draw.
func (a *Assembler) AddOverlay(p finish.Picture, doc *Document, page int) error {
	if page < 0 || page >= len(doc.pages) {
		return fmt.Errorf("the document has %d pages, there is no page %d", len(doc.pages), page+1)
	}
	c := newCopier(a, doc)
	node := doc.pages[page]
	content := c.visibleContent(page)
	resources := c.resources(page, content, newPruning(doc, map[int]int{page: a.tree}))
	if content == nil {
		content = bytes.Join(doc.contentOf(node), []byte("\n"))
	}
	box, size := doc.shown(node), doc.PageSize(page)
	toUnit := fromSeen(box, node.rotate, doc.unit(node)).Inverse().Then(geometry.Scaling(1/size.Width, 1/size.Height))
	a.layers.collect(c)
	return a.writeOverlay(p, content, box, toUnit, resources)
}

// AddOverlayImage adds an image as a picture that marks draw.
func (a *Assembler) AddOverlayImage(p finish.Picture, img Image) error {
	number := a.writeImage(img)
	content := fmt.Sprintf("q %s cm /Im0 Do Q\n", orientation(img.Orientation, geometry.Size{Width: 1, Height: 1}))
	flipped := geometry.Translation(0, -1).Then(geometry.Scaling(1, -1))
	return a.writeOverlay(p, []byte(content), rectangle{0, 0, 1, 1}, flipped, types.Dict{"XObject": types.Dict{"Im0": reference(number)}})
}

// writeOverlay writes the form of a picture. It is a group (11.6.6), so that what it draws is seen
// through as one.
func (a *Assembler) writeOverlay(p finish.Picture, content []byte, box rectangle, m geometry.Affine, resources types.Object) error {
	form := a.overlay(p)
	if form.filled {
		return errOverlayTwice
	}
	form.filled = true
	data := deflate(content)
	a.out.stream(form.number, types.Dict{
		"Type": types.Name("XObject"), "Subtype": types.Name("Form"), "BBox": numbers(box.x0, box.y0, box.x1, box.y1),
		"Matrix":    types.Array{types.Float(m.A), types.Float(m.B), types.Float(m.C), types.Float(m.D), types.Float(m.E), types.Float(m.F)},
		"Resources": resources, "Filter": types.Name(Flate), "Group": types.Dict{"S": types.Name("Transparency")},
	}, bytes.NewReader(data), int64(len(data)))
	return a.out.err
}
