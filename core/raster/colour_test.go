package raster

import (
	"image"
	"image/color"
	"image/draw"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPicturesThatShowColour(t *testing.T) {
	sheet := func(paper color.Color) *image.RGBA {
		img := image.NewRGBA(image.Rect(0, 0, 600, 800))
		draw.Draw(img, img.Rect, image.NewUniform(paper), image.Point{}, draw.Src)
		draw.Draw(img, image.Rect(100, 100, 500, 110), image.Black, image.Point{}, draw.Src)
		return img
	}
	assert.False(t, ShowsColour(sheet(color.White)))
	assert.False(t, ShowsColour(sheet(color.RGBA{240, 238, 228, 255})), "paper that is a little yellow")
	assert.False(t, ShowsColour(image.NewGray(image.Rect(0, 0, 9, 9))))
	stamped := sheet(color.White)
	draw.Draw(stamped, image.Rect(400, 600, 460, 640), image.NewUniform(color.RGBA{200, 30, 40, 255}), image.Point{}, draw.Src)
	assert.True(t, ShowsColour(stamped))
	assert.True(t, ShowsColour(sheet(color.RGBA{255, 230, 150, 255})))
}
