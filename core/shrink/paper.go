package shrink

import (
	"image"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

const (
	levelsOfPaper = 200  // that its squares are compared at, however dark it is
	mostSteps     = 0.97 // of the squares, in the order of how much they differ from their neighbours
	steepLevels   = 18   // by which these differ where there are edges that are no ink
	steepTimes    = 5.5  // as much as those in the middle: else it is grain, or print that shows through
)

// paper is the colour of the paper in squares of so many pixels, as if there were no ink.
type paper struct {
	colours *image.RGBA
	levels  *image.Gray // the same in grey
	// The square across, and down, in which each pixel is: looked up many times.
	columns, rows []int
}

func paperOf(img *image.RGBA, ink *bilevel.Bitmap, square int) *paper {
	colours := background(img, ink, square)
	return &paper{colours, raster.ToGray(colours), squaresOf(ink.Width, square), squaresOf(ink.Height, square)}
}

// squaresOf gives, for so many pixels, in which square each is of those of so many pixels.
func squaresOf(pixels, square int) []int {
	squares := make([]int, pixels)
	for i := range squares {
		squares[i] = i / square
	}
	return squares
}

func (p *paper) levelAt(x, y int) int {
	return int(p.levels.Pix[p.rows[y]*p.levels.Stride+p.columns[x]])
}

// at gives the colour of the paper at a pixel.
func (p *paper) at(x, y int) []uint8 {
	return p.colours.Pix[p.colours.PixOffset(p.columns[x], p.rows[y]):][:3]
}

// isUneven tells whether what is between the ink has edges of its own outside the pictures: it is no paper then.
func (p *paper) isUneven(shown *pictures) bool {
	var steps [256]int
	count := 0
	w, h := p.levels.Rect.Dx(), p.levels.Rect.Dy()
	for y := range h - 1 {
		for x := range w - 1 {
			if shown.isNear(x*shown.columns/w, y*shown.rows/h) {
				continue
			}
			i := y*p.levels.Stride + x
			here, right, below := int(p.levels.Pix[i]), int(p.levels.Pix[i+1]), int(p.levels.Pix[i+p.levels.Stride])
			step := (max(here-right, right-here) + max(here-below, below-here)) * levelsOfPaper / max(noPaper, here)
			steps[min(step, len(steps)-1)]++
			count++
		}
	}
	steep := levelAt(&steps, int(mostSteps*float64(count)))
	return steep >= steepLevels && float64(steep) >= steepTimes*float64(levelAt(&steps, count/2))
}
