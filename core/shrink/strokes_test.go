package shrink

import (
	"image"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestTheDarkestAround(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 8))
	for range 30 {
		gray := image.NewGray(image.Rect(0, 0, 1+random.IntN(40), 1+random.IntN(20)))
		for i := range gray.Pix {
			gray.Pix[i] = uint8(random.IntN(256))
		}
		around := darkest{gray: gray, radius: 1 + random.IntN(5), y: -1, ofRows: make([]uint8, gray.Rect.Dx())}
		for y := range gray.Rect.Dy() {
			for x := range gray.Rect.Dx() {
				want := uint8(255)
				for v := y - around.radius; v <= y+around.radius; v++ {
					for u := x - around.radius; u <= x+around.radius; u++ {
						if image.Pt(u, v).In(gray.Rect) {
							want = min(want, gray.GrayAt(u, v).Y)
						}
					}
				}
				assert.Equal(t, int(want), around.at(x, y))
			}
		}
	}
}

func TestBytesThatAreLess(t *testing.T) {
	for a := range 256 {
		for b := range 256 {
			want := uint64(0)
			if a < b {
				want = 0xFF00
			}
			assert.Equal(t, want, lessThan(uint64(a)<<8|0x77_0000, uint64(b)<<8|0x11_0000), "%d, %d", a, b)
		}
	}
}
