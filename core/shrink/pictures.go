package shrink

import (
	"image"
	"image/draw"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

const (
	pictureCell    = 12   // pixels of a page that is analysed
	brightShare    = 0.1  // of a cell, from which it is as bright as that
	paperReach     = 8    // cells: from as far as that paper is known
	darkerThanIt   = 0.75 // of the paper's level, below which even the brightest of a cell is no paper
	noPaper        = 40   // a level at which there is no paper
	leastOfPicture = 4    // cells that hang together
	mostOfHole     = 12   // cells that are enclosed
	misfitShare    = 0.4  // of a cell, from which it is a picture
	wholeShare     = 0.12 // of the cells of a mark, from which all of it is a picture
	largeMark      = 4    // cells across and down, of more than a letter
	denseMark      = 0.2  // of its box, that a mark fills which is no frame around other things
	pictureMargin  = 2    // pixels around a picture that are kept, so that its edges stay as they are
)

// pictures tells in which cells of a page there are pictures, or nothing but darkness, instead of
// paper with ink on it. Contrast and light do not matter: between letters there is paper, as bright as
// that around, however dark that is.
type pictures struct {
	columns, rows int
	is            []bool
}

// picturesOn looks for pictures on a page.
func picturesOn(img image.Image) *pictures {
	gray := raster.ToGray(raster.Fit(img, kindEdge))
	p := &pictures{columns: max(1, gray.Rect.Dx()/pictureCell), rows: max(1, gray.Rect.Dy()/pictureCell)}
	p.is = make([]bool, p.columns*p.rows)
	bright := make([]uint8, len(p.is))
	for i := range p.is {
		at := image.Pt(i%p.columns*pictureCell, i/p.columns*pictureCell)
		cell := image.Rectangle{at, at.Add(image.Pt(pictureCell, pictureCell))}.Intersect(gray.Rect)
		bright[i] = brightestOf(gray, cell)
	}
	light := p.extreme(p.extreme(bright, func(a, b uint8) uint8 { return max(a, b) }), func(a, b uint8) uint8 { return min(a, b) })
	for i, level := range bright {
		p.is[i] = level < noPaper || float64(level) < darkerThanIt*float64(light[i])
	}
	return p
}

// brightestOf gives the level of the brightest of a cell.
func brightestOf(gray *image.Gray, cell image.Rectangle) uint8 {
	var histogram [256]int
	for y := cell.Min.Y; y < cell.Max.Y; y++ {
		for _, v := range gray.Pix[y*gray.Stride+cell.Min.X:][:cell.Dx()] {
			histogram[v]++
		}
	}
	return uint8(levelAt(&histogram, int((1-brightShare)*float64(cell.Dx()*cell.Dy())))) //nolint:gosec // a level
}

// extreme gives each cell the extreme of those around it.
func (p *pictures) extreme(in []uint8, of func(a, b uint8) uint8) []uint8 {
	out := make([]uint8, len(in))
	for i := range in {
		x, y, v := i%p.columns, i/p.columns, in[i]
		for row := max(0, y-paperReach); row <= min(p.rows-1, y+paperReach); row++ {
			for _, other := range in[row*p.columns+max(0, x-paperReach) : row*p.columns+min(p.columns, x+paperReach+1)] {
				v = of(v, other)
			}
		}
		out[i] = v
	}
	return out
}

// add takes those cells for pictures too that squares of a page of such a size cover enough of.
func (p *pictures) add(page image.Rectangle, squares []image.Rectangle) {
	covered := make([]float64, len(p.is))
	cell := float64(page.Dx()) / float64(p.columns) * float64(page.Dy()) / float64(p.rows)
	for _, square := range squares {
		middle := square.Min.Add(square.Max).Div(2)
		i := min(p.rows-1, middle.Y*p.rows/page.Dy())*p.columns + min(p.columns-1, middle.X*p.columns/page.Dx())
		covered[i] += float64(square.Dx()*square.Dy()) / cell
	}
	for i, share := range covered {
		p.is[i] = p.is[i] || share >= misfitShare
	}
}

// addAround takes the cells for pictures that squares of a page of such a size touch, and those beside them.
func (p *pictures) addAround(page image.Rectangle, squares []image.Rectangle) {
	all := image.Rect(0, 0, p.columns, p.rows)
	for _, square := range squares {
		p.each(p.touchedBy(square, page.Size()).Inset(-1).Intersect(all), func(i int) { p.is[i] = true })
	}
}

// touchedBy gives the cells that a rectangle touches on a page of so many pixels.
func (p *pictures) touchedBy(r image.Rectangle, page image.Point) image.Rectangle {
	return image.Rect(r.Min.X*p.columns/page.X, r.Min.Y*p.rows/page.Y, ceilDiv(r.Max.X*p.columns, page.X), ceilDiv(r.Max.Y*p.rows, page.Y))
}

// complete takes all of a mark, on a page of so many pixels, for a picture of which enough is one: an engraved
// letter would else be in pieces. That goes on to marks around it.
func (p *pictures) complete(marks []bilevel.Component, width, height int) {
	var boxes []image.Rectangle // of dense marks, in cells
	for _, mark := range marks {
		box := p.touchedBy(mark.Box, image.Pt(width, height))
		if min(box.Dx(), box.Dy()) >= largeMark && float64(mark.Area) >= denseMark*float64(mark.Box.Dx()*mark.Box.Dy()) {
			boxes = append(boxes, box)
		}
	}
	for before := -1.0; before != p.share(); {
		before = p.share()
		for _, box := range boxes {
			if p.countIn(box) >= wholeShare*float64(box.Dx()*box.Dy()) {
				p.each(box, func(i int) { p.is[i] = true })
			}
		}
	}
}

// countIn counts the pictures among cells.
func (p *pictures) countIn(cells image.Rectangle) (count float64) {
	p.each(cells, func(i int) {
		if p.is[i] {
			count++
		}
	})
	return count
}

func ceilDiv(a, b int) int { return (a + b - 1) / b }

// isNear tells whether a cell or one beside it is a picture.
func (p *pictures) isNear(x, y int) bool {
	around := image.Rect(x-1, y-1, x+2, y+2).Intersect(image.Rect(0, 0, p.columns, p.rows))
	return p.countIn(around) > 0
}

// each goes through cells.
func (p *pictures) each(cells image.Rectangle, do func(i int)) {
	for y := cells.Min.Y; y < cells.Max.Y; y++ {
		for x := cells.Min.X; x < cells.Max.X; x++ {
			do(y*p.columns + x)
		}
	}
}

// alone is the page with nothing but its pictures: the rest is even, and takes up no bytes.
func (p *pictures) alone(page *image.RGBA) *image.RGBA {
	w, h := page.Rect.Dx(), page.Rect.Dy()
	out := image.NewRGBA(page.Rect)
	draw.Draw(out, out.Rect, image.White, image.Point{}, draw.Src)
	for _, area := range p.areas(w, h) {
		area = area.Inset(-pictureMargin)
		draw.Draw(out, area, page, area.Min, draw.Src)
	}
	return out
}

// share is that of the page which is pictures.
func (p *pictures) share() float64 {
	count := 0
	for _, is := range p.is {
		if is {
			count++
		}
	}
	return float64(count) / float64(len(p.is))
}

// areas is where there are pictures, on a page of so many pixels: what hangs together, and is more
// than a blot.
func (p *pictures) areas(width, height int) []image.Rectangle {
	var areas []image.Rectangle
	for _, area := range p.closed().Components() {
		if area.Area < leastOfPicture {
			continue
		}
		for _, r := range area.Runs {
			areas = append(areas, image.Rect(r.From*width/p.columns, r.Y*height/p.rows, r.To*width/p.columns, (r.Y+1)*height/p.rows))
		}
	}
	return areas
}

// mask has the areas' pixels; nil where there are none.
func (p *pictures) mask(width, height int) *bilevel.Bitmap {
	areas := p.areas(width, height)
	if len(areas) == 0 {
		return nil
	}
	mask := bilevel.New(width, height)
	for _, area := range areas {
		mask.Fill(area)
	}
	return mask
}

// closed are the cells with pictures, and what is between them or enclosed by them.
func (p *pictures) closed() *bilevel.Bitmap {
	cells := bilevel.New(p.columns, p.rows)
	for i, is := range p.is {
		if is {
			cells.Set(i%p.columns, i/p.columns)
		}
	}
	cells = cells.Thickened()
	cells.Invert()
	cells = cells.Thickened()
	for _, hole := range cells.Components() {
		if hole.Area <= mostOfHole {
			cells.Erase(hole)
		}
	}
	cells.Invert()
	return cells
}

// withoutPictures gives the ink that is not in pictures.
func withoutPictures(ink, inside *bilevel.Bitmap) *bilevel.Bitmap {
	if inside == nil {
		return ink
	}
	out := ink.Clone()
	for i, bits := range inside.Bits {
		out.Bits[i] &^= bits
	}
	return out
}
