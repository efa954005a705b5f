package raster

import (
	"image"
	"slices"
)

const (
	inkInCell    = 0.02 // of a cell's pixels, the darkest: as dark as that is its ink
	paperInCell  = 0.85 // of a cell's pixels, that are darker than the bright parts of its paper
	seenInk      = 24   // levels below white, from which there is ink in a cell, and not mere grain
	seenPaper    = 200  // a level from which there is paper in it
	usualCell    = 0.75 // of the cells with ink, from the faintest: so dark is the usual ink of a page
	darkInk      = 120  // levels below white, of ink that is told from paper however it is lit
	faintestInk  = 40   // levels below white, of the faintest that is made as dark
	leastOfCells = 8    // with ink, from which a page has a usual one
)

// deepen makes the ink of a whitened page as dark as ink is usually where all of it is faint, as
// that of a carbon copy or of a pencil; other pages stay as they are.
func deepen(img *image.Gray) *image.Gray {
	usual := usualInk(img)
	if usual >= darkInk {
		return img
	}
	var curve [256]byte
	for i := range curve {
		curve[i] = byte(max(0, 255-(255-i)*darkInk/max(faintestInk, usual)))
	}
	return throughCurve(img, curve).(*image.Gray)
}

// usualInk tells by how many levels the ink of a page is darker than white where there is much of it.
func usualInk(img *image.Gray) int {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	cell := max(1, max(w, h)/lightCells)
	var inks []int
	for y := 0; y+cell <= h; y += cell {
		for x := 0; x+cell <= w; x += cell {
			if ink := inkOfCell(img, image.Rect(x, y, x+cell, y+cell)); ink >= seenInk {
				inks = append(inks, ink)
			}
		}
	}
	if len(inks) < leastOfCells {
		return darkInk
	}
	slices.Sort(inks)
	return inks[int(usualCell*float64(len(inks)-1))]
}

// inkOfCell tells by how many levels the ink in a cell is darker than white: not at all where there is
// no paper around it.
func inkOfCell(img *image.Gray, cell image.Rectangle) int {
	var histogram [256]int
	for y := cell.Min.Y; y < cell.Max.Y; y++ {
		for _, v := range img.Pix[img.PixOffset(cell.Min.X, y):][:cell.Dx()] {
			histogram[v]++
		}
	}
	n := cell.Dx() * cell.Dy()
	if percentile(&histogram, n, paperInCell) < seenPaper {
		return 0
	}
	return 255 - percentile(&histogram, n, inkInCell)
}
