package pdf

import (
	"bytes"
	"fmt"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
)

// handlingOf is what a policy says of an annotation. Links are always kept; pop-up windows
// belong to comments, and there is nothing of them to be fixed.
func (d *Document) handlingOf(annot types.Dict, policy annotation.Policy) annotation.Handling {
	switch d.name(annot["Subtype"]) {
	case "Link":
		return annotation.Kept
	case "Widget":
		return policy.Fields
	case "Popup":
		if policy.Comments != annotation.Kept {
			return annotation.LeftOut
		}
	}
	return policy.Comments
}

// fix plans what is drawn of an annotation that becomes part of its page, and tells whether it
// can be.
func (c *copier) fix(annot types.Dict, plan *fieldPlan) bool {
	drawn, ok := c.doc.drawingOf(annot)
	if ok {
		plan.fixed = append(plan.fixed, drawn)
	}
	return ok
}

// drawing is what is drawn of an annotation that becomes part of its page: a form XObject, or
// content of its own, with the font for fieldFont if it has text, and the graphics state that it is
// drawn in.
type drawing struct {
	form    types.IndirectRef
	at      geometry.Affine // from the form's space to the page's
	content string
	font    types.Object
	state   types.Dict
}

// drawingOf is what an annotation looks like. It is not ok where nothing tells, so that the
// annotation has to stay what it is.
func (d *Document) drawingOf(annot types.Dict) (drawn drawing, ok bool) {
	rect, hasRect := d.rectangle(annot["Rect"])
	if !hasRect {
		return drawing{}, false
	}
	if ref, found := d.normalAppearance(annot); found {
		return d.appearanceAt(ref, rect)
	}
	if d.name(annot["Subtype"]) == "Widget" {
		return d.fieldDrawing(annot, rect)
	}
	return d.markupDrawing(annot, rect)
}

// normalAppearance finds the stream of an annotation's normal appearance, in the state that it
// is in (12.5.5).
func (d *Document) normalAppearance(annot types.Dict) (types.IndirectRef, bool) {
	normal := d.dict(annot["AP"])["N"]
	if states, several := d.resolve(normal).(types.Dict); several {
		normal = states[d.name(annot["AS"])]
	}
	ref, isRef := normal.(types.IndirectRef)
	_, isStream := d.resolve(normal).(types.StreamDict)
	return ref, isRef && isStream
}

// appearanceAt places an appearance: its box, transformed by its matrix, fills the annotation's
// rectangle (algorithm 8 in 12.5.5).
func (d *Document) appearanceAt(ref types.IndirectRef, rect rectangle) (drawing, bool) {
	stream, _ := d.resolve(ref).(types.StreamDict)
	box, ok := d.rectangle(stream.Dict["BBox"])
	if !ok {
		return drawing{}, false
	}
	shown := box.geometry().Mapped(d.matrixOf(stream))
	size := shown.Size()
	if size.Width <= 0 || size.Height <= 0 {
		return drawing{}, true // there is nothing to see of it
	}
	across, down := (rect.x1-rect.x0)/size.Width, (rect.y1-rect.y0)/size.Height
	at := geometry.Translation(-shown.X0, -shown.Y0).Then(geometry.Scaling(across, down)).Then(geometry.Translation(rect.x0, rect.y0))
	stream.Dict["Subtype"] = types.Name("Form") // readers take it for one where this is missing
	return drawing{form: ref, at: at}, true
}

// drawnAround gives the content of a page with what is drawn before and behind it: where it
// moves or is laid on a sheet, what annotations look like that become part of it, and the marks
// that are added to it. What that needs is named in the page's resources.
func (c *copier) drawnAround(
	contents types.Array, page int, copied types.Dict, plan *fieldPlan, r *reshaping, marks drawnMarks,
) types.Array {
	var before types.Array
	var behind strings.Builder
	if marks.text != "" {
		before = append(before, c.smallStream([]byte(marks.text)))
	}
	if marks.under != "" {
		before = append(before, c.sharedStream(marks.under))
	}
	wraps := r != nil && (r.moves || r.onSheet)
	if wraps {
		before = append(before, c.sharedStream(r.operators()))
	}
	if len(plan.fixed) > 0 || !marks.isEmpty() {
		before = append(before, c.sharedStream("q\n"))
		behind.WriteString(strings.Repeat("\nQ", 1+c.doc.leftOpen(page)) + "\n")
		c.nameDrawn(copied, page, plan, marks, &behind)
	}
	if wraps {
		behind.WriteString("\nQ\n")
	}
	behind.WriteString(marks.head)
	if behind.Len() == 0 {
		return contents
	}
	all := append(before, contents...)
	if len(plan.fixed) > 0 {
		return append(all, c.smallStream([]byte(behind.String()+marks.own+marks.tail)))
	}
	if marks.own == "" {
		return append(all, c.sharedStream(behind.String()+marks.tail))
	}
	return append(all, c.sharedStream(behind.String()), c.smallStream([]byte(marks.own)), c.sharedStream(marks.tail))
}

// nameDrawn names in a page's resources what its marks need, and draws the annotations that become
// part of it. Pages with the same resources and marks share the resources that this makes.
func (c *copier) nameDrawn(copied types.Dict, page int, plan *fieldPlan, marks drawnMarks, behind *strings.Builder) {
	key := ""
	if before, ok := copied["Resources"]; ok && len(plan.fixed) == 0 {
		key = string(appendDict(appendDict(appendObject(nil, before), marks.fonts), marks.forms))
		if known, ok := c.withMarks[key]; ok {
			copied["Resources"] = known
			return
		}
	}
	resources := c.ownResources(copied, page)
	for _, drawn := range plan.fixed {
		behind.WriteString(c.draw(drawn, resources))
	}
	for name, font := range marks.fonts {
		resources.set("Font", name, font)
	}
	for name, form := range marks.forms {
		resources.set("XObject", name, form)
	}
	if key != "" {
		written := reference(c.add(resources.copied))
		c.withMarks[key], copied["Resources"] = written, written
	}
}

// draw is the content that draws what an annotation looks like.
func (c *copier) draw(drawn drawing, resources *ownedResources) string {
	switch {
	case drawn.content != "":
		if drawn.font != nil {
			resources.set("Font", fieldFont, drawn.font)
		}
		state := ""
		if len(drawn.state) > 0 {
			state = "/" + resources.add("ExtGState", "DorbinG", drawn.state) + " gs\n"
		}
		return "q\n" + state + drawn.content + "Q\n"
	case drawn.form.ObjectNumber != 0:
		if form := c.value(drawn.form); form != nil {
			m := drawn.at
			return fmt.Sprintf("q %s cm /%s Do Q\n", operands(m.A, m.B, m.C, m.D, m.E, m.F), resources.add("XObject", "DorbinX", form))
		}
	}
	return ""
}

// leftOpen counts the graphics states that a page's content saves and does not restore (8.4.2):
// what is drawn behind it would be moved with them.
func (d *Document) leftOpen(page int) int {
	open := 0
	for _, content := range d.contentOf(d.pages[page]) {
		if !mayHaveOperator(content, 'q') {
			continue
		}
		s := contentScanner{content: content}
		for token, more := s.next(); more; token, more = s.next() {
			switch {
			case string(token) == "q":
				open++
			case string(token) == "Q" && open > 0:
				open--
			case string(token) == "ID":
				s.skipInlineImage()
			}
		}
	}
	return min(open, maxDepth)
}

// mayHaveOperator tells whether an operator of one letter stands in content, or the letter stands alone
// in a text or is a name. It takes a tenth of the time that it takes to go through the operators.
func mayHaveOperator(content []byte, letter byte) bool {
	stands := func(at int) bool { return at >= 0 && at < len(content) && kinds[content[at]] == regular }
	for at := 0; ; at++ {
		next := bytes.IndexByte(content[at:], letter)
		if next < 0 {
			return false
		}
		if at += next; !stands(at-1) && !stands(at+1) {
			return true
		}
	}
}

// ownedResources are the resources of one page alone, to which entries can be added.
type ownedResources struct {
	copied types.Dict
	names  map[string]types.Dict // by category, what was copied or added
}

// ownResources gives a page's copy resources of its own.
func (c *copier) ownResources(page types.Dict, index int) *ownedResources {
	source := c.doc.dict(c.doc.pages[index].resources)
	copied, isDirect := page["Resources"].(types.Dict)
	if !isDirect {
		copied = c.dictExcept(source)
	}
	r := &ownedResources{copied: copied, names: map[string]types.Dict{}}
	for _, category := range []string{"Font", "XObject", "ExtGState"} {
		entries, isDirect := copied[category].(types.Dict)
		if !isDirect {
			entries = c.dictExcept(c.doc.dict(source[category]))
		}
		r.names[category] = entries
	}
	page["Resources"] = copied
	return r
}

// set names an entry that is the same whoever sets it.
func (r *ownedResources) set(category, name string, value types.Object) {
	r.names[category][name] = value
	r.copied[category] = r.names[category]
}

// add gives an entry the first free name that begins so.
func (r *ownedResources) add(category, prefix string, value types.Object) string {
	entries := r.names[category]
	for n := 1; ; n++ {
		name := fmt.Sprintf("%s%d", prefix, n)
		if _, taken := entries[name]; !taken {
			r.set(category, name, value)
			return name
		}
	}
}
