package raster

import (
	"image"
	"image/color"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
)

// numbered is a picture whose pixels all differ.
func numbered(w, h int) *image.Gray {
	img := image.NewGray(image.Rect(0, 0, w, h))
	for i := range img.Pix {
		img.Pix[i] = byte(i * 7)
	}
	return img
}

func TestTurnsComposeToNothing(t *testing.T) {
	img := numbered(5, 3)
	for _, turns := range [][]int{{90, 270}, {180, 180}, {90, 90, 90, 90}, {0}, {270, 180, 270}} {
		var turned image.Image = img
		for _, degrees := range turns {
			turned = Turn(turned, degrees)
		}
		assert.Equal(t, img, turned, turns)
	}
}

func TestATurnRightBringsTheTopLeftCornerToTheTopRight(t *testing.T) {
	img := numbered(4, 2)
	right := Turn(img, 90).(*image.Gray)
	assert.Equal(t, image.Rect(0, 0, 2, 4), right.Rect)
	assert.Equal(t, img.GrayAt(0, 0), right.GrayAt(1, 0))
	assert.Equal(t, img.GrayAt(3, 1), right.GrayAt(0, 3))
}

// TestOrientations compares colour and grey, which take different paths, and
// checks that each orientation and its opposite cancel out.
func TestOrientations(t *testing.T) {
	img := numbered(5, 3)
	opposite := map[int]int{1: 1, 2: 2, 3: 3, 4: 4, 5: 5, 6: 8, 7: 7, 8: 6}
	for orientation, back := range opposite {
		assert.Equal(t, img, Orient(Orient(img, orientation), back), "orientation %d", orientation)
		colour := Orient(ToRGBA(img), orientation)
		gray := Orient(img, orientation)
		for y := range gray.Bounds().Dy() {
			for x := range gray.Bounds().Dx() {
				assert.Equal(t, color.RGBAModel.Convert(gray.At(x, y)), colour.At(x, y))
			}
		}
	}
}

func TestAsStoredFindsAPartOfAnUprightPicture(t *testing.T) {
	img := numbered(50, 40)
	for orientation := range 9 {
		upright := Orient(img, orientation)
		size := upright.Bounds().Size()
		part := image.Rect(5, 10, size.X-15, size.Y-20)
		share := func(x, of int) float64 { return float64(x) / float64(of) }
		stored := AsStored(geometry.Box{
			X0: share(part.Min.X, size.X), Y0: share(part.Min.Y, size.Y), X1: share(part.Max.X, size.X), Y1: share(part.Max.Y, size.Y),
		}, orientation).Mapped(geometry.Scaling(50, 40))
		cut := Cut(img, image.Rect(int(stored.X0+0.5), int(stored.Y0+0.5), int(stored.X1+0.5), int(stored.Y1+0.5)))
		assert.Equal(t, ToGray(Cut(upright, part)).Pix, ToGray(Orient(cut, orientation)).Pix, "orientation %d", orientation)
	}
}

func TestMirroredOrientations(t *testing.T) {
	img := numbered(5, 3)
	for orientation := range 9 {
		want := Orient(Orient(img, orientation), Mirrored)
		assert.Equal(t, want, Orient(img, MirroredOrientation(orientation)), "orientation %d", orientation)
	}
}

func TestResizeKeepsMeanAndSize(t *testing.T) {
	img := image.NewGray(image.Rect(0, 0, 403, 301))
	for i := range img.Pix {
		img.Pix[i] = 255 * byte(i%2)
	}
	ycbcr := image.NewYCbCr(img.Rect, image.YCbCrSubsampleRatio420)
	copy(ycbcr.Y, img.Pix)
	for i := range ycbcr.Cb {
		ycbcr.Cb[i], ycbcr.Cr[i] = 128, 128
	}
	for _, source := range []image.Image{img, ToRGBA(img), ycbcr} {
		small := Resize(source, 50, 40)
		assert.Equal(t, image.Pt(50, 40), small.Bounds().Size())
		sum := 0
		for y := range 40 {
			for x := range 50 {
				sum += int(color.GrayModel.Convert(small.At(x, y)).(color.Gray).Y)
			}
		}
		assert.InDelta(t, 127, sum/2000, 4)
	}
}

func TestColoursOfAShrunkenPhotographStay(t *testing.T) {
	for _, ratio := range []image.YCbCrSubsampleRatio{image.YCbCrSubsampleRatio444, image.YCbCrSubsampleRatio422, image.YCbCrSubsampleRatio420, image.YCbCrSubsampleRatio440} {
		img := image.NewYCbCr(image.Rect(0, 0, 91, 67), ratio)
		for i := range img.Y {
			img.Y[i] = 140
		}
		for i := range img.Cb {
			img.Cb[i], img.Cr[i] = 90, 170
		}
		r, g, b := color.YCbCrToRGB(140, 90, 170)
		small := Resize(img.SubImage(image.Rect(3, 5, 83, 65)), 20, 15)
		assert.Equal(t, color.RGBA{r, g, b, 255}, small.At(11, 7), ratio.String())
	}
}

func TestFit(t *testing.T) {
	img := numbered(300, 100)
	assert.Same(t, img, Fit(img, 300))
	assert.Equal(t, image.Pt(120, 40), Fit(img, 120).Bounds().Size())
	assert.Equal(t, image.Pt(1, 1), Fit(numbered(3000, 2), 1).Bounds().Size())
}

func TestWhatIsSeeThroughLiesOnWhite(t *testing.T) {
	clear := image.NewNRGBA(image.Rect(0, 0, 40, 40))
	r, g, b, a := Resize(clear, 7, 7).At(3, 3).RGBA()
	assert.Equal(t, [4]uint32{0xFFFF, 0xFFFF, 0xFFFF, 0xFFFF}, [4]uint32{r, g, b, a})
}

// TestGreyIsWeighedAsJPEGDoes goes by the weights for one pixel, in rows of an odd and an even length.
func TestGreyIsWeighedAsJPEGDoes(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 4))
	for width := 1; width < 20; width++ {
		img := image.NewRGBA(image.Rect(0, 0, width, 3))
		for i := range img.Pix {
			img.Pix[i] = uint8(random.IntN(256)) | uint8(width%2*0xFF)
		}
		gray := ToGray(img)
		for i, got := range gray.Pix {
			red, green, blue := float64(img.Pix[4*i]), float64(img.Pix[4*i+1]), float64(img.Pix[4*i+2])
			assert.InDelta(t, 0.299*red+0.587*green+0.114*blue, got, 0.51, "pixel %d of %d", i, width)
		}
	}
}
