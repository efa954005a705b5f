package shrink

import (
	"image"

	"dorbin/core/raster"
)

// Kind is what a picture of a page shows, from its content.
type Kind string

// The kinds.
const (
	Blank          Kind = "blank"      // paper with nothing on it
	BlackText      Kind = "blackText"  // black ink on paper
	ColourText     Kind = "colourText" // ink on paper, some of it in colour: a letterhead, a stamp, a signature
	ContinuousTone Kind = "photograph" // no paper to be seen, or little
)

const (
	kindEdge     = 1000   // pixels at which a page is analysed
	picturesMost = 0.35   // share of a page that is paper with ink, all the same
	manyPictures = 0.1    // share of a page, from which it is a photograph if layers cannot show it
	inkLeast     = 0.0003 // share of a page that is not blank
	colourful    = 45     // by how much more a channel is than another, in grey levels, where there is colour
	colourfulInk = 0.01   // share of the ink
)

// KindOf tells what a picture of a page shows.
func KindOf(img image.Image) Kind {
	small := raster.ToRGBA(raster.Fit(img, kindEdge))
	if picturesOn(small).share() > picturesMost {
		return ContinuousTone
	}
	ink := inkOf(small)
	black, coloured := 0, 0
	for y := range ink.Height {
		for x := range ink.Width {
			if !ink.Black(x, y) {
				continue
			}
			black++
			i := small.PixOffset(x, y)
			r, g, b := int(small.Pix[i]), int(small.Pix[i+1]), int(small.Pix[i+2])
			if max(r, g, b)-min(r, g, b) >= colourful {
				coloured++
			}
		}
	}
	switch {
	case float64(black) < inkLeast*float64(ink.Width*ink.Height):
		return Blank
	case float64(coloured) >= colourfulInk*float64(black):
		return ColourText
	}
	return BlackText
}
