package raster

import "image"

// ColourStep is by how many levels the channels of a colour differ at most that passes for grey.
const ColourStep = 24

const (
	fewColours = 0.001 // share of such pixels that may be noise of a camera or of a JPEG
	colourEdge = 500   // pixels of the longer edge that are looked at
)

// ShowsColour tells whether a picture shows more than shades of grey.
func ShowsColour(img image.Image) bool {
	if _, ok := img.(*image.Gray); ok {
		return false
	}
	small := Fit(img, colourEdge)
	bounds := small.Bounds()
	coloured := 0
	for y := bounds.Min.Y; y < bounds.Max.Y; y++ {
		for x := bounds.Min.X; x < bounds.Max.X; x++ {
			r, g, b, _ := small.At(x, y).RGBA()
			if max(r, g, b)-min(r, g, b) > ColourStep<<8 {
				coloured++
			}
		}
	}
	return float64(coloured) > fewColours*float64(bounds.Dx()*bounds.Dy())
}
