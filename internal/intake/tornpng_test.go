package intake

import (
	"bytes"
	"image"
	"image/color"
	"image/draw"
	stdpng "image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/png"
	"dorbin/core/problem"
)

// TestTornPNGsShowWhatIsThere tears pictures of every kind of pixels.
func TestTornPNGsShowWhatIsThere(t *testing.T) {
	bounds := scenery().Bounds()
	grey, deep, bare := image.NewGray(bounds), image.NewRGBA64(bounds), image.NewNRGBA(bounds)
	few := image.NewPaletted(bounds, color.Palette{color.Black, color.RGBA{200, 20, 20, 255}, color.White})
	for _, canvas := range []draw.Image{grey, deep, bare, few} {
		draw.Draw(canvas, bounds, scenery(), image.Point{}, draw.Src)
	}
	bare.SetNRGBA(0, 0, color.NRGBA{})
	for name, img := range map[string]image.Image{"colour": scenery(), "grey": grey, "16 bits": deep, "see-through": bare, "palette": few} {
		t.Run(name, func(t *testing.T) {
			data := encodePNG(t, img)
			torn, err := IsTorn(save(t, "whole.png", data), PNG)
			require.NoError(t, err)
			assert.False(t, torn)
			path := save(t, "torn.png", data[:len(data)/2])
			torn, err = IsTorn(path, PNG)
			require.NoError(t, err)
			require.True(t, torn)
			var mended bytes.Buffer
			share, err := mendPNG(imagesInput{path, "torn.png", PNG, DefaultLimits}, &mended)
			require.NoError(t, err)
			assert.InDelta(t, 0.5, share, 0.15)
			got, err := stdpng.Decode(&mended)
			require.NoError(t, err)
			rows := int(share * 240)
			for _, at := range []image.Point{{1, 1}, {300, rows - 1}} {
				assert.Equal(t, color.RGBA64Model.Convert(img.At(at.X, at.Y)), color.RGBA64Model.Convert(got.At(at.X, at.Y)))
			}
			assert.Equal(t, color.RGBA64Model.Convert(color.White), color.RGBA64Model.Convert(got.At(160, 239)))
		})
	}
}

func TestAStumpOfAPNGIsRefused(t *testing.T) {
	data := encodePNG(t, scenery())
	for _, stump := range [][]byte{data[:40], data[:60], []byte(png.Signature)} {
		_, err := mendPNG(imagesInput{save(t, "stump.png", stump), "stump.png", PNG, DefaultLimits}, &bytes.Buffer{})
		var told *problem.Error
		require.ErrorAs(t, err, &told)
		assert.Contains(t, told.Sentence.English, "stump.png")
	}
	huge := bytes.Clone(data)
	copy(huge[16:], []byte{0x7F, 0xFF, 0xFF, 0xFF, 0x7F, 0xFF, 0xFF, 0xFF})
	_, err := mendPNG(imagesInput{save(t, "huge.png", huge[:100]), "huge.png", PNG, DefaultLimits}, &bytes.Buffer{})
	var told *problem.Error
	require.ErrorAs(t, err, &told)
	assert.Equal(t, TooManyPixels, told.Reason)
}

// FuzzTornPNG has whatever is made of a torn PNG be one that decodes.
func FuzzTornPNG(f *testing.F) {
	data := encodePNG(f, scenery().SubImage(image.Rect(0, 0, 40, 40)))
	f.Add(data[:len(data)/2])
	f.Add(data)
	f.Fuzz(func(t *testing.T, data []byte) {
		var mended bytes.Buffer
		limits := DefaultLimits
		limits.Pixels = 1 << 20
		if _, err := mendPNG(imagesInput{save(t, "torn.png", data), "torn.png", PNG, limits}, &mended); err == nil {
			_, _ = stdpng.Decode(&mended) // its pixels may be of a kind that there is not
		}
	})
}
