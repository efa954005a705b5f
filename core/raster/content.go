package raster

import (
	"image"
	"math"

	"dorbin/core/bilevel"
	"dorbin/core/geometry"
)

// contentEdge is the longer edge, in pixels, at which content is looked for: of A4
// a pixel is 0.27 mm.
const contentEdge = 1400

// What is no content, in millimetres.
const (
	speckMM       = 0.6  // a mark no larger than this …
	companyMM     = 4.0  // … counts only with other marks as near as this
	edgeStripMM   = 12.0 // what touches the page's border and reaches no deeper is its scan's edge
	paperEdgeMM   = 15.0 // within this a line along most of the page may be the paper's own edge
	thinMM        = 3.0
	holeLeastMM   = 4.0
	holeMostMM    = 8.5
	holeFromEdge  = 20.0
	paperEdgeLong = 0.6 // share of the page's side
	darkerOutside = 25  // grey levels
)

// FindContent tells where on a page of this size, in points, there is anything: the
// smallest box around all that is darker than its surroundings by the threshold of
// Sauvola and Pietikäinen at four dots a millimetre. The dark edges of a scan, the
// paper's edge against a dark lid, the holes of a punch and single specks are no
// content. The zero box is an empty page.
func FindContent(img image.Image, size geometry.Size) geometry.Box {
	gray := ToGray(Fit(img, contentEdge))
	page := newContentPage(gray, size)
	marks := marksOf(threshold(gray))
	kept := marks[:0]
	for _, m := range marks {
		if !page.isScanEdge(m) && !page.isPaperEdge(m) && !page.isHole(m) {
			kept = append(kept, m)
		}
	}
	var box image.Rectangle
	for i, m := range kept {
		if !page.isLoneSpeck(kept, i) {
			box = box.Union(m.box)
		}
	}
	if box.Empty() {
		return geometry.Box{}
	}
	across, down := size.Width/float64(page.width), size.Height/float64(page.height)
	return geometry.Box{
		X0: float64(box.Min.X) * across, Y0: float64(box.Min.Y) * down,
		X1: float64(box.Max.X) * across, Y1: float64(box.Max.Y) * down,
	}
}

// mark is ink that hangs together.
type mark struct {
	box  image.Rectangle
	area int
}

// marksOf finds the marks of a black-and-white picture, in which black is 0.
func marksOf(bw *image.Gray) []mark {
	components := bilevel.FromGray(bw).Components()
	marks := make([]mark, len(components))
	for i, c := range components {
		marks[i] = mark{c.Box, c.Area}
	}
	return marks
}

// contentPage is a page in grey, with its pixels' size.
type contentPage struct {
	gray          *image.Gray
	width, height int
	perMM         float64 // pixels
}

func newContentPage(gray *image.Gray, size geometry.Size) contentPage {
	w, h := gray.Rect.Dx(), gray.Rect.Dy()
	perMM := math.Max(float64(w), float64(h)) / geometry.MM(math.Max(size.Width, size.Height))
	return contentPage{gray, w, h, perMM}
}

func (p contentPage) pixels(mm float64) int { return int(math.Ceil(mm * p.perMM)) }

// isScanEdge tells of marks at the border of the page that do not reach into it:
// the shadow of a binding, what the scanner saw beside the paper.
func (p contentPage) isScanEdge(m mark) bool {
	deep := p.pixels(edgeStripMM)
	b := m.box
	const touching = 2
	switch {
	case b.Min.X <= touching && b.Max.X <= deep, b.Max.X >= p.width-touching && b.Min.X >= p.width-deep,
		b.Min.Y <= touching && b.Max.Y <= deep, b.Max.Y >= p.height-touching && b.Min.Y >= p.height-deep:
		return true
	}
	// A dark frame on two or more sides of the page, of which most is empty.
	sides := 0
	for _, touches := range []bool{b.Min.X <= touching, b.Max.X >= p.width-touching, b.Min.Y <= touching, b.Max.Y >= p.height-touching} {
		if touches {
			sides++
		}
	}
	return sides >= 2 && float64(m.area) < 0.2*float64(b.Dx()*b.Dy())
}

// isPaperEdge tells of a thin line along most of a side of the page, near it, with
// darker ground beyond: where the paper ends on a dark lid.
func (p contentPage) isPaperEdge(m mark) bool {
	thin, near := p.pixels(thinMM), p.pixels(paperEdgeMM)
	b := m.box
	step := p.pixels(1)
	switch {
	case b.Dx() <= thin && float64(b.Dy()) >= paperEdgeLong*float64(p.height):
		if b.Max.X <= near {
			return p.darker(image.Rect(0, b.Min.Y, b.Min.X, b.Max.Y), image.Rect(b.Max.X, b.Min.Y, b.Max.X+3*step, b.Max.Y))
		}
		return b.Min.X >= p.width-near &&
			p.darker(image.Rect(b.Max.X, b.Min.Y, p.width, b.Max.Y), image.Rect(b.Min.X-3*step, b.Min.Y, b.Min.X, b.Max.Y))
	case b.Dy() <= thin && float64(b.Dx()) >= paperEdgeLong*float64(p.width):
		if b.Max.Y <= near {
			return p.darker(image.Rect(b.Min.X, 0, b.Max.X, b.Min.Y), image.Rect(b.Min.X, b.Max.Y, b.Max.X, b.Max.Y+3*step))
		}
		return b.Min.Y >= p.height-near &&
			p.darker(image.Rect(b.Min.X, b.Max.Y, b.Max.X, p.height), image.Rect(b.Min.X, b.Min.Y-3*step, b.Max.X, b.Min.Y))
	}
	return false
}

// darker tells whether the ground beyond an edge is darker than that within. Where
// nothing lies beyond, it is.
func (p contentPage) darker(beyond, within image.Rectangle) bool {
	beyond = beyond.Intersect(p.gray.Rect)
	return beyond.Empty() || p.mean(beyond) < p.mean(within.Intersect(p.gray.Rect))-darkerOutside
}

func (p contentPage) mean(r image.Rectangle) float64 {
	sum := 0
	for y := r.Min.Y; y < r.Max.Y; y++ {
		for _, v := range p.gray.Pix[y*p.gray.Stride+r.Min.X : y*p.gray.Stride+r.Max.X] {
			sum += int(v)
		}
	}
	return float64(sum) / math.Max(1, float64(r.Dx()*r.Dy()))
}

// isHole tells of the round holes of a punch, near an edge, dark in their middle.
func (p contentPage) isHole(m mark) bool {
	b := m.box
	w, h := float64(b.Dx())/p.perMM, float64(b.Dy())/p.perMM
	if math.Min(w, h) < holeLeastMM || math.Max(w, h) > holeMostMM || math.Max(w, h) > 1.25*math.Min(w, h) {
		return false
	}
	strip := p.pixels(holeFromEdge)
	if !(b.Max.X <= strip || b.Min.X >= p.width-strip || b.Max.Y <= strip || b.Min.Y >= p.height-strip) {
		return false
	}
	middle := b.Inset(b.Dx() / 4)
	// A disc leaves the corners of its box empty: π/4 of it is filled.
	filled := float64(m.area) / float64(b.Dx()*b.Dy())
	return filled > 0.6 && filled < 0.9 && p.mean(middle) < p.mean(p.gray.Rect)-darkerOutside
}

// isLoneSpeck tells of a tiny mark without larger company.
func (p contentPage) isLoneSpeck(marks []mark, i int) bool {
	most := p.pixels(speckMM)
	m := marks[i]
	if m.box.Dx() > most || m.box.Dy() > most {
		return false
	}
	around := m.box.Inset(-p.pixels(companyMM))
	for j, other := range marks {
		if j != i && (other.box.Dx() > most || other.box.Dy() > most) && other.box.Overlaps(around) {
			return false
		}
	}
	return true
}
