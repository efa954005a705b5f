package tiff

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/jpeg"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
	"dorbin/core/geometry"
)

// TestWrittenTIFFsAreReadByLibtiff compares what libtiff, and what we, read.
func TestWrittenTIFFsAreReadByLibtiff(t *testing.T) {
	var pages []Encoded
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
		pages = append(pages, EncodeJPEG(data.Bytes(), 61+i, 40, components, 100*(i+1)))
	}
	var out bytes.Buffer
	require.NoError(t, Write(&out, 3, func(i int) (Encoded, error) { return pages[i], nil }))
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

// TestPagesThatKeepEveryPixel compares what libtiff unpacks of written pages with what
// they were made of.
func TestPagesThatKeepEveryPixel(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	for _, size := range []image.Point{{1, 1}, {7, 3}, {640, 480}, {20_000, 2}} {
		colour := image.NewRGBA(image.Rectangle{Max: size})
		gray := image.NewGray(image.Rectangle{Max: size})
		ink := bilevel.New(size.X, size.Y)
		for i := range colour.Pix {
			colour.Pix[i] = byte(random.IntN(256))
			if i%4 == 3 {
				colour.Pix[i] = 255
			}
		}
		for i := range gray.Pix {
			gray.Pix[i] = byte(i / 7)
			if random.IntN(3) == 0 {
				ink.Set(i%size.X, i/size.X)
			}
		}
		first, err := EncodeLZW(colour, 300)
		require.NoError(t, err)
		second, err := EncodeLZW(gray, 200)
		require.NoError(t, err)
		pages := []Encoded{first, second, EncodeG4(ink, 400)}
		var out bytes.Buffer
		require.NoError(t, Write(&out, len(pages), func(i int) (Encoded, error) { return pages[i], nil }))
		for i, want := range []image.Image{colour, gray, ink.Gray()} {
			requireSamePixels(t, want, unpacked(t, out.Bytes(), i))
		}
	}
}

// unpacked is a page of a TIFF as libtiff unpacks it.
func unpacked(t *testing.T, data []byte, page int) image.Image {
	t.Helper()
	in, out := filepath.Join(t.TempDir(), "in.tif"), filepath.Join(t.TempDir(), "out.tif")
	require.NoError(t, os.WriteFile(in, data, 0o600))
	said, err := exec.Command("tiffcp", "-c", "none", fmt.Sprintf("%s,%d", in, page), out).CombinedOutput()
	require.NoError(t, err, string(said))
	require.NotContains(t, string(said), "Warning")
	plain, err := os.ReadFile(out)
	require.NoError(t, err)
	pages, err := Open(bytes.NewReader(plain), int64(len(plain)))
	require.NoError(t, err)
	require.Equal(t, None, pages[0].Compression)
	img, err := pages[0].Image()
	require.NoError(t, err)
	return img
}

func requireSamePixels(t *testing.T, want, got image.Image) {
	t.Helper()
	require.Equal(t, want.Bounds(), got.Bounds())
	for y := range want.Bounds().Dy() {
		for x := range want.Bounds().Dx() {
			if color.RGBAModel.Convert(want.At(x, y)) != color.RGBAModel.Convert(got.At(x, y)) {
				require.Failf(t, "other pixels", "at %d, %d: %v, not %v", x, y, got.At(x, y), want.At(x, y))
			}
		}
	}
}
