package raster

import (
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	xdraw "golang.org/x/image/draw"
)

// TestResizeIsWhatTheStandardPackageDraws compares with the slower scaler of
// golang.org/x/image.
func TestResizeIsWhatTheStandardPackageDraws(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	for _, c := range [][4]int{{40, 30, 80, 60}, {40, 30, 61, 47}, {40, 30, 33, 29}, {40, 30, 11, 16}, {40, 30, 20, 15}, {40, 30, 39, 8}, {1, 1, 5, 7}, {1, 9, 3, 9}, {40, 30, 40, 55}, {37, 23, 18, 11}, {13, 7, 29, 31}, {9, 40, 4, 13}} {
		rgba := image.NewRGBA(image.Rect(3, 2, 3+c[0], 2+c[1]))
		gray := image.NewGray(rgba.Rect)
		for i := range gray.Pix {
			gray.Pix[i] = uint8(random.IntN(256))
			copy(rgba.Pix[4*i:], []uint8{uint8(random.IntN(256)), uint8(random.IntN(256)), uint8(random.IntN(256)), 255})
		}
		for _, img := range []image.Image{rgba, gray, withPlainRows(gray)} {
			want := image.NewRGBA(image.Rect(0, 0, c[2], c[3]))
			xdraw.BiLinear.Scale(want, want.Rect, img, img.Bounds(), draw.Src, nil)
			got := ToRGBA(Resize(img, c[2], c[3]))
			worst := 0
			for i := range want.Pix {
				worst = max(worst, int(want.Pix[i])-int(got.Pix[i]), int(got.Pix[i])-int(want.Pix[i]))
			}
			assert.LessOrEqual(t, worst, 2, "%v of %T", c, img)
		}
	}
	part := image.NewGray(image.Rect(0, 0, 20, 20))
	part.SetGray(9, 9, color.Gray{Y: 200})
	cut := part.SubImage(image.Rect(9, 9, 11, 11))
	assert.Equal(t, uint8(200), ToGray(Resize(cut, 4, 4)).GrayAt(0, 0).Y, "of a piece")
}

// withPlainRows has paper in most of its rows, in two levels, as a mask has around a text.
func withPlainRows(img *image.Gray) *image.Gray {
	out := image.NewGray(img.Rect)
	for y := range img.Rect.Dy() {
		row := out.Pix[y*out.Stride:][:img.Rect.Dx()]
		if y%8 == 2 {
			copy(row, img.Pix[y*img.Stride:])
			continue
		}
		for x := range row {
			row[x] = uint8(255 - 40*(y/16))
		}
	}
	return out
}
