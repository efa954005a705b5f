package pdf

import (
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/geometry"
)

// reshaping is how a page changes that is straightened, cropped, laid on a sheet
// or mirrored, in the page's own user space: unturned, with y pointing up.
type reshaping struct {
	box     rectangle       // the page
	content geometry.Affine // where its content goes
	moves   bool            // whether it goes anywhere
	seen    rectangle       // what of the moved content is seen; the page, unless it is on a sheet
	onSheet bool
	before  rectangle // what was shown of the content before it moved
}

// shown is the part of a page that a reader shows (14.11.2).
func (d *Document) shown(node pageNode) rectangle {
	box, ok := d.rectangle(node.cropBox)
	media, mediaOK := d.rectangle(node.mediaBox)
	switch {
	case ok && mediaOK:
		return box.intersect(media)
	case mediaOK:
		return media
	}
	return rectangle{0, 0, geometry.Letter.Width, geometry.Letter.Height}
}

// toSeen leads from a page's user space to the page as a reader shows it, in
// points from its top left, scaled to a given size; a zero size is its own.
func (d *Document) toSeen(page int, size geometry.Size) geometry.Affine {
	node := d.pages[page]
	shown := d.shown(node)
	upright := geometry.Size{Width: shown.x1 - shown.x0, Height: shown.y1 - shown.y0}
	m := geometry.Translation(-shown.x0, -shown.y1).Then(geometry.Scaling(1, -1)).
		Then(geometry.Framing{Flat: upright, Turn: node.rotate}.Transform())
	return m.Then(geometry.Scaling(d.scaleTo(page, size)))
}

// scaleTo is how much larger than in its user space a page is that a reader shows in a size; a zero
// size is its own. Readers that do not know the unit of a page show it without.
func (d *Document) scaleTo(page int, size geometry.Size) (across, down float64) {
	node := d.pages[page]
	shown := d.shown(node)
	seen := geometry.Size{Width: shown.x1 - shown.x0, Height: shown.y1 - shown.y0}.Turned(node.rotate)
	if size == (geometry.Size{}) {
		size = d.PageSize(page)
	}
	return size.Width / seen.Width, size.Height / seen.Height
}

// reshapingOf is nil for a page that stays as it is, but for its turn.
func (d *Document) reshapingOf(p Placement) *reshaping {
	if p.Crop.IsZero() && p.Straighten == 0 && !p.Mirror && p.Fit.IsZero() {
		return nil
	}
	toSeen := d.toSeen(p.Page, p.Flat)
	f := p.Framing
	if f.Flat == (geometry.Size{}) {
		f.Flat = d.PageSize(p.Page)
	}
	// The content stays where it is as far as it can: the sheet is laid around it.
	sheet, laid := f.Fit.Lay(f.Kept().Size())
	kept := f.Kept()
	scale := laid.A
	content := f.Straightening().Then(geometry.Scaling(scale, scale))
	box := sheet.Box().Mapped(geometry.Translation(kept.X0*scale-laid.E, kept.Y0*scale-laid.F))
	seen := f.Seen().Mapped(geometry.Scaling(scale, scale))
	if f.Mirror {
		mirror := geometry.Affine{A: -1, D: 1, E: box.X0 + box.X1}
		content, seen = content.Then(mirror), seen.Mapped(mirror)
	}
	own := toSeen.Inverse()
	return &reshaping{
		box: rectangleOf(box.Mapped(own)), seen: rectangleOf(seen.Mapped(own)), before: d.shown(d.pages[p.Page]),
		content: toSeen.Then(content).Then(own), moves: f.Straighten != 0 || f.Mirror || scale != 1, onSheet: !f.Fit.IsZero(),
	}
}

func rectangleOf(b geometry.Box) rectangle { return rectangle{b.X0, b.Y0, b.X1, b.Y1} }

func (r rectangle) geometry() geometry.Box {
	return geometry.Box{X0: r.x0, Y0: r.y0, X1: r.x1, Y1: r.y1}
}

// Reshaped tells what a placement leaves to be seen of a page, in the page's own
// user space, and where the page's content goes there before it is cut. It is not
// ok for a page of which all is seen.
func (d *Document) Reshaped(p Placement) (seen geometry.Box, content geometry.Affine, ok bool) {
	r := d.reshapingOf(p)
	if r == nil || (p.Crop.IsZero() && p.Seen() == p.Kept()) {
		return geometry.Box{}, geometry.Identity, false
	}
	return r.seen.geometry(), r.content, true
}

// rect is where a rectangle of the page's comes to lie.
func (r *reshaping) rect(in rectangle) rectangle {
	return rectangleOf(in.geometry().Mapped(r.content))
}

// points moves a list of coordinates, x and y in turn.
func (r *reshaping) points(d *Document, o types.Object) types.Object {
	in := d.array(o)
	out := make(types.Array, 0, len(in))
	for i := 0; i+1 < len(in); i += 2 {
		x, okX := d.number(in[i])
		y, okY := d.number(in[i+1])
		if !okX || !okY {
			return nil
		}
		x, y = r.content.Apply(x, y)
		out = append(out, types.Float(round(x)), types.Float(round(y)))
	}
	return out
}

// reshape gives a page's copy its boxes, and returns what is seen of it. The boxes of printers
// (14.11.2) were those of the whole page, and are left out.
func (r *reshaping) reshape(page types.Dict) rectangle {
	for _, key := range []string{"BleedBox", "TrimBox", "ArtBox", "CropBox"} {
		delete(page, key)
	}
	page["MediaBox"] = numbers(round(r.box.x0), round(r.box.y0), round(r.box.x1), round(r.box.y1))
	return r.box
}

// operators begin a page's content: what was cut from it does not show beside what
// is kept (8.5.4, 8.3.4).
func (r *reshaping) operators() string {
	clip := func(b rectangle) string {
		return fmt.Sprintf("%.5f %.5f %.5f %.5f re W n\n", b.x0, b.y0, b.x1-b.x0, b.y1-b.y0)
	}
	m, operators := r.content, "q\n"
	if r.onSheet {
		operators += clip(r.seen)
	}
	if r.moves {
		operators += fmt.Sprintf("%.8f %.8f %.8f %.8f %.5f %.5f cm\n", m.A, m.B, m.C, m.D, m.E, m.F) + clip(r.before)
	}
	return operators
}

// pointsOf are the entries of annotations that hold points of the page: of
// markup, lines, polygons and ink (12.5.6), but for those that are lists of lists.
var pointsOf = []string{"QuadPoints", "L", "CL", "Vertices"}

// reshapeAnnotation moves an annotation's copy along with what it is on. Its
// appearance is fitted into its new rectangle and stays readable.
func (c *copier) reshapeAnnotation(dict, copied types.Dict, r *reshaping) {
	if rect, ok := c.doc.rectangle(dict["Rect"]); ok {
		moved := r.rect(rect)
		copied["Rect"] = numbers(round(moved.x0), round(moved.y0), round(moved.x1), round(moved.y1))
	}
	for _, key := range pointsOf {
		if dict[key] != nil {
			if moved := r.points(c.doc, dict[key]); moved != nil {
				copied[key] = moved
			}
		}
	}
	ink := c.doc.array(dict["InkList"])
	moved := make(types.Array, 0, len(ink))
	for _, stroke := range ink {
		moved = append(moved, r.points(c.doc, stroke))
	}
	if len(moved) > 0 {
		copied["InkList"] = moved
	}
}

// destination moves the point or the rectangle that a destination names (table
// 151); one that names less shows the page from where it did.
func (r *reshaping) destination(d *Document, dest types.Array) {
	if len(dest) < 2 {
		return
	}
	numbers := make([]float64, 0, 4)
	for _, o := range dest[2:] {
		if v, ok := d.number(o); ok {
			numbers = append(numbers, v)
		}
	}
	switch kind := d.name(dest[1]); {
	case kind == "XYZ" && len(dest) == 5 && len(numbers) >= 2:
		x, y := r.content.Apply(numbers[0], numbers[1])
		dest[2], dest[3] = types.Float(round(x)), types.Float(round(y))
	case kind == "FitR" && len(numbers) == 4:
		moved := r.rect(rectangle{numbers[0], numbers[1], numbers[2], numbers[3]})
		for i, v := range []float64{moved.x0, moved.y0, moved.x1, moved.y1} {
			dest[2+i] = types.Float(round(v))
		}
	}
}

// isCutAway tells of an annotation that lies wholly outside what is kept of its
// page: it is left out, as what lies there is.
func (c *copier) isCutAway(dict types.Dict, r *reshaping) bool {
	rect, ok := c.doc.rectangle(dict["Rect"])
	if r == nil || !ok || c.doc.name(dict["Subtype"]) == "Popup" {
		return false
	}
	rect = r.rect(rect)
	return rect.x1 <= r.seen.x0 || rect.x0 >= r.seen.x1 || rect.y1 <= r.seen.y0 || rect.y0 >= r.seen.y1
}
