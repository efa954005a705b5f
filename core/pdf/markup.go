package pdf

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/geometry"
)

// markupDrawing is what a comment without an appearance looks like by its entries (12.5.6): marked
// text, a shape or a line. It is not ok for notes and stamps, which each reader draws in its own way,
// for what has more to it than is drawn here, and for what is damaged.
func (d *Document) markupDrawing(annot types.Dict, rect rectangle) (drawn drawing, ok bool) {
	subtype := d.name(annot["Subtype"])
	switch subtype {
	case "Highlight", "Underline", "StrikeOut", "Squiggly":
		drawn.content = d.markedText(annot, subtype)
	case "Square", "Circle":
		drawn.content = d.shape(annot, rect, subtype)
	case "Ink", "Line", "PolyLine", "Polygon":
		drawn.content = d.drawnLines(annot, subtype)
	}
	drawn.state = types.Dict{}
	if subtype == "Highlight" {
		drawn.state["BM"] = types.Name("Multiply") // the text is read through it
	}
	if opacity, has := d.number(annot["CA"]); has && opacity >= 0 && opacity < 1 {
		drawn.state["CA"], drawn.state["ca"] = types.Float(opacity), types.Float(opacity)
	}
	return drawn, drawn.content != ""
}

// points are pairs of numbers; none where there is anything else among them.
func (d *Document) points(o types.Object) []geometry.Point {
	numbers := d.array(o)
	points := make([]geometry.Point, 0, len(numbers)/2)
	for pair := range slices.Chunk(numbers, 2) {
		if len(pair) < 2 {
			return nil
		}
		x, isX := d.number(pair[0])
		y, isY := d.number(pair[1])
		if !isX || !isY {
			return nil
		}
		points = append(points, geometry.Point{X: x, Y: y})
	}
	return points
}

// Where the lines of marked text are and how thick, in shares of its height above its lower edge.
const (
	underlineHeight = 0.08
	strikeHeight    = 0.45
	markThickness   = 0.06
	wave            = 0.06 // how far a squiggly line goes up and down
)

// markedText is content that marks text in the quadrilaterals that an annotation names (12.5.6.10).
func (d *Document) markedText(annot types.Dict, subtype string) string {
	var content strings.Builder
	fill, stroke := d.colourOperator(annot["C"], "g", "rg", "k"), d.colourOperator(annot["C"], "G", "RG", "K")
	if fill == "" {
		return ""
	}
	waves := mostWaves
	for corners := range slices.Chunk(d.points(annot["QuadPoints"]), 4) {
		if len(corners) < 4 {
			break
		}
		// Programs give the two upper corners first, both from the left, though the standard goes around.
		upperLeft, upperRight, lowerLeft, lowerRight := corners[0], corners[1], corners[2], corners[3]
		height := math.Hypot(upperLeft.X-lowerLeft.X, upperLeft.Y-lowerLeft.Y)
		at := func(share float64) []geometry.Point {
			return []geometry.Point{between(lowerLeft, upperLeft, share), between(lowerRight, upperRight, share)}
		}
		line := at(underlineHeight)
		switch subtype {
		case "Highlight":
			content.WriteString(fill + "\n" + path([]geometry.Point{upperLeft, upperRight, lowerRight, lowerLeft}) + "h f\n")
			continue
		case "StrikeOut":
			line = at(strikeHeight)
		case "Squiggly":
			line = squiggle(at(underlineHeight-wave), at(underlineHeight+wave), height*2*wave, waves)
			waves -= len(line) - 1
		}
		fmt.Fprintf(&content, "%s %s w\n%sS\n", stroke, operands(height*markThickness), path(line))
	}
	return content.String()
}

// mostWaves are those of all lines of one annotation, which may name thousands. What is left of them
// is straight.
const mostWaves = 2000

// squiggle goes to and fro between two lines, a step along for each, but at most so many times.
func squiggle(lower, upper []geometry.Point, step float64, most int) []geometry.Point {
	length := math.Hypot(lower[1].X-lower[0].X, lower[1].Y-lower[0].Y)
	steps := max(1, int(min(float64(most), length/max(step, 0.1))))
	points := []geometry.Point{lower[0]}
	for i := 1; i <= steps; i++ {
		line := lower
		if i%2 == 1 {
			line = upper
		}
		points = append(points, between(line[0], line[1], float64(i)/float64(steps)))
	}
	return points
}

// between is a point so far on the way from one to another, from 0 to 1.
func between(from, to geometry.Point, share float64) geometry.Point {
	return geometry.Point{X: from.X + share*(to.X-from.X), Y: from.Y + share*(to.Y-from.Y)}
}

// path is content that goes through points, without painting.
func path(points []geometry.Point) string {
	var content []byte
	for i, p := range points {
		operator := " l\n"
		if i == 0 {
			operator = " m\n"
		}
		content = append(appendOperands(content, p.X, p.Y), operator...)
	}
	return string(content)
}

// shape is content that draws a rectangle or an ellipse (12.5.6.8).
func (d *Document) shape(annot types.Dict, rect rectangle, subtype string) string {
	if d.isCloud(annot) {
		return ""
	}
	if inset := d.array(annot["RD"]); len(inset) == 4 {
		var by [4]float64
		for i := range by {
			by[i], _ = d.number(inset[i])
		}
		rect = rectangle{rect.x0 + by[0], rect.y0 + by[1], rect.x1 - by[2], rect.y1 - by[3]}
	}
	pen := d.penOf(annot)
	half := pen.width / 2 // the line is within the rectangle
	rect = rectangle{rect.x0 + half, rect.y0 + half, rect.x1 - half, rect.y1 - half}
	if rect.x1 <= rect.x0 || rect.y1 <= rect.y0 || pen.paint(true) == "" {
		return ""
	}
	outline := ellipse(rect)
	if subtype == "Square" {
		outline = operands(rect.x0, rect.y0, rect.x1-rect.x0, rect.y1-rect.y0) + " re\n"
	}
	return pen.set() + outline + pen.paint(true)
}

// isCloud tells whether the border of an annotation is drawn as a cloud (12.5.4).
func (d *Document) isCloud(annot types.Dict) bool { return d.name(d.dict(annot["BE"])["S"]) == "C" }

// ellipse is the path of an ellipse that fills a rectangle, of four Bézier curves.
func ellipse(r rectangle) string {
	const reach = 0.5523 // of the control points, in shares of the half axes: within 0.03 % of a circle
	x, y, a, b := (r.x0+r.x1)/2, (r.y0+r.y1)/2, (r.x1-r.x0)/2, (r.y1-r.y0)/2
	p, q := reach*a, reach*b
	return operands(x+a, y) + " m\n" +
		operands(x+a, y+q, x+p, y+b, x, y+b) + " c\n" + operands(x-p, y+b, x-a, y+q, x-a, y) + " c\n" +
		operands(x-a, y-q, x-p, y-b, x, y-b) + " c\n" + operands(x+p, y-b, x+a, y-q, x+a, y) + " c\nh\n"
}

// drawnLines is content that draws lines: by hand, straight, or through points (12.5.6.7, 12.5.6.9,
// 12.5.6.13). Those with heads or leaders are not drawn.
func (d *Document) drawnLines(annot types.Dict, subtype string) string {
	for _, head := range d.array(annot["LE"]) {
		if name := d.name(head); name != "" && name != "None" {
			return ""
		}
	}
	if leader, _ := d.number(annot["LL"]); leader != 0 || d.isCloud(annot) {
		return ""
	}
	lines := []types.Object{annot[map[string]string{"Line": "L", "PolyLine": "Vertices", "Polygon": "Vertices"}[subtype]]}
	if subtype == "Ink" {
		lines = d.array(annot["InkList"])
	}
	outline := ""
	for _, line := range lines {
		if points := d.points(line); len(points) > 1 {
			outline += path(points)
		}
	}
	pen := d.penOf(annot)
	isClosed := subtype == "Polygon"
	if isClosed {
		outline += "h\n"
	}
	if paint := pen.paint(isClosed); outline != "" && paint != "" {
		return pen.set() + "1 J 1 j\n" + outline + paint
	}
	return ""
}

// pen is how the lines of an annotation are drawn, and how they are filled (12.5.4).
type pen struct {
	width        float64 // points
	dashes       string  // the operand of the operator d
	stroke, fill string  // operators that set the colours; empty for none
}

func (d *Document) penOf(annot types.Dict) pen {
	p := pen{
		width: 1, dashes: "[]",
		stroke: d.colourOperator(annot["C"], "G", "RG", "K"), fill: d.colourOperator(annot["IC"], "g", "rg", "k"),
	}
	style, border := d.dict(annot["BS"]), d.array(annot["Border"])
	switch {
	case style != nil:
		if width, ok := d.number(style["W"]); ok {
			p.width = width
		}
		if d.name(style["S"]) == "D" {
			p.dashes = d.dashes(d.array(style["D"]))
		}
	case len(border) >= 3:
		p.width, _ = d.number(border[2])
		if len(border) > 3 {
			p.dashes = d.dashes(d.array(border[3]))
		}
	}
	p.width = max(0, p.width)
	return p
}

// dashes are lengths of dashes and gaps in points: of 3 each where none are given.
func (d *Document) dashes(lengths types.Array) string {
	var given []float64
	for _, length := range lengths {
		if n, ok := d.number(length); ok && n > 0 {
			given = append(given, n)
		}
	}
	if len(given) == 0 {
		given = []float64{3}
	}
	return "[" + operands(given...) + "]"
}

// set is content that takes up the pen.
func (p pen) set() string {
	return fmt.Sprintf("%s %s %s w %s 0 d\n", p.stroke, p.fill, operands(p.width), p.dashes)
}

// paint is the operator that paints a path, which is filled if it is closed; empty where nothing would
// be seen.
func (p pen) paint(isClosed bool) string {
	strokes, fills := p.stroke != "" && p.width > 0, p.fill != "" && isClosed
	switch {
	case strokes && fills:
		return "B\n"
	case strokes:
		return "S\n"
	case fills:
		return "f\n"
	}
	return ""
}
