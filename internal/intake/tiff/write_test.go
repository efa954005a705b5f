package tiff

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// TestWrittenTIFFsAreReadByLibtiff compares what libtiff, and what we, read.
func TestWrittenTIFFsAreReadByLibtiff(t *testing.T) {
	var pages []JPEGPage
	for i := range 3 {
		img := image.NewRGBA(image.Rect(0, 0, 61+i, 40))
		for p := range img.Pix {
			img.Pix[p] = uint8(p * (i + 1) / 40)
		}
		var source image.Image = img
		components := 3
		if i == 1 {
			gray := image.NewGray(img.Rect)
			for p := range gray.Pix {
				gray.Pix[p] = uint8(p)
			}
			source, components = gray, 1
		}
		var data bytes.Buffer
		require.NoError(t, jpeg.Encode(&data, source, nil))
		pages = append(pages, JPEGPage{Data: data.Bytes(), Width: 61 + i, Height: 40, Components: components, DPI: 100 * (i + 1)})
	}
	var out bytes.Buffer
	require.NoError(t, WriteJPEGs(&out, 3, func(i int) (JPEGPage, error) { return pages[i], nil }))
	read, err := Open(bytes.NewReader(out.Bytes()), int64(out.Len()))
	require.NoError(t, err)
	require.Len(t, read, 3)
	for i, page := range read {
		assert.Equal(t, geometry.Resolution{X: float64(100 * (i + 1)), Y: float64(100 * (i + 1))}, page.Resolution)
		stream, err := page.jpegStream(0)
		require.NoError(t, err)
		assert.True(t, bytes.HasPrefix(stream, pages[i].Data), "page %d is kept byte for byte", i+1)
		img, err := page.Image()
		require.NoError(t, err)
		want, err := jpeg.Decode(bytes.NewReader(pages[i].Data))
		require.NoError(t, err)
		assert.Equal(t, color.RGBAModel.Convert(want.At(30, 20)), color.RGBAModel.Convert(img.At(30, 20)))
	}
	path := filepath.Join(t.TempDir(), "written.tif")
	require.NoError(t, os.WriteFile(path, out.Bytes(), 0o600))
	info, err := exec.Command("tiffinfo", path).CombinedOutput()
	require.NoError(t, err, string(info))
	assert.Equal(t, 3, bytes.Count(info, []byte("Compression Scheme: JPEG")))
	assert.Contains(t, string(info), "Resolution: 300, 300")
	copied, err := exec.Command("tiffcp", "-c", "none", path, path+".copy").CombinedOutput()
	require.NoError(t, err, string(copied))
	assert.NotContains(t, string(copied), "Warning")
}
