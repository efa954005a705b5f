package raster

import (
	"image"
	"image/color"
	"image/draw"
)

// Cut gives the pixels of a rectangle of an image, counted from its top left, with
// what lies outside the image left out. Every pixel stays what it is.
func Cut(img image.Image, r image.Rectangle) image.Image {
	bounds := img.Bounds()
	r = r.Add(bounds.Min).Intersect(bounds)
	switch img := img.(type) {
	case *image.Gray:
		out := image.NewGray(image.Rect(0, 0, r.Dx(), r.Dy()))
		for y := range r.Dy() {
			copy(out.Pix[y*out.Stride:][:r.Dx()], img.Pix[img.PixOffset(r.Min.X, r.Min.Y+y):])
		}
		return out
	default:
		rgba := ToRGBA(img)
		if image.Image(rgba) != img && r == bounds {
			return rgba // which nobody else has
		}
		r = r.Sub(bounds.Min).Add(rgba.Rect.Min)
		out := image.NewRGBA(image.Rect(0, 0, r.Dx(), r.Dy()))
		for y := range r.Dy() {
			copy(out.Pix[y*out.Stride:][:4*r.Dx()], rgba.Pix[rgba.PixOffset(r.Min.X, r.Min.Y+y):])
		}
		return out
	}
}

// paperShare is the share of a page's pixels that are darker than its paper.
const paperShare = 0.7

// PaperColour is the colour of most of a page's lighter ground, with which what a
// page lacks is filled.
func PaperColour(img image.Image) color.Color {
	small := ToRGBA(Fit(img, 200))
	var histograms [3][256]int
	for i := 0; i < len(small.Pix); i += 4 {
		for channel := range histograms {
			histograms[channel][small.Pix[i+channel]]++
		}
	}
	return paperOf(&histograms, len(small.Pix)/4)
}

// paperOf is the colour of most of the lighter of n pixels, by their red, green and
// blue.
func paperOf(histograms *[3][256]int, n int) color.Color {
	level := func(channel int) uint8 { return uint8(percentile(&histograms[channel], n, paperShare)) } //nolint:gosec // below 256
	return color.RGBA{level(0), level(1), level(2), 255}
}

// OnSheet lays an image on a white sheet of so many pixels, its top left at a point of
// it. What does not fit is left out.
func OnSheet(img image.Image, at image.Point, width, height int) image.Image {
	var sheet draw.Image
	if _, gray := img.(*image.Gray); gray {
		sheet = NewWhite(image.Rect(0, 0, width, height))
	} else {
		sheet = onWhite(width, height)
	}
	draw.Draw(sheet, img.Bounds().Sub(img.Bounds().Min).Add(at), img, img.Bounds().Min, draw.Src)
	return sheet
}
