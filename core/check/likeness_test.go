package check

import (
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/raster"
)

// drawnSheet is a page of a paper's lightness with grain and the shadow of a lid, and lines of
// writing at these heights.
func drawnSheet(paper, grain int, lines ...int) *image.Gray {
	random := rand.New(rand.NewPCG(4, 2))
	page := image.NewGray(image.Rect(0, 0, 240, 340))
	for i := range page.Pix {
		shadow := i % 240 / 20
		page.Pix[i] = uint8(max(0, min(255, paper-shadow+random.IntN(grain+1))))
	}
	for _, y := range lines {
		for x := 20; x < 200; x += 3 {
			for dy := range 6 {
				page.SetGray(x, y+dy, color.Gray{Y: uint8(40 + random.IntN(40))})
			}
		}
	}
	return page
}

func TestComparedPages(t *testing.T) {
	written := drawnSheet(225, 20, 40, 60, 80, 100, 200)
	white := raster.Tone{Mode: raster.BlackWhite}.Apply(written)
	paler := image.NewGray(written.Rect)
	draw.Draw(paler, paler.Rect, written, image.Point{}, draw.Src)
	for i, v := range paler.Pix {
		paler.Pix[i] = uint8(min(255, 120+int(v)*135/255))
	}
	torn := drawnSheet(225, 20, 40, 60, 80, 100, 200)
	draw.Draw(torn, image.Rect(0, 50, 240, 340), image.White, image.Point{}, draw.Src)
	black := image.NewGray(written.Rect)
	for name, tc := range map[string]struct {
		before, after image.Image
		want          Likeness
	}{
		"the same":                 {written, written, Alike},
		"whiter paper":             {written, drawnSheet(255, 0, 40, 60, 80, 100, 200), Alike},
		"black and white":          {written, white, Alike},
		"paler ink":                {written, paler, Alike},
		"an empty page":            {written, drawnSheet(255, 0), Empty},
		"one line that is gone":    {drawnSheet(240, 8, 170), image.NewUniform(color.White), Empty},
		"blank, and whiter":        {drawnSheet(215, 20), drawnSheet(255, 0), Alike},
		"upside down":              {written, raster.Turn(written, 180), Different},
		"another page":             {written, drawnSheet(225, 20, 130, 150, 220, 240, 300), Different},
		"most of it gone":          {written, torn, Different},
		"something added":          {drawnSheet(240, 8), written, Different},
		"a black page for a white": {drawnSheet(240, 8), black, Different},
	} {
		t.Run(name, func(t *testing.T) {
			if uniform, ok := tc.after.(*image.Uniform); ok {
				page := image.NewGray(image.Rect(0, 0, 240, 340))
				draw.Draw(page, page.Rect, uniform, image.Point{}, draw.Src)
				tc.after = page
			}
			assert.Equal(t, tc.want, Compare(tc.before, tc.after))
		})
	}
}
