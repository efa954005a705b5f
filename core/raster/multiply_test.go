package raster

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestMultiplied(t *testing.T) {
	grey := image.NewGray(image.Rect(10, 10, 14, 14))
	for i := range grey.Pix {
		grey.Pix[i] = 200
	}
	over := image.NewRGBA(image.Rect(0, 0, 2, 2))
	for i := range over.Pix {
		over.Pix[i] = 255
	}
	over.SetRGBA(0, 0, color.RGBA{255, 0, 128, 255})
	got := Multiplied(grey, over, image.Rect(2, 2, 4, 4))
	assert.Equal(t, color.RGBA{200, 0, 100, 255}, got.At(2, 2))
	assert.Equal(t, color.RGBA{200, 200, 200, 255}, got.At(3, 3))
	assert.Equal(t, color.RGBA{200, 200, 200, 255}, got.At(0, 0))
	assert.Equal(t, image.Rect(0, 0, 4, 4), Multiplied(grey, over, image.Rect(-1, 3, 9, 40)).Bounds(), "what is beyond the picture is nowhere")
	assert.Equal(t, color.RGBA{200, 200, 200, 255}, Multiplied(grey, over, image.Rectangle{}).At(1, 1))
}
