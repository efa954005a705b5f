package check

import (
	"image"
	"math"

	"dorbin/core/geometry"
	"dorbin/core/raster"
)

// InkDPI is at how many dots an inch two pages are compared.
const InkDPI = 100

// Bounds of what two scans of the same sheet may differ by, in pixels at InkDPI.
const (
	farthestShift  = 56 // of a page on the glass, to each side: 14 mm
	coarse         = 8  // edge of the squares by which pages are laid on each other roughly
	blockEdge      = 64 // of what is laid on the other page at once: no rotation or stretch is seen in it
	blockReach     = 5  // by which a block lies elsewhere than its page
	fewestInBlock  = 24 // pixels of ink by which a block finds its place; with fewer it goes with its page
	windowEdge     = 26 // of the places at which ink is counted that the other page lacks: a short word
	mostLacking    = 14 // pixels of ink in such a place that noise, or another threshold, explains
	fewestInkCells = 6  // of a page that can be compared
)

// InkComparison is what became of laying two pages on each other.
type InkComparison struct {
	IsSame bool
	// Differences are where ink of one page is not on the other, as shares of the second
	// page's width and height.
	Differences []geometry.Box
}

// CompareInk lays two pages on each other, and tells whether their ink is the same. Paper, light,
// a little tilt and shift, and noise do not count. The ink must be found at its place within a
// pixel, in both directions.
func CompareInk(first, second *Ink) InkComparison {
	if first.cells() < fewestInkCells || second.cells() < fewestInkCells {
		return InkComparison{}
	}
	dx, dy := first.roughShift(second)
	lacking := second.newMap() // in the second page's pixels
	first.markLacking(second, dx, dy, func(x, y, bx, by int) { lacking.set(x+bx, y+by) })
	second.markLacking(first, -dx, -dy, func(x, y, _, _ int) { lacking.set(x, y) })
	boxes := lacking.crowded()
	result := InkComparison{IsSame: len(boxes) == 0}
	for _, box := range boxes {
		result.Differences = append(result.Differences, second.share(box))
	}
	return result
}

// Edges of the pictures that a miniature is made of, in pixels.
const (
	miniatureEdge = 800 // the longer one of the page
	blurredEdge   = 20  // so coarse that a tilt that was not measured hardly matters
)

// miniatureOf is a page's ink in so few cells that scans of the same sheet look alike: levelled,
// and with the middle of the ink in the middle, as sheets lie otherwise each time.
func miniatureOf(img image.Image, tilt raster.Tilt) raster.Miniature {
	size := img.Bounds().Size()
	longer := max(size.X, size.Y)
	page := findInk(raster.Resize(img, max(1, size.X*miniatureEdge/longer), max(1, size.Y*miniatureEdge/longer)), tilt)
	ink, sumX, sumY := 0, 0, 0
	for i, isInk := range page.ink {
		if isInk {
			ink, sumX, sumY = ink+1, sumX+i%page.width, sumY+i/page.width
		}
	}
	if ink == 0 {
		return nil
	}
	const edge = miniatureEdge * 5 / 4
	canvas := raster.NewWhite(image.Rect(0, 0, edge, edge))
	dx, dy := edge/2-sumX/ink, edge/2-sumY/ink
	for i, isInk := range page.ink {
		if x, y := i%page.width+dx, i/page.width+dy; isInk && image.Pt(x, y).In(canvas.Rect) {
			canvas.Pix[y*canvas.Stride+x] = 0
		}
	}
	return raster.NewMiniature(raster.Resize(canvas, blurredEdge, blurredEdge))
}

// Ink is where the ink of a page is.
type Ink struct {
	width, height int
	ink           []bool
	near          []bool // within a pixel of ink; of pages that are compared
}

// FindInk finds the ink of a page that is to be compared. Its picture is at InkDPI, upright.
func FindInk(img image.Image) *Ink {
	p := findInk(img, raster.MeasureTilt(img))
	p.near = p.widened()
	return p
}

// Turned is the ink of the page turned by 0, 90, 180 or 270 degrees clockwise.
func (p *Ink) Turned(degrees int) *Ink {
	if degrees == 0 {
		return p
	}
	turned := &Ink{width: p.width, height: p.height, ink: make([]bool, len(p.ink)), near: make([]bool, len(p.near))}
	if degrees != 180 {
		turned.width, turned.height = p.height, p.width
	}
	for y := range p.height {
		for x := range p.width {
			to := 0
			switch degrees {
			case 90:
				to = x*turned.width + turned.width - 1 - y
			case 180:
				to = len(p.ink) - 1 - (y*p.width + x)
			case 270:
				to = (turned.height-1-x)*turned.width + y
			}
			turned.ink[to], turned.near[to] = p.ink[y*p.width+x], p.near[y*p.width+x]
		}
	}
	return turned
}

func findInk(img image.Image, tilt raster.Tilt) *Ink {
	bw, _ := raster.Tone{Mode: raster.BlackWhite}.Apply(levelled(img, tilt)).(*image.Gray) // which it always is
	p := &Ink{width: bw.Rect.Dx(), height: bw.Rect.Dy()}
	p.ink = make([]bool, p.width*p.height)
	for y := range p.height {
		for x, v := range bw.Pix[y*bw.Stride:][:p.width] {
			p.ink[y*p.width+x] = v < 128
		}
	}
	p.dropEdges()
	p.dropSpecks()
	return p
}

// leastMoved is by how many pixels at its edge a page must be off level to be turned.
const leastMoved = 0.25

// levelled is a page turned by its tilt, so that its lines are level.
func levelled(img image.Image, tilt raster.Tilt) *image.Gray {
	gray := raster.ToGray(img)
	reach := float64(max(gray.Rect.Dx(), gray.Rect.Dy())) / 2
	moved := reach * math.Sin(math.Abs(tilt.Angle)*math.Pi/180) // pixels, at the edge
	if tilt.Sure < raster.SureTilt || moved < leastMoved {
		return gray
	}
	return turnedBy(gray, -tilt.Angle)
}

// turnedBy turns a picture about its middle by degrees clockwise. Beside it is what is at its edge.
func turnedBy(gray *image.Gray, degrees float64) *image.Gray {
	w, h := gray.Rect.Dx(), gray.Rect.Dy()
	out := image.NewGray(image.Rect(0, 0, w, h))
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	cx, cy := float64(w-1)/2, float64(h-1)/2
	for y := range h {
		for x := range w {
			ox, oy := float64(x)-cx, float64(y)-cy
			out.Pix[y*out.Stride+x] = between4(gray, cx+cos*ox+sin*oy, cy-sin*ox+cos*oy)
		}
	}
	return out
}

// between4 is the grey at a point, weighed among the four pixels around it.
func between4(gray *image.Gray, x, y float64) uint8 {
	x0, y0 := int(math.Floor(x)), int(math.Floor(y))
	fx, fy := x-float64(x0), y-float64(y0)
	at := func(x, y int) float64 {
		x, y = max(0, min(gray.Rect.Dx()-1, x)), max(0, min(gray.Rect.Dy()-1, y))
		return float64(gray.Pix[y*gray.Stride+x])
	}
	top := at(x0, y0)*(1-fx) + at(x0+1, y0)*fx
	bottom := at(x0, y0+1)*(1-fx) + at(x0+1, y0+1)*fx
	return uint8(top*(1-fy) + bottom*fy + 0.5)
}

// dropEdges drops the ink near the page's edge and all that hangs together with it: the lid, and
// shadows of the paper and of a binding.
func (p *Ink) dropEdges() {
	const edge = InkDPI / 4
	var open []int
	drop := func(i int) {
		if p.ink[i] {
			p.ink[i] = false
			open = append(open, i)
		}
	}
	for i := range p.ink {
		if x, y := i%p.width, i/p.width; x < edge || y < edge || x >= p.width-edge || y >= p.height-edge {
			drop(i)
		}
	}
	for len(open) > 0 {
		i := open[len(open)-1]
		open = open[:len(open)-1]
		x, y := i%p.width, i/p.width
		for ny := max(0, y-1); ny <= min(p.height-1, y+1); ny++ {
			for nx := max(0, x-1); nx <= min(p.width-1, x+1); nx++ {
				drop(ny*p.width + nx)
			}
		}
	}
}

// dropSpecks drops ink of one or two pixels.
func (p *Ink) dropSpecks() {
	kept := make([]bool, len(p.ink))
	for y := 1; y < p.height-1; y++ {
		for x := 1; x < p.width-1; x++ {
			i := y*p.width + x
			kept[i] = p.ink[i] && p.neighbours(i) >= 2
		}
	}
	p.ink = kept
}

// neighbours is how many of the eight pixels around one that is not at the edge are ink.
func (p *Ink) neighbours(i int) (n int) {
	for _, by := range [8]int{-p.width - 1, -p.width, -p.width + 1, -1, 1, p.width - 1, p.width, p.width + 1} {
		if p.ink[i+by] {
			n++
		}
	}
	return n
}

// widened is the ink and all within a pixel of it.
func (p *Ink) widened() []bool {
	near := make([]bool, len(p.ink))
	for y := 1; y < p.height-1; y++ {
		for x := 1; x < p.width-1; x++ {
			i := y*p.width + x
			near[i] = p.ink[i] || p.neighbours(i) > 0
		}
	}
	return near
}

func (p *Ink) newMap() *Ink {
	return &Ink{width: p.width, height: p.height, ink: make([]bool, p.width*p.height)}
}

func (p *Ink) set(x, y int) {
	if x >= 0 && y >= 0 && x < p.width && y < p.height {
		p.ink[y*p.width+x] = true
	}
}

func (p *Ink) isNear(x, y int) bool {
	return x >= 0 && y >= 0 && x < p.width && y < p.height && p.near[y*p.width+x]
}

// cells is how many coarse squares have ink.
func (p *Ink) cells() (n int) {
	_, _, density := p.density()
	for _, ink := range density {
		if ink > 0 {
			n++
		}
	}
	return n
}

// density is how much ink is in each coarse square.
func (p *Ink) density() (columns, rows int, density []int) {
	columns, rows = (p.width+coarse-1)/coarse, (p.height+coarse-1)/coarse
	density = make([]int, columns*rows)
	for i, ink := range p.ink {
		if ink {
			density[i/p.width/coarse*columns+i%p.width/coarse]++
		}
	}
	return columns, rows, density
}

// roughShift is by how many pixels another page lies elsewhere, to a pixel or two: the coarse
// squares tell where about, the rows and columns of ink the rest.
func (p *Ink) roughShift(other *Ink) (dx, dy int) {
	columns, rows, mine := p.density()
	itsColumns, itsRows, its := other.density()
	best := -1
	const reach = farthestShift / coarse
	for sy := -reach; sy <= reach; sy++ {
		for sx := -reach; sx <= reach; sx++ {
			sum := 0
			for y := max(0, -sy); y < min(rows, itsRows-sy); y++ {
				for x := max(0, -sx); x < min(columns, itsColumns-sx); x++ {
					sum += mine[y*columns+x] * its[(y+sy)*itsColumns+x+sx]
				}
			}
			if sum > best {
				best, dx, dy = sum, sx*coarse, sy*coarse
			}
		}
	}
	return bestShift(p.profile(true), other.profile(true), dx), bestShift(p.profile(false), other.profile(false), dy)
}

// profile is how much ink is in each column, or in each row.
func (p *Ink) profile(columns bool) []int {
	profile := make([]int, p.height)
	if columns {
		profile = make([]int, p.width)
	}
	for i, ink := range p.ink {
		switch {
		case !ink:
		case columns:
			profile[i%p.width]++
		default:
			profile[i/p.width]++
		}
	}
	return profile
}

// bestShift is by how much a profile lies elsewhere than another, near a shift.
func bestShift(mine, its []int, near int) int {
	best, at := math.MaxInt, near
	for shift := near - coarse; shift <= near+coarse; shift++ {
		apart := 0
		for i, v := range mine {
			o := 0
			if j := i + shift; j >= 0 && j < len(its) {
				o = its[j]
			}
			apart += (v - o) * (v - o)
		}
		if apart < best {
			best, at = apart, shift
		}
	}
	return at
}

// markLacking calls mark for each pixel of ink that another page lacks, which lies elsewhere by
// about dx and dy, with by how much its block does.
func (p *Ink) markLacking(other *Ink, dx, dy int, mark func(x, y, bx, by int)) {
	for top := 0; top < p.height; top += blockEdge {
		for left := 0; left < p.width; left += blockEdge {
			ink := p.inkIn(left, top)
			bx, by := p.blockShift(other, ink, dx, dy)
			for _, at := range ink {
				if !other.isNear(at.X+bx, at.Y+by) {
					mark(at.X, at.Y, bx, by)
				}
			}
		}
	}
}

func (p *Ink) inkIn(left, top int) (ink []image.Point) {
	for y := top; y < min(p.height, top+blockEdge); y++ {
		for x := left; x < min(p.width, left+blockEdge); x++ {
			if p.ink[y*p.width+x] {
				ink = append(ink, image.Pt(x, y))
			}
		}
	}
	return ink
}

// blockShift is by how much the ink of a block lies elsewhere on another page: where most of it
// is found, the nearest to where its page lies.
func (p *Ink) blockShift(other *Ink, ink []image.Point, dx, dy int) (bx, by int) {
	if len(ink) < fewestInBlock {
		return dx, dy
	}
	best := math.MinInt
	for sy := -blockReach; sy <= blockReach; sy++ {
		for sx := -blockReach; sx <= blockReach; sx++ {
			found := 0
			for _, at := range ink {
				if other.isNear(at.X+dx+sx, at.Y+dy+sy) {
					found++
				}
			}
			if score := 8*found - (sx*sx + sy*sy); score > best {
				best, bx, by = score, dx+sx, dy+sy
			}
		}
	}
	return bx, by
}

// crowded are the places where more ink is marked than noise explains. Places that touch are one.
func (p *Ink) crowded() (boxes []image.Rectangle) {
	const step = windowEdge / 2
	for top := 0; top+windowEdge <= p.height; top += step {
		for left := 0; left+windowEdge <= p.width; left += step {
			window := image.Rect(left, top, left+windowEdge, top+windowEdge)
			if p.count(window) > mostLacking {
				boxes = join(boxes, window)
			}
		}
	}
	return boxes
}

func (p *Ink) count(window image.Rectangle) (n int) {
	for y := window.Min.Y; y < window.Max.Y; y++ {
		for _, ink := range p.ink[y*p.width+window.Min.X : y*p.width+window.Max.X] {
			if ink {
				n++
			}
		}
	}
	return n
}

// join adds a box to others, and to those that it touches.
func join(boxes []image.Rectangle, box image.Rectangle) []image.Rectangle {
	var apart []image.Rectangle
	for _, other := range boxes {
		if other.Overlaps(box) {
			box = box.Union(other)
		} else {
			apart = append(apart, other)
		}
	}
	return append(apart, box)
}

// share is a box of pixels as shares of the page.
func (p *Ink) share(box image.Rectangle) geometry.Box {
	w, h := float64(p.width), float64(p.height)
	return geometry.Box{
		X0: float64(box.Min.X) / w, Y0: float64(box.Min.Y) / h,
		X1: float64(box.Max.X) / w, Y1: float64(box.Max.Y) / h,
	}
}
