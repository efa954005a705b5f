package raster

import (
	"image"
	"image/color"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
)

func TestFlattenUndoesTheCamera(t *testing.T) {
	random := rand.New(rand.NewPCG(4, 4))
	paper := drawPaper(random, 210.0/297)
	o := geometry.PaperQuad{{X: 0.2, Y: 0.1}, {X: 0.75, Y: 0.15}, {X: 0.82, Y: 0.93}, {X: 0.12, Y: 0.86}}
	photo := image.NewRGBA(image.Rect(0, 0, photoWidth, photoHeight))
	layDown(photo, paper, o)
	width, height := FlatPixels(o, photoWidth, photoHeight, 210.0/297)
	for name, img := range map[string]image.Image{"colour": photo, "grey": ToGray(photo)} {
		flat := ToGray(Flatten(img, o, width, height))
		truth := ToGray(Resize(paper, width, height))
		difference := 0.0
		for i := range flat.Pix {
			d := float64(flat.Pix[i]) - float64(truth.Pix[i])
			difference += d * d
		}
		assert.Less(t, difference/float64(len(flat.Pix)), 420.0, "%s: mean squared difference", name)
	}
	assert.InEpsilon(t, 210.0/297, float64(width)/float64(height), 0.01)
}

func TestFlattenOfTheWholePictureIsThePicture(t *testing.T) {
	img := numbered(40, 30)
	flat := Flatten(img, geometry.WholePicture, 40, 30).(*image.Gray)
	for y := 1; y < 29; y++ {
		for x := 1; x < 39; x++ {
			assert.InDelta(t, img.GrayAt(x, y).Y, flat.GrayAt(x, y).Y, 1)
		}
	}
}

func TestWhatLiesOutsideThePictureIsWhite(t *testing.T) {
	black := image.NewGray(image.Rect(0, 0, 100, 100))
	o := geometry.PaperQuad{{X: -0.2, Y: 0}, {X: 1, Y: 0}, {X: 1, Y: 1}, {X: -0.2, Y: 1}}
	flat := Flatten(black, o, 120, 100).(*image.Gray)
	assert.EqualValues(t, 255, flat.GrayAt(5, 50).Y)
	assert.EqualValues(t, 0, flat.GrayAt(60, 50).Y)
}

// unevenly lights a printed paper from one corner.
func unevenly(paper *image.RGBA) *image.RGBA {
	out := image.NewRGBA(paper.Rect)
	w, h := float64(paper.Rect.Dx()), float64(paper.Rect.Dy())
	for y := range paper.Rect.Dy() {
		for x := range paper.Rect.Dx() {
			light := 1 - 0.3*float64(x)/w - 0.3*float64(y)/h
			i := paper.PixOffset(x, y)
			setRGB(out, x, y, float64(paper.Pix[i])*light, float64(paper.Pix[i+1])*light, float64(paper.Pix[i+2])*light)
		}
	}
	return out
}

func TestPaperWhiteEvensTheLightAndKeepsColours(t *testing.T) {
	paper := drawPaper(rand.New(rand.NewPCG(5, 1)), 0.7)
	for y := 700; y < 740; y++ {
		for x := 300; x < 340; x++ {
			paper.SetRGBA(x, y, color.RGBA{170, 40, 40, 255}) // a stamp
		}
	}
	white := Tone{Mode: PaperWhite}.Apply(unevenly(paper)).(*image.RGBA)
	for _, at := range []image.Point{{6, 6}, {690, 8}, {8, 990}, {690, 990}, {350, 60}} {
		assert.Greater(t, white.RGBAAt(at.X, at.Y).R, uint8(238), "paper at %v", at)
		assert.Greater(t, white.RGBAAt(at.X, at.Y).B, uint8(238), "paper at %v", at)
	}
	stamp := white.RGBAAt(320, 720)
	assert.Greater(t, int(stamp.R), int(stamp.G)+90)
}

func TestBlackWhiteOfAnUnevenlyLitPageIsItsPrint(t *testing.T) {
	random := rand.New(rand.NewPCG(6, 1))
	paper := drawPaper(random, 0.7)
	truth := ToGray(paper)
	out := Tone{Mode: BlackWhite}.Apply(unevenly(paper)).(*image.Gray)
	wrong := 0
	for i, v := range out.Pix {
		assert.True(t, v == 0 || v == 255)
		if (v == 0) != (truth.Pix[i] < 128) {
			wrong++
		}
	}
	assert.Less(t, float64(wrong)/float64(len(out.Pix)), 0.012)
}

func TestBrightnessAndContrast(t *testing.T) {
	img := numbered(16, 16)
	for _, tone := range []Tone{{Brightness: 40}, {Contrast: 60}, {Contrast: -50, Brightness: -10}} {
		out := tone.Apply(img).(*image.Gray)
		curve := tone.curve()
		for v := 1; v < 256; v++ {
			assert.GreaterOrEqual(t, curve[v], curve[v-1], "%+v does not turn light into dark", tone)
		}
		assert.Equal(t, curve[img.Pix[77]], out.Pix[77])
		colour := tone.Apply(ToRGBA(img)).(*image.RGBA)
		assert.Equal(t, out.Pix[77], colour.Pix[77*4])
	}
	assert.Equal(t, image.Image(img), Tone{}.Apply(img))
}

func TestToneCheck(t *testing.T) {
	assert.NoError(t, Tone{Mode: PaperWhite, Brightness: -100, Contrast: 100}.Check())
	assert.Error(t, Tone{Mode: "sepia"}.Check())
	assert.Error(t, Tone{Brightness: 101}.Check())
}

// TestTonesOfOddSizes is for pictures smaller than a cell or a window.
func TestTonesOfOddSizes(t *testing.T) {
	for _, size := range []image.Point{{1, 1}, {3, 200}, {200, 2}, {57, 56}} {
		img := image.NewGray(image.Rectangle{Max: size})
		for i := range img.Pix {
			img.Pix[i] = 200
		}
		for _, mode := range []ToneMode{PaperWhite, GrayTone, BlackWhite} {
			assert.Equal(t, size, Tone{Mode: mode, Contrast: 5}.Apply(img).Bounds().Size(), "%v %v", size, mode)
		}
	}
}

// faded is a grey picture of a printed paper whose ink is darker than the paper by so many levels at its left and so
// many at its right.
func faded(paper *image.RGBA, left, right float64) *image.Gray {
	truth := ToGray(paper)
	out := image.NewGray(truth.Rect)
	w := truth.Rect.Dx()
	for i, v := range truth.Pix {
		by := left + (right-left)*float64(i%w)/float64(w)
		out.Pix[i] = uint8(212 - by*(255-float64(v))/255)
	}
	return out
}

func TestFaintPrintIsFoundAsStrongPrintIs(t *testing.T) {
	paper := drawPaper(rand.New(rand.NewPCG(7, 1)), 0.7)
	strong := Tone{Mode: BlackWhite}.Apply(faded(paper, 160, 160)).(*image.Gray)
	for name, page := range map[string]*image.Gray{"a carbon copy": faded(paper, 45, 75), "pencil": faded(paper, 45, 45), "print": faded(paper, 120, 190)} {
		out := Tone{Mode: BlackWhite}.Apply(page).(*image.Gray)
		ink, missed, wrong := 0, 0, 0
		for i, v := range strong.Pix {
			switch {
			case v == 0:
				ink++
				if out.Pix[i] != 0 {
					missed++
				}
			case out.Pix[i] == 0:
				wrong++
			}
		}
		assert.Less(t, float64(missed)/float64(ink), 0.12, "%s: what is missing of it", name)
		assert.Less(t, float64(wrong)/float64(ink), 0.1, "%s: what is none", name)
	}
}

func TestWhatShowsThroughPrintStaysPaper(t *testing.T) {
	front := ToGray(drawPaper(rand.New(rand.NewPCG(8, 1)), 0.7))
	back := Turn(ToGray(drawPaper(rand.New(rand.NewPCG(9, 1)), 0.7)), 180).(*image.Gray)
	page := image.NewGray(front.Rect)
	for i, v := range front.Pix {
		page.Pix[i] = uint8(min(240-(255-float64(back.Pix[i]))*30/255, float64(v)))
	}
	out := Tone{Mode: BlackWhite}.Apply(page).(*image.Gray)
	through := 0
	for i, v := range out.Pix {
		if v == 0 && front.Pix[i] > 240 {
			through++
		}
	}
	assert.Less(t, float64(through)/float64(len(out.Pix)), 0.01)
}
