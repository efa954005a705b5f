package jpeg

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	stdjpeg "image/jpeg"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// byTheStandardLibrary encodes with the same tables.
func byTheStandardLibrary(t testing.TB, img image.Image, quality int) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, stdjpeg.Encode(&out, img, &stdjpeg.Options{Quality: quality}))
	return out.Bytes()
}

// fidelity is the signal-to-noise ratio of a picture of three colours a pixel to another, in dB.
func fidelity(a, b []byte) float64 {
	sum := 0.0
	for i := range a {
		d := float64(a[i]) - float64(b[i])
		sum += d * d
	}
	return 10 * math.Log10(255*255*float64(len(a))/math.Max(sum, 1e-9))
}

// scene is a picture that is smooth in places and fine in others.
func scene(width, height int) *image.RGBA {
	img, random := image.NewRGBA(image.Rect(0, 0, width, height)), rand.New(rand.NewPCG(1, 2))
	for y := range height {
		for x := range width {
			grain := float64(random.IntN(17)-8) * float64(y) / float64(height)
			for c := range 3 {
				level := 128 + 90*math.Sin(float64(x)/(20+float64(30*c)))*math.Cos(float64(y)/31) + grain
				img.Pix[img.PixOffset(x, y)+c] = uint8(max(0, min(255, level)))
			}
			img.Pix[img.PixOffset(x, y)+3] = 255
		}
	}
	return img
}

// TestEncodedPicturesAreAsGoodInFewerBytes holds pictures against those of the standard library's
// encoder that are no better, as libjpeg decodes them.
func TestEncodedPicturesAreAsGoodInFewerBytes(t *testing.T) {
	t.Parallel()
	img := scene(640, 480)
	gray := image.NewGray(img.Rect)
	for i := range gray.Pix {
		gray.Pix[i] = img.Pix[4*i+1]
	}
	for name, img := range map[string]image.Image{"in colour": img, "in grey": gray} {
		for _, quality := range []int{20, 50, 78, 92} {
			name := fmt.Sprintf("%s, quality %d", name, quality)
			data, err := Encode(img, quality)
			require.NoError(t, err, name)
			drawn, colours := libjpegs(t, data)
			before := pixelsOf(img, colours)
			ours := fidelity(before, drawn)
			assert.Greater(t, ours, fidelity(before, pixelsByTheStandardLibrary(t, img, quality))-0.5, "%s: how alike", name)
			asGood := quality
			for fidelity(before, pixelsByTheStandardLibrary(t, img, asGood)) > ours {
				asGood--
			}
			theirs := byTheStandardLibrary(t, img, asGood)
			assert.LessOrEqual(t, float64(len(data)), 0.92*float64(len(theirs)), "%s: bytes", name)
			again, err := decoded(data, Full)
			require.NoError(t, err, name)
			assert.LessOrEqual(t, apart(drawn, pixelsOf(again, colours)), 1, "%s: as we decode it", name)
		}
	}
}

// pixelsByTheStandardLibrary are a picture's, after that library wrote it.
func pixelsByTheStandardLibrary(t *testing.T, img image.Image, quality int) []byte {
	t.Helper()
	drawn, _ := libjpegs(t, byTheStandardLibrary(t, img, quality))
	return drawn
}

func TestPicturesOfAllSizesAreEncoded(t *testing.T) {
	t.Parallel()
	for _, size := range []image.Point{{1, 1}, {1, 300}, {7, 9}, {8, 8}, {16, 16}, {17, 15}, {33, 1}, {65500, 1}} {
		img := scene(size.X, size.Y)
		data, err := Encode(img, 90)
		require.NoError(t, err, size)
		drawn, colours := libjpegs(t, data)
		assert.Greater(t, fidelity(pixelsOf(img, colours), drawn), 28.0, "%v", size)
		again, err := stdjpeg.Decode(bytes.NewReader(data))
		require.NoError(t, err, size)
		assert.Equal(t, size, again.Bounds().Size())
	}
	for _, size := range []image.Point{{0, 0}, {65501, 1}, {1, 65501}} {
		_, err := Encode(image.NewGray(image.Rectangle{Max: size}), 90)
		require.Error(t, err, size)
	}
	part := scene(64, 64).SubImage(image.Rect(10, 20, 50, 60))
	copied := image.NewRGBA(image.Rect(0, 0, 40, 40))
	draw.Draw(copied, copied.Rect, part, part.Bounds().Min, draw.Src)
	data, err := Encode(part, 95)
	require.NoError(t, err)
	drawn, colours := libjpegs(t, data)
	assert.Greater(t, fidelity(pixelsOf(copied, colours), drawn), 30.0, "a part of a picture")
}

func TestQuantisersAreThoseOfTheStandardLibraryButForTints(t *testing.T) {
	t.Parallel()
	img := scene(16, 16)
	for _, quality := range []int{1, 10, 49, 50, 75, 99, 100} {
		ours, err := Encode(img, quality)
		require.NoError(t, err)
		expected := quantsOf(t, byTheStandardLibrary(t, img, quality))
		expected[1][0] = min(expected[1][0], 8)
		assert.Equal(t, expected, quantsOf(t, ours), quality)
	}
}

func TestPaperKeepsItsTint(t *testing.T) {
	t.Parallel()
	for _, tint := range []color.RGBA{{238, 220, 176, 255}, {236, 232, 214, 255}, {201, 214, 219, 255}, {250, 244, 250, 255}} {
		img := image.NewRGBA(image.Rect(0, 0, 64, 64))
		draw.Draw(img, img.Rect, image.NewUniform(tint), image.Point{}, draw.Src)
		for _, quality := range []int{40, 55, 78} {
			data, err := Encode(img, quality)
			require.NoError(t, err)
			again, err := stdjpeg.Decode(bytes.NewReader(data))
			require.NoError(t, err)
			r, g, b, _ := again.At(30, 30).RGBA()
			// Luminance is off by a level and a half at most, in all three alike.
			assert.InDelta(t, int(tint.R)-int(tint.G), int(r>>8)-int(g>>8), 2, "%v at %d", tint, quality)
			assert.InDelta(t, int(tint.G)-int(tint.B), int(g>>8)-int(b>>8), 2, "%v at %d", tint, quality)
		}
	}
}

// TestSmoothPicturesHaveNoSteps writes light that falls off slowly: from block to block it has smaller steps than
// otherwise. Of grainy paper it keeps less of the grain, in fewer bytes.
func TestSmoothPicturesHaveNoSteps(t *testing.T) {
	random := rand.New(rand.NewPCG(6, 1))
	lit, grainy := image.NewGray(image.Rect(0, 0, 640, 320)), image.NewGray(image.Rect(0, 0, 640, 320))
	for i := range lit.Pix {
		light := 60 + float64(i%640)/4
		lit.Pix[i], grainy.Pix[i] = uint8(light), uint8(light+7*random.NormFloat64())
	}
	gray := func(data []byte) *image.Gray {
		decoded, err := stdjpeg.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		gray, isGray := decoded.(*image.Gray)
		require.True(t, isGray)
		return gray
	}
	steps := func(data []byte) (sum float64) {
		drawn := gray(data)
		for x := 8; x < 640; x += 8 {
			sum += math.Abs(float64(drawn.GrayAt(x, 100).Y) - float64(drawn.GrayAt(x-1, 100).Y))
		}
		return sum
	}
	write := func(img *image.Gray) (usual, smooth []byte) {
		usual, err := Encode(img, 50)
		require.NoError(t, err)
		smooth, err = EncodeSmooth(img, 50)
		require.NoError(t, err)
		return usual, smooth
	}
	usual, smooth := write(lit)
	assert.Less(t, steps(smooth), 0.6*steps(usual))
	usual, smooth = write(grainy)
	assert.Less(t, len(smooth), len(usual))
}

func quantsOf(t *testing.T, data []byte) (tables [2][64]uint16) {
	t.Helper()
	d := decoder{data: data, coefficientsOnly: true}
	require.NoError(t, d.decode())
	return [2][64]uint16{*d.quants[0], *d.quants[1]}
}

func TestLuminanceIsThatOfTheLibrary(t *testing.T) {
	for r := range 256 {
		for g := 0; g < 256; g += 3 {
			for b := range 256 {
				want, _, _ := color.RGBToYCbCr(uint8(r), uint8(g), uint8(b))
				if got := luminance(uint8(r), uint8(g), uint8(b)); got != want {
					t.Fatalf("%d, %d, %d: %d for %d", r, g, b, got, want)
				}
			}
		}
	}
}

// BenchmarkEncode compares with programs that write the same picture in the same quality: cjpeg reads it from memory, as
// pixels, and uses vector instructions.
func BenchmarkEncode(b *testing.B) {
	read, err := decoded(paper(b, "-quality", "95"), Full)
	require.NoError(b, err)
	img := image.NewRGBA(read.Bounds())
	draw.Draw(img, img.Rect, read, image.Point{}, draw.Src)
	pixels := pnm(img)
	for name, encode := range map[string]func() int{
		"ours": func() int {
			data, err := Encode(img, 78)
			require.NoError(b, err)
			return len(data)
		},
		"image/jpeg":        func() int { return len(byTheStandardLibrary(b, img, 78)) },
		"cjpeg":             func() int { return len(run(b, pixels, "cjpeg", "-quality", "78")) },
		"cjpeg progressive": func() int { return len(run(b, pixels, "cjpeg", "-quality", "78", "-progressive", "-optimize")) },
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				b.ReportMetric(float64(encode()), "bytes")
			}
		})
	}
}
