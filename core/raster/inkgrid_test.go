package raster

import (
	"image"
	"image/color"
	"image/draw"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
)

func TestInkGrid(t *testing.T) {
	for name, c := range map[string]struct{ paper, ink uint8 }{"black on white": {255, 0}, "grey on tinted": {200, 90}, "white on dark": {60, 250}} {
		page := image.NewGray(image.Rect(0, 0, 700, 1000))
		draw.Draw(page, page.Rect, image.NewUniform(color.Gray{Y: c.paper}), image.Point{}, draw.Src)
		draw.Draw(page, image.Rect(70, 900, 350, 905), image.NewUniform(color.Gray{Y: c.ink}), image.Point{}, draw.Src)
		g := FindInkGrid(page)
		for want, boxes := range map[bool][]geometry.Box{
			true:  {{X0: 0.2, Y0: 0.88, X1: 0.3, Y1: 0.92}, {X1: 1, Y1: 1}, {X0: 0.1, Y0: 0.9, X1: 0.1, Y1: 0.9}},
			false: {{X0: 0.6, Y0: 0.88, X1: 0.9, Y1: 0.92}, {X0: 0.2, Y0: 0.93, X1: 0.3, Y1: 1.5}, {X1: 1, Y1: 0.5}},
		} {
			for _, box := range boxes {
				assert.Equal(t, want, g.HasInk(box), "%s: %v", name, box)
			}
		}
	}
	assert.False(t, InkGrid{Across: 70, Down: 99}.HasInk(geometry.Box{X1: 1, Y1: 1}), "one without its cells")
	assert.Len(t, FindInkGrid(image.NewGray(image.Rect(0, 0, 1, 65_000))).Cells, gridAcross*gridMost/8)
}
