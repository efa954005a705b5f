package tiff

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	xtiff "golang.org/x/image/tiff"

	"dorbin/core/bilevel"
	"dorbin/internal/sampling"
)

// drawing is a picture with lines, a ramp and colours, of a width that fills no
// whole number of bytes or tiles.
func drawing(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(img, img.Bounds(), image.White, image.Point{}, draw.Src)
	for y := range h {
		for x := range w {
			if x > w/2 {
				img.Set(x, y, color.RGBA{uint8(x * 255 / w), uint8(y * 255 / h), uint8((x + y) % 256), 255})
			}
			if (x*x+y*y)/97%7 == 0 && x < w/2 {
				img.Set(x, y, color.Black)
			}
		}
	}
	return img
}

// plainTIFF has a simple TIFF of the picture written: by libtiff from a netpbm
// file, or by Go's encoder where there is a palette.
func plainTIFF(t *testing.T, folder string, img image.Image) string {
	path := filepath.Join(folder, "plain.tif")
	if pixels := netpbm(img); pixels != nil {
		source := filepath.Join(folder, "plain.pnm")
		require.NoError(t, os.WriteFile(source, pixels, 0o600))
		require.NoError(t, exec.Command("ppm2tiff", source, path).Run())
		return path
	}
	file, err := os.Create(path)
	require.NoError(t, err)
	require.NoError(t, xtiff.Encode(file, img, nil))
	require.NoError(t, file.Close())
	return path
}

func netpbm(img image.Image) []byte {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	switch v := img.(type) {
	case *image.RGBA:
		out := fmt.Appendf(nil, "P6\n%d %d\n255\n", w, h)
		for i := 0; i < len(v.Pix); i += 4 {
			out = append(out, v.Pix[i:i+3]...)
		}
		return out
	case *image.Gray:
		return append(fmt.Appendf(nil, "P5\n%d %d\n255\n", w, h), v.Pix...)
	case *image.Paletted:
		if len(v.Palette) > 2 {
			return nil
		}
		bitmap := bilevel.New(w, h)
		for i, index := range v.Pix {
			if index == 1 {
				bitmap.Set(i%w, i/w)
			}
		}
		return append(fmt.Appendf(nil, "P4\n%d %d\n", w, h), bitmap.Bits...)
	}
	return nil
}

// gray reduces to eight bits of grey, or to black and white.
func gray(img image.Image, bilevel bool) *image.Gray {
	out := image.NewGray(img.Bounds())
	draw.Draw(out, out.Bounds(), img, image.Point{}, draw.Src)
	if bilevel {
		for i, v := range out.Pix {
			out.Pix[i] = 255 * (v / 128)
		}
	}
	return out
}

func open(t *testing.T, path string) []*Page {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	pages, err := Open(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	return pages
}

// difference compares two pictures channel by channel: the largest and the mean
// difference, of 255.
func difference(a, b image.Image) (largest, mean float64) {
	if a.Bounds().Size() != b.Bounds().Size() {
		return math.Inf(1), math.Inf(1)
	}
	sum := 0.0
	for y := range a.Bounds().Dy() {
		for x := range a.Bounds().Dx() {
			r0, g0, b0, _ := a.At(x, y).RGBA()
			r1, g1, b1, _ := b.At(x, y).RGBA()
			for _, d := range []float64{float64(r0) - float64(r1), float64(g0) - float64(g1), float64(b0) - float64(b1)} {
				largest = math.Max(largest, math.Abs(d)/257)
				sum += math.Abs(d) / 257
			}
		}
	}
	return largest, sum / float64(3*a.Bounds().Dx()*a.Bounds().Dy())
}

// TestVariants has libtiff write one picture in many ways and compares what is
// read with what libtiff itself reads.
func TestVariants(t *testing.T) {
	sampling.Heavy(t)
	if _, err := exec.LookPath("tiffcp"); err != nil {
		t.Fatal("tiffcp is missing: run scripts/install-test-tools")
	}
	folder := t.TempDir()
	colour := drawing(203, 150)
	kinds := map[string]image.Image{
		"rgb": colour, "grey": gray(colour, false), "bilevel": bilevelImage(colour), "palette": paletted(colour),
	}
	options := map[string][]string{
		"none": {"-c", "none"}, "lzw": {"-c", "lzw"}, "lzw with predictor": {"-c", "lzw:2"},
		"deflate": {"-c", "zip"}, "deflate with predictor": {"-c", "zip:2"}, "packbits": {"-c", "packbits"},
		"jpeg": {"-c", "jpeg:95"}, "jpeg rgb": {"-c", "jpeg:95:r"},
		"g3 one-dimensional": {"-c", "g3:1d"}, "g3 two-dimensional": {"-c", "g3:2d"}, "g3 filled": {"-c", "g3:2d:fill"},
		"g4": {"-c", "g4"},
	}
	layouts := map[string][]string{
		"one strip": {"-r", "150"}, "strips of 16": {"-r", "16"}, "tiles": {"-t", "-w", "64", "-l", "48"},
		"big-endian": {"-B", "-r", "32"}, "separate planes": {"-p", "separate", "-r", "32"}, "reversed bits": {"-f", "lsb2msb", "-r", "32"},
	}
	tried := 0
	for kind, img := range kinds {
		plain := plainTIFF(t, t.TempDir(), img)
		for option, flags := range options {
			fax := strings.HasPrefix(option, "g")
			if fax != (kind == "bilevel") && (fax || strings.HasPrefix(option, "jpeg") || strings.Contains(option, "predictor")) {
				continue
			}
			if strings.HasPrefix(option, "jpeg") && (kind == "palette" || kind == "bilevel") || option == "jpeg rgb" && kind != "rgb" {
				continue
			}
			if strings.Contains(option, "predictor") && kind == "palette" {
				continue
			}
			for layout, more := range layouts {
				if layout == "separate planes" && (kind != "rgb" || strings.HasPrefix(option, "jpeg")) {
					continue
				}
				t.Run(kind+"/"+option+"/"+layout, func(t *testing.T) {
					tried++
					path := filepath.Join(folder, "variant.tif")
					args := append(append(append([]string{}, flags...), more...), plain, path)
					out, err := exec.Command("tiffcp", args...).CombinedOutput()
					if err != nil {
						t.Skipf("libtiff does not write it: %s", out)
					}
					got, err := open(t, path)[0].Image()
					require.NoError(t, err)
					largest, mean := difference(img, got)
					if strings.HasPrefix(option, "jpeg") {
						assert.LessOrEqual(t, mean, 6.0, "colours are halved in a JPEG, but not mixed up")
					} else {
						assert.Zero(t, largest)
					}
				})
			}
		}
	}
	require.Greater(t, tried, 100)
}

// bilevelImage is a picture that the encoder writes with one bit a pixel.
func bilevelImage(img image.Image) image.Image {
	two := image.NewPaletted(img.Bounds(), color.Palette{color.White, color.Black})
	for i, v := range gray(img, true).Pix {
		two.Pix[i] = 1 - v/255
	}
	return two
}

func paletted(img image.Image) image.Image {
	colours := color.Palette{}
	for i := range 64 {
		colours = append(colours, color.RGBA{uint8(i % 4 * 85), uint8(i / 4 % 4 * 85), uint8(i / 16 * 85), 255})
	}
	out := image.NewPaletted(img.Bounds(), colours)
	draw.Draw(out, out.Bounds(), img, image.Point{}, draw.Src)
	return out
}

func TestSeveralPagesAndResolution(t *testing.T) {
	folder := t.TempDir()
	plain := plainTIFF(t, folder, gray(drawing(90, 60), false))
	several := filepath.Join(folder, "several.tif")
	require.NoError(t, exec.Command("tiffcp", plain, plain, plain, several).Run())
	require.NoError(t, exec.Command("tiffset", "-s", "296", "3", several).Run())
	require.NoError(t, exec.Command("tiffset", "-s", "282", "118.11", several).Run())
	require.NoError(t, exec.Command("tiffset", "-s", "283", "118.11", several).Run())
	pages := open(t, several)
	require.Len(t, pages, 3)
	assert.InDelta(t, 300, pages[0].Resolution.X, 0.01, "118.11 dots per centimetre are 300 dpi")
	assert.Equal(t, pages[0].EncodedBytes(), pages[2].EncodedBytes())
	assert.Positive(t, pages[2].EncodedBytes())
}

func TestDamage(t *testing.T) {
	folder := t.TempDir()
	data, err := os.ReadFile(plainTIFF(t, folder, gray(drawing(90, 60), false)))
	require.NoError(t, err)
	for name, damaged := range map[string][]byte{
		"empty": {}, "too short": data[:6], "cut off": data[:len(data)-40], "not a TIFF": []byte("not a TIFF at all"),
	} {
		_, err := Open(bytes.NewReader(damaged), int64(len(damaged)))
		assert.ErrorIs(t, err, ErrFormat, name)
	}
	big := append([]byte("II+\x00"), data[4:]...)
	_, err = Open(bytes.NewReader(big), int64(len(big)))
	assert.ErrorIs(t, err, ErrUnsupported)
}

// TestDirectoriesInACircle must end.
func TestDirectoriesInACircle(t *testing.T) {
	data, err := os.ReadFile(plainTIFF(t, t.TempDir(), gray(drawing(20, 20), false)))
	require.NoError(t, err)
	first := binary.LittleEndian.Uint32(data[4:])
	count := binary.LittleEndian.Uint16(data[first:])
	binary.LittleEndian.PutUint32(data[int(first)+2+12*int(count):], first)
	pages, err := Open(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	assert.Len(t, pages, 1)
}

func FuzzOpen(f *testing.F) {
	var plain bytes.Buffer
	require.NoError(f, xtiff.Encode(&plain, drawing(30, 20), &xtiff.Options{Compression: xtiff.Deflate, Predictor: true}))
	f.Add(plain.Bytes())
	var flat bytes.Buffer
	require.NoError(f, xtiff.Encode(&flat, paletted(drawing(9, 9)), nil))
	f.Add(flat.Bytes())
	f.Fuzz(func(t *testing.T, data []byte) {
		pages, err := Open(bytes.NewReader(data), int64(len(data)))
		if err != nil {
			return
		}
		for _, page := range pages {
			if page.Width*page.Height > 1<<20 {
				continue
			}
			if img, err := page.Image(); err == nil {
				require.NoError(t, png.Encode(&bytes.Buffer{}, img))
			}
		}
	})
}
