package raster

import (
	"image"
	"image/color"
	"image/draw"
	"math"

	"dorbin/core/geometry"
)

// Cleaning is what is wiped off a scan. The zero Cleaning leaves all.
type Cleaning struct {
	Edges  bool `json:"edges,omitempty" doc:"The dark edges of a scan and the shadow of a binding."`
	Specks bool `json:"specks,omitempty" doc:"Single tiny marks without company."`
}

// IsZero tells whether nothing is wiped off.
func (c Cleaning) IsZero() bool { return c == Cleaning{} }

// Apply wipes a page of this size, in points, to the colour of its paper. What it
// takes for an edge and for a speck is found at the resolution of FindContent, so that
// a small picture of a page and a large one lose the same.
func (c Cleaning) Apply(img image.Image, size geometry.Size) image.Image {
	if c.IsZero() {
		return img
	}
	gray := ToGray(Fit(img, contentEdge))
	page := newContentPage(gray, size)
	var wiped []image.Rectangle
	if c.Edges {
		wiped = page.scanEdges().runs()
	}
	if c.Specks {
		wiped = append(wiped, page.specks()...)
	}
	if len(wiped) == 0 {
		return img
	}
	out := copyOf(img)
	paper := image.NewUniform(PaperColour(img))
	across := float64(out.Bounds().Dx()) / float64(page.width)
	down := float64(out.Bounds().Dy()) / float64(page.height)
	for _, r := range wiped {
		at := image.Rect(
			int(float64(r.Min.X)*across), int(float64(r.Min.Y)*down),
			int(math.Ceil(float64(r.Max.X)*across)), int(math.Ceil(float64(r.Max.Y)*down)))
		draw.Draw(out, at, paper, image.Point{}, draw.Src)
	}
	return out
}

// copyOf is a picture of its own, from the origin, in grey where the other is.
func copyOf(img image.Image) draw.Image {
	r := image.Rectangle{Max: img.Bounds().Size()}
	var out draw.Image = image.NewRGBA(r)
	if _, gray := img.(*image.Gray); gray {
		out = image.NewGray(r)
	}
	draw.Draw(out, r, img, img.Bounds().Min, draw.Src)
	return out
}

// What is the edge of a scan.
const (
	edgeDarker = 22   // grey levels, at least, by which it is darker than the paper
	edgeDeepMM = 20.0 // at most, from the border of the page
	edgeLong   = 0.1  // share of the page's shorter side along which it touches the border, at least
	edgeInto   = 0.1  // share of the sides along which it may go on deeper than that: else it is a picture
	edgeSoftMM = 1.0  // around it, where it fades
)

// mask is a set of pixels of a page.
type mask struct {
	width, height int
	set           []bool
}

func newMask(width, height int) mask { return mask{width, height, make([]bool, width*height)} }

// runs are the set's pixels, in rectangles of a row each.
func (m mask) runs() []image.Rectangle {
	var runs []image.Rectangle
	for y := range m.height {
		row := m.set[y*m.width:][:m.width]
		for x := 0; x < m.width; x++ {
			from := x
			for x < m.width && row[x] {
				x++
			}
			if x > from {
				runs = append(runs, image.Rect(from, y, x, y+1))
			}
		}
	}
	return runs
}

// grown has all pixels within a distance, measured along rows and columns.
func (m mask) grown(by int) mask {
	out := newMask(m.width, m.height)
	for _, run := range m.runs() {
		r := run.Inset(-by).Intersect(image.Rect(0, 0, m.width, m.height))
		for y := r.Min.Y; y < r.Max.Y; y++ {
			row := out.set[y*m.width:]
			for x := r.Min.X; x < r.Max.X; x++ {
				row[x] = true
			}
		}
	}
	return out
}

// scanEdges finds what is darker than the paper from the border of the page on, as far
// as it is an edge.
func (p contentPage) scanEdges() mask {
	edges := newMask(p.width, p.height)
	seen := newMask(p.width, p.height)
	dark := paperLevel(p.gray) - edgeDarker
	deep := p.pixels(edgeDeepMM)
	isDark := func(x, y int) bool { return float64(p.gray.Pix[y*p.gray.Stride+x]) < dark }
	for _, start := range p.border() {
		if seen.set[start.Y*p.width+start.X] || !isDark(start.X, start.Y) {
			continue
		}
		region := p.flood(seen, start, deep, isDark)
		if p.isEdge(region, deep) {
			for _, at := range region {
				edges.set[at.Y*p.width+at.X] = true
			}
		}
	}
	return edges.grown(p.pixels(edgeSoftMM))
}

// border is the outermost pixels of the page.
func (p contentPage) border() []image.Point {
	var border []image.Point
	for x := range p.width {
		border = append(border, image.Pt(x, 0), image.Pt(x, p.height-1))
	}
	for y := range p.height {
		border = append(border, image.Pt(0, y), image.Pt(p.width-1, y))
	}
	return border
}

// depth is how far a pixel lies from the nearest side.
func (p contentPage) depth(at image.Point) int {
	return min(at.X, at.Y, p.width-1-at.X, p.height-1-at.Y)
}

// flood gathers the pixels that hang together with one, no deeper than a limit.
func (p contentPage) flood(seen mask, start image.Point, deep int, belongs func(x, y int) bool) []image.Point {
	region := []image.Point{start}
	seen.set[start.Y*p.width+start.X] = true
	for i := 0; i < len(region); i++ {
		for _, step := range [4]image.Point{{X: 1}, {X: -1}, {Y: 1}, {Y: -1}} {
			at := region[i].Add(step)
			if at.X < 0 || at.Y < 0 || at.X >= p.width || at.Y >= p.height || p.depth(at) > deep {
				continue
			}
			if index := at.Y*p.width + at.X; !seen.set[index] && belongs(at.X, at.Y) {
				seen.set[index] = true
				region = append(region, at)
			}
		}
	}
	return region
}

// isEdge tells an edge from something that is drawn as far as the border of the page,
// and from a picture that fills it.
func (p contentPage) isEdge(region []image.Point, deep int) bool {
	touching, deepest := 0, 0
	for _, at := range region {
		switch depth := p.depth(at); {
		case depth == 0:
			touching++
		case depth == deep:
			deepest++
		}
	}
	return float64(touching) >= edgeLong*float64(min(p.width, p.height)) &&
		float64(deepest) <= edgeInto*float64(p.width+p.height)
}

// specks are the boxes of tiny marks without company, with a pixel around them.
func (p contentPage) specks() []image.Rectangle {
	marks := marksOf(threshold(p.gray))
	var specks []image.Rectangle
	for i, m := range marks {
		if p.isLoneSpeck(marks, i) {
			specks = append(specks, m.box.Inset(-1).Intersect(p.gray.Rect))
		}
	}
	return specks
}

// paintRing is how wide around what is painted over its paper is sampled, in pixels,
// as a share of the picture's longer edge.
const paintRing = 0.012

// PaintOver paints a shape with straight sides, given by its corners in pixels, with
// the colour of the paper around it.
func PaintOver(img image.Image, corners [4]geometry.Point) image.Image {
	out := copyOf(img)
	shape := shape(corners)
	bounds := shape.bounds().Intersect(out.Bounds())
	if bounds.Empty() {
		return img
	}
	paper := shape.paperAround(out, max(3, int(paintRing*float64(max(out.Bounds().Dx(), out.Bounds().Dy())))))
	for y := bounds.Min.Y; y < bounds.Max.Y; y++ {
		from, to := shape.row(float64(y) + 0.5)
		row := image.Rect(int(math.Floor(from)), y, int(math.Ceil(to)), y+1)
		draw.Draw(out, row.Intersect(bounds), image.NewUniform(paper), image.Point{}, draw.Src)
	}
	return out
}

// shape is a convex shape of four corners.
type shape [4]geometry.Point

func (s shape) bounds() image.Rectangle {
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, c := range s {
		x0, y0, x1, y1 = math.Min(x0, c.X), math.Min(y0, c.Y), math.Max(x1, c.X), math.Max(y1, c.Y)
	}
	return image.Rect(int(math.Floor(x0)), int(math.Floor(y0)), int(math.Ceil(x1)), int(math.Ceil(y1)))
}

// row is where a row of pixels begins and ends in the shape.
func (s shape) row(y float64) (from, to float64) {
	from, to = math.Inf(1), math.Inf(-1)
	for i, a := range s {
		b := s[(i+1)%len(s)]
		if (a.Y <= y) == (b.Y <= y) {
			continue
		}
		x := a.X + (y-a.Y)/(b.Y-a.Y)*(b.X-a.X)
		from, to = math.Min(from, x), math.Max(to, x)
	}
	if from > to { // a row that the shape only touches
		return 0, 0
	}
	return from, to
}

// paperAround is the colour of the lighter ground in a ring around the shape.
func (s shape) paperAround(img image.Image, ring int) color.Color {
	inner := s.bounds()
	outer := inner.Inset(-ring).Intersect(img.Bounds())
	var histograms [3][256]int
	n := 0
	for y := outer.Min.Y; y < outer.Max.Y; y++ {
		for x := outer.Min.X; x < outer.Max.X; x++ {
			if image.Pt(x, y).In(inner) {
				continue
			}
			r, g, b, _ := img.At(x, y).RGBA()
			histograms[0][r>>8]++
			histograms[1][g>>8]++
			histograms[2][b>>8]++
			n++
		}
	}
	if n == 0 {
		return PaperColour(img)
	}
	return paperOf(&histograms, n)
}
