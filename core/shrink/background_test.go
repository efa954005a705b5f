package shrink

import (
	"image"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/bilevel"
)

// TestBackgroundAveragesThePaper holds the squares of random pictures against sums of single pixels.
func TestBackgroundAveragesThePaper(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 9))
	for n := range 60 {
		width, height, factor := 1+random.IntN(300), 1+random.IntN(20), 1+random.IntN(20)
		if n%20 == 0 {
			factor = 290 // wider than is added at once
		}
		img, ink := image.NewRGBA(image.Rect(0, 0, width, height)), bilevel.New(width, height)
		for i := range img.Pix {
			img.Pix[i] = uint8(random.IntN(256)) | uint8(n%2*0xFF)
		}
		for range random.IntN(4) * width {
			ink.Set(random.IntN(width), random.IntN(height))
		}
		back := background(img, ink, factor)
		for y := range back.Rect.Dy() {
			for x := range back.Rect.Dx() {
				var want sum
				for v := y * factor; v < min(height, (y+1)*factor); v++ {
					for u := x * factor; u < min(width, (x+1)*factor); u++ {
						if !ink.Black(u, v) {
							want.add(img.Pix[img.PixOffset(u, v):])
						}
					}
				}
				if want.count > 0 {
					assert.Equal(t, want.mean(), back.RGBAAt(x, y), "square %d, %d of %d pixels, %d × %d", x, y, factor, width, height)
				}
			}
		}
	}
}

func TestMeansAreWholeNumbersAsDivisionGivesThem(t *testing.T) {
	for n := range uint32(len(inverses) + 3) {
		for level := range uint32(256) {
			for _, more := range []uint32{0, 1, n / 2, n - 1} {
				if s := (sum{level * n, level*n + more, 0, n}); n > 0 && s.green <= 255*n {
					assert.EqualValues(t, []uint32{s.red / n, s.green / n}, []uint32{uint32(s.mean().R), uint32(s.mean().G)})
				}
			}
		}
	}
}
