package raster

import (
	"image"
	"image/draw"
)

// Multiplied is a picture with another one multiplied into an area of it, as light that passes
// through both: white leaves what is there, black is black (ISO 32000-2, 11.3.5.2, Multiply).
func Multiplied(img, over image.Image, area image.Rectangle) image.Image {
	bounds := img.Bounds()
	out := image.NewRGBA(image.Rect(0, 0, bounds.Dx(), bounds.Dy()))
	draw.Draw(out, out.Rect, img, bounds.Min, draw.Src)
	if area.Empty() {
		return out
	}
	scaled := ToRGBA(Resize(over, area.Dx(), area.Dy()))
	seen := area.Intersect(out.Rect)
	for y := seen.Min.Y; y < seen.Max.Y; y++ {
		for x := seen.Min.X; x < seen.Max.X; x++ {
			below := out.Pix[out.PixOffset(x, y):]
			above := scaled.Pix[scaled.PixOffset(x-area.Min.X, y-area.Min.Y):]
			for i := range 3 {
				below[i] = uint8(int(below[i]) * int(above[i]) / 255) //nolint:gosec // at most 255
			}
		}
	}
	return out
}
