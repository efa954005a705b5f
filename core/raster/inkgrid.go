package raster

import (
	"image"
	"image/color"
	"math"

	"dorbin/core/geometry"
)

// InkGrid is a coarse map of a page: in which of its cells there is anything but paper.
type InkGrid struct {
	Across int    `json:"across"`
	Down   int    `json:"down"`
	Cells  []byte `json:"cells"` // a bit each, row by row, the highest bit first
}

const (
	gridAcross  = 70  // cells of a page's width: 3 mm of A4
	gridMost    = 400 // cells of the length of a very long page
	gridPixels  = 4   // along each edge of a cell
	inkContrast = 60  // levels that ink differs from paper
	inkedShare  = 0.07
)

// FindInkGrid maps a page. What differs plainly from the paper, lighter or darker, is ink.
func FindInkGrid(img image.Image) InkGrid {
	size := img.Bounds().Size()
	g := InkGrid{Across: gridAcross}
	g.Down = min(gridMost, max(1, int(math.Round(gridAcross*float64(size.Y)/float64(max(1, size.X))))))
	g.Cells = make([]byte, (g.Across*g.Down+7)/8)
	small := ToGray(Resize(img, g.Across*gridPixels, g.Down*gridPixels))
	paper := int(color.GrayModel.Convert(PaperColour(img)).(color.Gray).Y) //nolint:forcetypeassert // the model gives nothing else
	for cell := range g.Across * g.Down {
		x0, y0 := cell%g.Across*gridPixels, cell/g.Across*gridPixels
		inked := 0
		for y := y0; y < y0+gridPixels; y++ {
			for x := x0; x < x0+gridPixels; x++ {
				if level := int(small.GrayAt(x, y).Y); level < paper-inkContrast || level > paper+inkContrast {
					inked++
				}
			}
		}
		if float64(inked) > inkedShare*gridPixels*gridPixels {
			g.Cells[cell/8] |= 0x80 >> (cell % 8)
		}
	}
	return g
}

// HasInk tells whether there is anything in a box, in fractions of the page.
func (g InkGrid) HasInk(box geometry.Box) bool {
	if len(g.Cells) < (g.Across*g.Down+7)/8 {
		return false
	}
	clamp := func(v float64, cells int) int { return min(cells-1, max(0, int(v*float64(cells)))) }
	for y := clamp(box.Y0, g.Down); y <= clamp(box.Y1, g.Down); y++ {
		for x := clamp(box.X0, g.Across); x <= clamp(box.X1, g.Across); x++ {
			cell := y*g.Across + x
			if g.Cells[cell/8]&(0x80>>(cell%8)) != 0 {
				return true
			}
		}
	}
	return false
}
