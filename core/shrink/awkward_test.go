package shrink

import (
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"testing"

	"dorbin/internal/sampling"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// awkward are pictures as no scanner makes them.
func awkward() map[string]image.Image {
	random := rand.New(rand.NewPCG(3, 4))
	noise := image.NewRGBA(image.Rect(0, 0, 50, 70))
	for i := range noise.Pix {
		noise.Pix[i] = uint8(random.IntN(256))
	}
	white := image.NewRGBA(image.Rect(0, 0, 200, 300))
	draw.Draw(white, white.Rect, image.White, image.Point{}, draw.Src)
	seeThrough := image.NewNRGBA(image.Rect(0, 0, 40, 40))
	draw.Draw(seeThrough, image.Rect(5, 5, 20, 20), image.NewUniform(color.NRGBA{200, 10, 10, 90}), image.Point{}, draw.Src)
	return map[string]image.Image{
		"one pixel": image.NewGray(image.Rect(0, 0, 1, 1)), "one pixel in colour": noise.SubImage(image.Rect(3, 3, 4, 4)),
		"a pixel wide": image.NewGray(image.Rect(0, 0, 1, 300)), "a pixel high": image.NewRGBA(image.Rect(0, 0, 5000, 1)),
		"all black": image.NewGray(image.Rect(0, 0, 90, 70)), "all white": white, "noise": noise,
		"away from the origin": noise.SubImage(image.Rect(10, 20, 40, 60)), "see-through": seeThrough,
		"of two colours": image.NewPaletted(image.Rect(0, 0, 30, 20), color.Palette{color.White, color.Black}),
		"in inks":        image.NewCMYK(image.Rect(0, 0, 33, 21)), "deep": image.NewGray16(image.Rect(0, 0, 25, 31)),
	}
}

// TestAwkwardPictures writes them in every way that was measured, together with each
// other, and each as it takes up by itself.
func TestAwkwardPictures(t *testing.T) {
	sampling.Heavy(t)
	for _, dpi := range []float64{3, 72, 300, 2400} {
		var compressedPages []*CompressedPage
		for name, img := range awkward() {
			what := fmt.Sprintf("%s, %.0f dpi", name, dpi)
			m, _, err := Measure(img, dpi, 1<<20, Fully)
			require.NoError(t, err, what)
			for i, v := range m.Candidates {
				assert.GreaterOrEqual(t, v.Fidelity, 0.0, what)
				assert.LessOrEqual(t, v.Fidelity, 1.0, what)
				if v.Encoding == Original {
					assert.Zero(t, i, what)
					continue
				}
				compressed, err := Write(img, dpi, v.EncodingParams)
				require.NoError(t, err, what)
				alone := compressed
				require.NoError(t, Encode([]*CompressedPage{&alone}), what)
				assert.EqualValues(t, v.Bytes, alone.Bytes(), "%s, %+v", what, v.EncodingParams)
				again, err := Write(img, dpi, v.EncodingParams)
				require.NoError(t, err, what)
				compressedPages = append(compressedPages, &again)
				refined, err := RefineQuality(img, dpi, v, nil, 5000)
				require.NoError(t, err, what)
				assert.LessOrEqual(t, refined.Bytes, v.Bytes+5000, what)
			}
		}
		require.NotEmpty(t, compressedPages)
		require.NoError(t, Encode(compressedPages))
	}
}
