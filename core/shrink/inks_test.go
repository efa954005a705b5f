package shrink

import (
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"dorbin/core/raster"
	"dorbin/internal/sampling"
)

// scanned is a few lines of text of so many points on white paper, drawn at 1200 dots an inch and
// scanned at fewer; the first result is what was drawn.
func scanned(t *testing.T, points float64, dpi int) (drawn, scan *image.Gray) {
	t.Helper()
	const fine = 1200
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: points, DPI: fine, Hinting: font.HintingNone})
	require.NoError(t, err)
	drawn = image.NewGray(image.Rect(0, 0, 3*fine, fine))
	draw.Draw(drawn, drawn.Rect, image.NewUniform(color.Gray{Y: 235}), image.Point{}, draw.Src)
	pen := &font.Drawer{Dst: drawn, Src: image.NewUniform(color.Gray{Y: 40}), Face: face}
	for line := range 4 {
		pen.Dot = fixed.P(fine/10, fine/4+line*int(1.3*points*fine/72))
		pen.DrawString("northern elevation of the boathouse, as drawn in May")
	}
	return drawn, raster.ToGray(raster.Resize(drawn, drawn.Rect.Dx()*dpi/fine, drawn.Rect.Dy()*dpi/fine))
}

// TestInkKeepsItsWeight holds text in layers against what was scanned, and against what was drawn:
// it is as dark, and its strokes are as wide.
func TestInkKeepsItsWeight(t *testing.T) {
	sampling.Heavy(t)
	for _, points := range []float64{8, 9, 10, 12} {
		for _, dpi := range []int{150, 200, 300} {
			name := fmt.Sprintf("%v points at %d dots an inch", points, dpi)
			drawn, scan := scanned(t, points, dpi)
			layered, err := newSubject(scan, float64(dpi)).inLayers().compressBackground(BackgroundParams{DPI: 100, Quality: 55})
			require.NoError(t, err, name)
			again, err := layered.drawGray(layered.size())
			require.NoError(t, err, name)
			assert.InEpsilon(t, darkness(scan, 235), darkness(again, 235), 0.03, "%s: how dark it is", name)
			if dpi < 200 {
				continue // small print has no full strokes there
			}
			black := 0.0
			for _, v := range drawn.Pix {
				if v < 137 {
					black++
				}
			}
			mask := layered.Inks[0].mask
			area := 0.0
			for _, mark := range mask.Components() {
				area += float64(mark.Area)
			}
			assert.InEpsilon(t, black/float64(len(drawn.Pix)), area/float64(mask.Width*mask.Height), 0.08, "%s: how wide its strokes are", name)
		}
	}
}

// darkness is by how much a picture is darker than its paper, in the mean.
func darkness(img *image.Gray, paper int) float64 {
	sum := 0
	for _, v := range img.Pix {
		sum += paper - int(v)
	}
	return float64(sum) / float64(len(img.Pix))
}

// lit is a page in the light of so much at its left edge and so much at its right.
func lit(page *image.RGBA, left, right float64) *image.RGBA {
	out := image.NewRGBA(page.Rect)
	w := page.Rect.Dx()
	for i := range page.Pix {
		out.Pix[i] = page.Pix[i]
		if i%4 != 3 {
			out.Pix[i] = uint8(float64(page.Pix[i]) * (left + (right-left)*float64(i/4%w)/float64(w)))
		}
	}
	return out
}

// faded is a page whose ink is only so dark.
func faded(page *image.RGBA, ink float64) *image.RGBA {
	out := image.NewRGBA(page.Rect)
	for i := range page.Pix {
		out.Pix[i] = page.Pix[i]
		if i%4 != 3 {
			out.Pix[i] = uint8(238 - ink*float64(238-int(min(238, page.Pix[i]))))
		}
	}
	return out
}

// TestTextIsTextHoweverItIsLit takes pages that are dark, unevenly lit and faded: what kind of page
// they are does not hang on contrast.
func TestTextIsTextHoweverItIsLit(t *testing.T) {
	sampling.Heavy(t)
	letter := letter(t, 6, false)
	for name, page := range map[string]*image.RGBA{
		"in the dark": lit(letter, 0.35, 0.35), "lit from the right": lit(letter, 0.35, 0.95),
		"faded": faded(letter, 0.4), "faded and unevenly lit": lit(faded(letter, 0.4), 0.9, 0.5),
	} {
		asItIs, err := encodeJPEG(page, 80)
		require.NoError(t, err, name)
		m, _, err := Measure(page, testDPI, int64(asItIs.Bytes()), LosslessOnly)
		require.NoError(t, err, name)
		smaller := m.Smaller(Auto)
		assert.NotEqual(t, ContinuousTone, m.Kind, name)
		assert.Equal(t, Layers, smaller.Encoding, name)
		assert.Less(t, 4*smaller.Bytes, int64(asItIs.Bytes()), "%s: a quarter of its bytes", name)
	}
}

func TestTextOfOneInkIsOfOneColour(t *testing.T) {
	sampling.Heavy(t)
	layered, err := newSubject(letter(t, 7, false), testDPI).inLayers().compressBackground(losslessBackground)
	require.NoError(t, err)
	require.Len(t, layered.Inks, 1)
	assert.False(t, layered.Inks[0].HasField(), "one colour is enough for it")

	page := lit(faded(letter(t, 7, false), 0.5), 1, 0.4)
	layered, err = newSubject(page, testDPI).inLayers().compressBackground(losslessBackground)
	require.NoError(t, err)
	require.Len(t, layered.Inks, 1)
	require.True(t, layered.Inks[0].HasField(), "the light falls on the ink too")
	field, err := layered.Inks[0].Field.decode()
	require.NoError(t, err)
	colours := raster.ToRGBA(field)
	y := colours.Rect.Dy() / 3
	for x := 1; x < colours.Rect.Dx(); x++ {
		change := int(colours.RGBAAt(x, y).G) - int(colours.RGBAAt(x-1, y).G)
		assert.LessOrEqual(t, max(change, -change), 10, "it changes slowly")
	}
}

// TestACarbonCopyIsOfOneInkAndWhole takes violet letters that were struck unevenly: none is broken, and the
// pale ones are of no other ink than the strong ones.
func TestACarbonCopyIsOfOneInkAndWhole(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 11, false)
	marks := len(newSubject(page, testDPI).inLayers().ink.Components())
	random := rand.New(rand.NewPCG(12, 3))
	w := page.Rect.Dx()
	copied := image.NewRGBA(page.Rect)
	paper, ink := [3]float64{211, 207, 192}, [3]float64{70, 58, 122}
	var struck []float64 // how strongly, in columns
	for range w/60 + 1 {
		struck = append(struck, 0.3+0.35*random.Float64())
	}
	for i := 0; i < len(page.Pix); i += 4 {
		density := struck[i/4%w/60] * math.Max(0, 1-float64(page.Pix[i+1])/238)
		grain := 2 * random.NormFloat64()
		for c := range 3 {
			copied.Pix[i+c] = uint8(paper[c]*(1-density) + ink[c]*density + grain)
		}
		copied.Pix[i+3] = 255
	}
	s := newSubject(copied, testDPI).inLayers()
	assert.InEpsilon(t, marks, len(s.ink.Components()), 0.08)
	inks, err := s.inColours()
	require.NoError(t, err)
	assert.Len(t, inks, 1)
}

var losslessBackground = BackgroundParams{DPI: 100, Quality: 55}

// TestAStampOverPrintIsAnInkOfItsOwn has a red ring cross lines of black text.
func TestAStampOverPrintIsAnInkOfItsOwn(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 8, false)
	ring(page, 700, 700, 200, 9, color.RGBA{190, 40, 45, 255})
	layered, err := newSubject(page, testDPI).inLayers().compressBackground(losslessBackground)
	require.NoError(t, err)
	require.Len(t, layered.Inks, 2)
	drawn, err := layered.draw(layered.size())
	require.NoError(t, err)
	red, all := 0, 0
	for turn := range 360 {
		at := image.Pt(700, 700).Add(image.Pt(int(200*math.Cos(float64(turn)*math.Pi/180)), int(200*math.Sin(float64(turn)*math.Pi/180))))
		c := drawn.RGBAAt(at.X*maskDPI/testDPI, at.Y*maskDPI/testDPI)
		all++
		if int(c.R)-int(c.B) > 90 {
			red++
		}
	}
	assert.Greater(t, red, 95*all/100, "the ring is red all around")
	assert.Less(t, Difference(page, drawn), float64(mostDifference))
}

// TestAPictureAmongTextStaysAPicture has a page of text with a photograph on it.
func TestAPictureAmongTextStaysAPicture(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 9, false)
	place := image.Rect(250, 900, 1150, 1700)
	draw.Draw(page, place, scene(5), image.Point{}, draw.Src)
	s := newSubject(page, testDPI).inLayers()
	assert.Greater(t, s.pictures.share(), 0.08)
	within := image.Rectangle{place.Min.Mul(maskDPI).Div(testDPI), place.Max.Mul(maskDPI).Div(testDPI)}
	ink := 0
	for y := within.Min.Y; y < within.Max.Y; y++ {
		for x := within.Min.X; x < within.Max.X; x++ {
			if s.ink.Black(x, y) {
				ink++
			}
		}
	}
	assert.Less(t, float64(ink)/float64(within.Dx()*within.Dy()), 0.04, "hardly anything in it is taken for ink")
	layered, err := s.compressBackground(losslessBackground)
	require.NoError(t, err)
	drawn, err := layered.draw(layered.size())
	require.NoError(t, err)
	assert.Less(t, Difference(page, drawn), 20.0)
	pictures := slices.IndexFunc(layered.Inks, func(ink ForegroundMask) bool { return ink.isPictures })
	require.GreaterOrEqual(t, pictures, 0)
	field := layered.Inks[pictures].Field
	coarse, err := layered.drawGray(image.Pt(field.Width, field.Height))
	require.NoError(t, err)
	assert.Less(t, greyDifference(drawn, coarse), 2.0, "with as many pixels as the picture has")
}

// TestARuleThatFadesStaysInOnePiece has rules under text that are as dark as it at one end, and hardly seen at the other.
func TestARuleThatFadesStaysInOnePiece(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 13, false)
	w := page.Rect.Dx()
	free := image.Rect(150, 1440, w-150, 1680)
	draw.Draw(page, free, image.NewUniform(color.RGBA{238, 238, 238, 255}), image.Point{}, draw.Src)
	for _, y := range []int{1500, 1560, 1620} {
		for x := 200; x < w-200; x++ {
			dark := 110 - 90*float64(x-200)/float64(w-400)
			for v, share := range []float64{0.5, 1, 0.5} { // as blurred as scans are
				level := uint8(238 - share*dark)
				page.SetRGBA(x, y+v, color.RGBA{level, level, level, 255})
			}
		}
	}
	s := newSubject(page, testDPI).inLayers()
	rules := 0
	for _, mark := range s.ink.Components() {
		if mark.Box.Dx() > 95*s.ink.Width*(w-400)/w/100 && mark.Box.Dy() < 12 {
			rules++
		}
	}
	assert.Equal(t, 3, rules)
}

// TestAnEngravedLetterStaysInOnePiece has a frame with hatching in half of it, which no mask can show.
func TestAnEngravedLetterStaysInOnePiece(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 12, false)
	box := image.Rect(300, 1300, 640, 1640)
	draw.Draw(page, box, image.NewUniform(color.RGBA{40, 34, 30, 255}), image.Point{}, draw.Src)
	random := rand.New(rand.NewPCG(9, 9))
	for y := box.Min.Y + 40; y < box.Max.Y-40; y++ {
		for x := box.Min.X + 40; x < box.Max.X-40; x++ {
			if x > box.Min.X+170 {
				page.SetRGBA(x, y, color.RGBA{238, 236, 230, 255})
			} else {
				level := uint8(60 + random.IntN(120))
				page.SetRGBA(x, y, color.RGBA{level, level, level, 255})
			}
		}
	}
	s := newSubject(page, testDPI).inLayers()
	require.NotNil(t, s.area)
	covered := 0
	within := image.Rectangle{box.Min.Mul(s.ink.Width).Div(page.Rect.Dx()), box.Max.Mul(s.ink.Width).Div(page.Rect.Dx())}
	for y := within.Min.Y; y < within.Max.Y; y++ {
		for x := within.Min.X; x < within.Max.X; x++ {
			if s.area.Black(x, y) {
				covered++
			}
		}
	}
	assert.Greater(t, float64(covered)/float64(within.Dx()*within.Dy()), 0.97)
	assert.Less(t, s.pictures.share(), 0.12, "the text around it is none")
}

func TestTheGrainOfPaperIsNoInk(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 10, false)
	marks := len(newSubject(page, testDPI).inLayers().ink.Components())
	random := rand.New(rand.NewPCG(5, 6))
	for range 4000 {
		at := image.Pt(random.IntN(page.Rect.Dx()), random.IntN(page.Rect.Dy()))
		if page.RGBAAt(at.X, at.Y).G > 200 {
			page.SetRGBA(at.X, at.Y, color.RGBA{170, 168, 160, 255})
		}
	}
	assert.InEpsilon(t, marks, len(newSubject(page, testDPI).inLayers().ink.Components()), 0.05)
}

// TestWhatLayersShowOtherwiseBecomesAPicture has ink that was not found, and looks whether it is there all the same.
func TestWhatLayersShowOtherwiseBecomesAPicture(t *testing.T) {
	sampling.Heavy(t)
	page := letter(t, 4, false)
	lost := image.Rect(300, 400, 600, 460) // of several words
	s := newSubject(page, testDPI)
	s.kind = BlackText
	parted := s.inLayers()
	for y := lost.Min.Y * maskDPI / testDPI; y < lost.Max.Y*maskDPI/testDPI; y++ {
		for x := lost.Min.X * maskDPI / testDPI; x < lost.Max.X*maskDPI/testDPI; x++ {
			if parted.allInk.Black(x, y) {
				parted.allInk.Row(y)[x>>3] &^= 0x80 >> (x & 7)
			}
		}
	}
	parted.partInk()
	require.NoError(t, s.tryLayers())
	require.False(t, s.layersFail)
	drawn, err := s.tried[losslessEncodings[0]].compressed.Layered.draw(page.Rect.Size())
	require.NoError(t, err)
	assert.Less(t, Difference(page, drawn), float64(mostDifference))
	assert.Less(t, s.parted.pictures.share(), 0.05, "the rest is ink")
}
