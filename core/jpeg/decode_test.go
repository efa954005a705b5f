package jpeg

import (
	"bytes"
	"errors"
	"fmt"
	"image"
	"image/color"
	stdjpeg "image/jpeg"
	"math"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// colourful is a picture with edges, slopes and noise.
func colourful(width, height int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, width, height))
	random := rand.New(rand.NewPCG(1, 2))
	for y := range height {
		for x := range width {
			c := color.RGBA{byte(x * 255 / width), byte(y * 255 / height), byte(128 + 100*math.Sin(float64(x+y)/9)), 255}
			if (x/7+y/11)%5 == 0 {
				c = color.RGBA{20, byte(random.IntN(60)), 30, 255}
			}
			img.SetRGBA(x, y, c)
		}
	}
	return img
}

func pnm(img *image.RGBA) []byte {
	out := fmt.Appendf(nil, "P6 %d %d 255\n", img.Rect.Dx(), img.Rect.Dy())
	for i := 0; i < len(img.Pix); i += 4 {
		out = append(out, img.Pix[i:i+3]...)
	}
	return out
}

// decoded opens and decodes a picture.
func decoded(data []byte, scale Scale) (image.Image, error) {
	picture, err := Open(data)
	if err != nil {
		return nil, err
	}
	return picture.Decode(scale)
}

// run runs one of libjpeg's tools.
func run(t testing.TB, in []byte, tool string, args ...string) []byte {
	t.Helper()
	command := exec.CommandContext(t.Context(), tool, args...)
	command.Stdin = bytes.NewReader(in)
	out, err := command.Output()
	require.NoError(t, err, "%s %v", tool, args)
	return out
}

// kinds are ways in which libjpeg writes pictures.
var kinds = map[string][]string{
	"4:4:4":                 {"-sample", "1x1"},
	"4:2:0":                 {"-sample", "2x2"},
	"4:2:2":                 {"-sample", "2x1"},
	"4:4:0":                 {"-sample", "1x2"},
	"4:1:1":                 {"-sample", "4x1"},
	"4:1:0":                 {"-sample", "4x2"},
	"2:1 and 1:2":           {"-sample", "2x2,2x1,1x2"},
	"luminance is coarse":   {"-sample", "1x1,2x2,2x2"},
	"grey":                  {"-grayscale"},
	"grey, progressive":     {"-grayscale", "-progressive"},
	"rgb":                   {"-rgb"},
	"progressive":           {"-progressive"},
	"progressive 4:4:4":     {"-progressive", "-sample", "1x1"},
	"restarts":              {"-restart", "1"},
	"restarts in blocks":    {"-restart", "3B"},
	"progressive, restarts": {"-progressive", "-restart", "2B"},
	"optimised":             {"-optimize"},
	"coarse":                {"-quality", "5"},
	"coarse, 16 bits":       {"-quality", "1"},
	"fine":                  {"-quality", "100", "-sample", "1x1"},
}

// made is a picture that libjpeg wrote.
func made(t testing.TB, kind string, width, height int) []byte {
	t.Helper()
	return run(t, pnm(colourful(width, height)), "cjpeg", kinds[kind]...)
}

// libjpegs is a picture as libjpeg decodes it, by its slow transform and without smoothing: a PNM.
func libjpegs(t testing.TB, data []byte) (pixels []byte, colours int) {
	t.Helper()
	out := run(t, data, "djpeg", "-dct", "int", "-nosmooth", "-pnm")
	fields := bytes.SplitN(out, []byte("\n"), 4)
	require.Len(t, fields, 4)
	return fields[3], map[string]int{"P5": 1, "P6": 3}[string(fields[0])]
}

// pixelsOf are a picture's pixels as a PNM has them.
func pixelsOf(img image.Image, colours int) []byte {
	size := img.Bounds().Size()
	out := make([]byte, 0, size.X*size.Y*colours)
	for y := range size.Y {
		for x := range size.X {
			switch at := img.At(x, y).(type) {
			case color.Gray:
				out = append(out, at.Y)
			default:
				c := color.RGBAModel.Convert(at).(color.RGBA) //nolint:forcetypeassert // by the model
				out = append(out, c.R, c.G, c.B)
			}
		}
	}
	return out
}

// apart is by how much two rows of samples differ at most.
func apart(a, b []byte) (most int) {
	for i := range a {
		most = max(most, max(int(a[i])-int(b[i]), int(b[i])-int(a[i])))
	}
	return most
}

func TestPixelsAreThoseOfLibjpeg(t *testing.T) {
	t.Parallel()
	for kind := range kinds {
		for _, size := range [][2]int{{1, 1}, {8, 8}, {17, 5}, {64, 48}, {101, 203}} {
			t.Run(fmt.Sprint(kind, size), func(t *testing.T) {
				t.Parallel()
				data := made(t, kind, size[0], size[1])
				img, err := decoded(data, Full)
				require.NoError(t, err)
				want, colours := libjpegs(t, data)
				got := pixelsOf(img, colours)
				require.Len(t, got, len(want))
				assert.LessOrEqual(t, apart(got, want), 1)
			})
		}
	}
}

// TestOtherPicturesAreThoseOfTheStandardLibrary decodes Go's own test pictures.
func TestOtherPicturesAreThoseOfTheStandardLibrary(t *testing.T) {
	t.Parallel()
	root := strings.TrimSpace(string(run(t, nil, "go", "env", "GOROOT")))
	paths, err := filepath.Glob(filepath.Join(root, "src/image/testdata/*.jpeg"))
	require.NoError(t, err)
	require.NotEmpty(t, paths)
	for _, path := range paths {
		data, err := os.ReadFile(path) //nolint:gosec // of Go
		require.NoError(t, err)
		want, err := stdjpeg.Decode(bytes.NewReader(data))
		require.NoError(t, err, path)
		got, err := decoded(data, Full)
		require.NoError(t, err, path)
		require.IsType(t, want, got, path)
		require.Equal(t, want.Bounds(), got.Bounds(), path)
		if cmyk, ok := got.(*image.CMYK); ok {
			assert.LessOrEqual(t, apart(cmyk.Pix, want.(*image.CMYK).Pix), 3, path) //nolint:forcetypeassert // checked above
			continue
		}
		assert.LessOrEqual(t, apart(pixelsOf(got, 3), pixelsOf(want, 3)), 4, path)
	}
}

// TestSmallerPicturesAreAsThoseThatAreMadeSmaller compares with the means of full pixels.
func TestSmallerPicturesAreAsThoseThatAreMadeSmaller(t *testing.T) {
	t.Parallel()
	for _, kind := range []string{"4:4:4", "4:2:0", "4:2:2", "grey", "progressive", "rgb", "2:1 and 1:2"} {
		// Slopes alone: a smaller transform leaves out what is finer.
		img := image.NewRGBA(image.Rect(0, 0, 163, 97))
		for y := range 97 {
			for x := range 163 {
				img.SetRGBA(x, y, color.RGBA{byte(x), byte(y * 2), byte(x/2 + y), 255})
			}
		}
		data := run(t, pnm(img), "cjpeg", append([]string{"-quality", "95"}, kinds[kind]...)...)
		full, err := decoded(data, Full)
		require.NoError(t, err)
		for _, scale := range []Scale{Half, Quarter, Eighth} {
			small, err := decoded(data, scale)
			require.NoError(t, err)
			step := 8 / int(scale)
			size := small.Bounds().Size()
			require.Equal(t, image.Pt((163+step-1)/step, (97+step-1)/step), size, kind)
			for y := range 97 / step {
				for x := range 163 / step {
					got := color.RGBAModel.Convert(small.At(x, y)).(color.RGBA) //nolint:forcetypeassert // by the model
					want := mean(full, x*step, y*step, step)
					require.LessOrEqual(t, apart([]byte{got.R, got.G, got.B}, want[:]), 12, "%s at 1/%d: %d, %d", kind, step, x, y)
				}
			}
		}
	}
}

// mean is the mean colour of a square of pixels.
func mean(img image.Image, x0, y0, step int) (c [3]byte) {
	var sum [3]int
	for y := y0; y < y0+step; y++ {
		for x := x0; x < x0+step; x++ {
			at := color.RGBAModel.Convert(img.At(x, y)).(color.RGBA) //nolint:forcetypeassert // by the model
			sum[0], sum[1], sum[2] = sum[0]+int(at.R), sum[1]+int(at.G), sum[2]+int(at.B)
		}
	}
	for i := range c {
		c[i] = byte(sum[i] / (step * step))
	}
	return c
}

func TestScalesAreNotSmallerThanWanted(t *testing.T) {
	for _, c := range []struct {
		edge, wanted int
		want         Scale
	}{{3508, 1600, Half}, {3508, 439, Eighth}, {3508, 440, Quarter}, {3512, 439, Eighth}, {100, 100, Full}, {100, 400, Full}, {100, 0, Eighth}} {
		assert.Equal(t, c.want, ScaleFor(c.edge, c.wanted), c)
	}
}

// damages is how much of a picture was decoded.
func damages(t *testing.T, data []byte) (*image.YCbCr, *DamagedError) {
	t.Helper()
	img, err := decoded(data, Full)
	if err == nil {
		return img.(*image.YCbCr), nil //nolint:forcetypeassert // of the test
	}
	var damaged *DamagedError
	require.ErrorAs(t, err, &damaged)
	return img.(*image.YCbCr), damaged //nolint:forcetypeassert // of the test
}

func TestWhatIsTornIsDecodedAsFarAsItGoes(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 320, 400)
	whole, damaged := damages(t, data)
	require.Nil(t, damaged)
	_, damaged = damages(t, data[:len(data)-2])
	assert.Nil(t, damaged, "its end is not marked, but all is there")
	torn, damaged := damages(t, data[:len(data)/2])
	require.NotNil(t, damaged)
	assert.InDelta(t, 200, damaged.Rows, 60)
	assert.Equal(t, whole.Y[:damaged.Rows*whole.YStride], torn.Y[:damaged.Rows*torn.YStride])
	assert.Equal(t, byte(middle), torn.Y[399*torn.YStride])

	data = made(t, "progressive", 320, 400)
	_, damaged = damages(t, data[:len(data)/2])
	require.NotNil(t, damaged)
	assert.True(t, damaged.Progressive)
	assert.Greater(t, damaged.Scans, 1)
}

func TestLostRestartMarkersLoseWhatIsBetween(t *testing.T) {
	t.Parallel()
	data := made(t, "restarts", 320, 400) // a marker after each row of units, of 16 rows of pixels
	whole, _ := damages(t, data)
	third := bytes.Index(data, []byte{0xFF, 0xD2})
	fourth := bytes.Index(data, []byte{0xFF, 0xD3})
	lost := append(bytes.Clone(data[:third]), data[fourth:]...)
	broken, damaged := damages(t, lost)
	require.NotNil(t, damaged)
	assert.Equal(t, 48, damaged.Rows)
	from := 64 * whole.YStride
	assert.Equal(t, whole.Y[from:], broken.Y[from:], "what follows is in its place")

	wrong := bytes.Clone(data)
	for i := third + 2; i < fourth; i++ {
		wrong[i] = 0xFE
	}
	broken, damaged = damages(t, wrong)
	require.NotNil(t, damaged)
	assert.Equal(t, whole.Y[from:], broken.Y[from:])
}

func TestAwkwardFiles(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 40, 30)
	want, err := decoded(data, Full)
	require.NoError(t, err)
	same := map[string][]byte{
		"a comment":           slice(data[:2], []byte{0xFF, 0xFE, 0, 4, 'a', 'b'}, data[2:]),
		"fill bytes":          bytes.ReplaceAll(data, []byte{0xFF, defineHuffman}, []byte{0xFF, 0xFF, 0xFF, defineHuffman}),
		"stray bytes":         slice(data[:2], []byte{1, 2, 3}, data[2:]),
		"more behind the end": slice(data, []byte{0xFF, 0xD8, 1, 2}),
	}
	for name, file := range same {
		got, err := decoded(file, Full)
		require.NoError(t, err, name)
		assert.Equal(t, want, got, name)
	}
	for name, file := range map[string][]byte{
		"nothing": {}, "a PNG": []byte("\x89PNG\r\n"), "its beginning alone": data[:2], "its head alone": data[:100],
	} {
		_, err := decoded(file, Full)
		require.Error(t, err, name)
	}
	frame := bytes.Index(data, []byte{0xFF, baseline})
	changed := func(at int, to byte) []byte {
		file := bytes.Clone(data)
		file[frame+at] = to
		return file
	}
	for name, file := range map[string][]byte{"arithmetic": changed(1, 0xC9), "lossless": changed(1, 0xC3), "12 bits": changed(4, 12), "two colours": changed(9, 2)} {
		_, err := decoded(file, Full)
		var unsupported UnsupportedError
		require.ErrorAs(t, err, &unsupported, name)
	}
}

func slice(parts ...[]byte) []byte { return bytes.Join(parts, nil) }

func TestVeryWidePictures(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 65500, 3)
	img, err := decoded(data, Eighth)
	require.NoError(t, err)
	assert.Equal(t, image.Pt(8188, 1), img.Bounds().Size())
}

func FuzzDecode(f *testing.F) {
	for kind := range kinds {
		if _, err := exec.LookPath("cjpeg"); err == nil {
			f.Add(made(f, kind, 20, 17), byte(3))
		}
	}
	f.Fuzz(func(t *testing.T, data []byte, scale byte) {
		picture, err := Open(data)
		if err != nil || picture.Width*picture.Height > 1<<18 {
			return
		}
		img, err := picture.Decode([]Scale{Full, Half, Quarter, Eighth}[scale&3])
		var damaged *DamagedError
		if err != nil && !errors.As(err, &damaged) {
			return
		}
		size := img.Bounds().Size()
		img.At(size.X-1, size.Y-1)
	})
}

// paper is a page of text of an A4 scan at 300 dpi, as libjpeg writes it.
func paper(b *testing.B, args ...string) []byte {
	b.Helper()
	img := image.NewRGBA(image.Rect(0, 0, 2480, 3508))
	random := rand.New(rand.NewPCG(1, 2))
	for y := range 3508 {
		for x := range 2480 {
			v := byte(240 + random.IntN(8))
			if (y/50)%2 == 0 && x > 200 && x < 2280 && (x/9+y/7*3)%4 < 2 {
				v = byte(40 + random.IntN(30))
			}
			img.SetRGBA(x, y, color.RGBA{v, v - 4, v - 12, 255})
		}
	}
	return run(b, pnm(img), "cjpeg", args...)
}

func BenchmarkDecode(b *testing.B) {
	data := paper(b, "-quality", "82")
	path := filepath.Join(b.TempDir(), "paper.jpg")
	require.NoError(b, os.WriteFile(path, data, 0o600))
	runtime.GC()
	for _, scale := range []Scale{Full, Half, Quarter, Eighth} {
		b.Run("1 in "+strconv.Itoa(8/int(scale)), func(b *testing.B) {
			for b.Loop() {
				_, err := decoded(data, scale)
				require.NoError(b, err)
			}
		})
		b.Run("djpeg 1 in "+strconv.Itoa(8/int(scale)), func(b *testing.B) {
			for b.Loop() {
				run(b, nil, "djpeg", "-scale", fmt.Sprintf("1/%d", 8/int(scale)), "-outfile", os.DevNull, path)
			}
		})
	}
	b.Run("image/jpeg", func(b *testing.B) {
		for b.Loop() {
			_, err := stdjpeg.Decode(bytes.NewReader(data))
			require.NoError(b, err)
		}
	})
}
