package intake

import (
	"bytes"
	"image"
	stdjpeg "image/jpeg"
	stdpng "image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

func TestPicturesThatAreCroppedWithEveryPixelTheSame(t *testing.T) {
	img := image.NewGray(image.Rect(0, 0, 160, 80))
	for i := range img.Pix {
		img.Pix[i] = byte(i * 3)
	}
	folder := t.TempDir()
	file := func(name string, data []byte) string {
		path := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(path, data, 0o600))
		return path
	}
	var jpg, png bytes.Buffer
	require.NoError(t, stdjpeg.Encode(&jpg, img, nil))
	require.NoError(t, stdpng.Encode(&png, img))
	half := geometry.Box{X0: 0.25, Y0: 0.25, X1: 0.75, Y1: 0.75}

	cropped, data, err := crop(cropInput{file("page.jpg", jpg.Bytes()), 1, half})
	require.NoError(t, err)
	config, err := stdjpeg.DecodeConfig(bytes.NewReader(data))
	require.NoError(t, err)
	assert.Equal(t, []int{80, 44}, []int{config.Width, config.Height}, "a block begins 4 pixels above")
	assert.Equal(t, []int{80, 44}, []int{cropped.Width, cropped.Height})
	assert.Equal(t, geometry.Box{X0: 0, Y0: 4, X1: 80, Y1: 44}, cropped.Seen)

	_, _, err = crop(cropInput{file("page.png", png.Bytes()), 1, half})
	require.ErrorIs(t, err, ErrNotCropped, "it is no JPEG")
	_, _, err = crop(cropInput{file("torn.jpg", jpg.Bytes()[:jpg.Len()/2]), 1, half})
	require.ErrorIs(t, err, ErrNotCropped)
	_, _, err = crop(cropInput{filepath.Join(folder, "page.jpg"), 2, half})
	require.ErrorIs(t, err, ErrNoPage)
}
