package png

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"image"
	"image/color"
	"image/color/palette"
	"image/draw"
	"image/png"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/sampling"
)

// letter is a page of rows of dark strokes, on paper with some noise.
func letter(to draw.Image, noise int) {
	random := rand.New(rand.NewPCG(1, 2)) //nolint:gosec // a drawing
	for y := range to.Bounds().Dy() {
		for x := range to.Bounds().Dx() {
			level := 235 + random.IntN(noise+1)
			if y%24 < 10 && (x*7+y/24*13)%11 < 3 {
				level = 20 + random.IntN(noise+1)
			}
			to.Set(x, y, color.RGBA{uint8(level), uint8(level - 5), uint8(level - 12), 255}) //nolint:gosec // a level
		}
	}
}

// pictures are those of every kind that image/png writes.
func pictures() map[string]image.Image {
	const w, h = 161, 120
	all := map[string]draw.Image{
		"gray":    image.NewGray(image.Rect(0, 0, w, h)),
		"gray 16": image.NewGray16(image.Rect(0, 0, w, h)),
		"colour":  image.NewRGBA(image.Rect(0, 0, w, h)),
		"deep":    image.NewRGBA64(image.Rect(0, 0, w, h)),
		"clear":   image.NewNRGBA(image.Rect(0, 0, w, h)),
		"indexed": image.NewPaletted(image.Rect(0, 0, w, h), palette.WebSafe),
		"two":     image.NewPaletted(image.Rect(0, 0, w, h), color.Palette{color.Black, color.White}),
		"dot":     image.NewGray(image.Rect(0, 0, 1, 1)),
	}
	out := map[string]image.Image{}
	for name, img := range all {
		letter(img, 6)
		if clear, ok := img.(*image.NRGBA); ok {
			for i := 3; i < len(clear.Pix); i += 40 {
				clear.Pix[i] = 90
			}
		}
		out[name] = img
	}
	return out
}

func file(t testing.TB, img image.Image, level png.CompressionLevel) []byte {
	t.Helper()
	var out bytes.Buffer
	require.NoError(t, (&png.Encoder{CompressionLevel: level}).Encode(&out, img))
	return out.Bytes()
}

func requireSamePixels(t *testing.T, before, after []byte) {
	t.Helper()
	a, err := png.Decode(bytes.NewReader(before))
	require.NoError(t, err)
	b, err := png.Decode(bytes.NewReader(after))
	require.NoError(t, err)
	require.Equal(t, a, b)
}

func TestPicturesBecomeSmallerWithEverySampleTheSame(t *testing.T) {
	for name, img := range pictures() {
		for _, level := range []png.CompressionLevel{png.NoCompression, png.DefaultCompression} {
			before := file(t, img, level)
			after, err := Repack(before)
			require.NoError(t, err, name)
			assert.Less(t, len(after), len(before), name)
			requireSamePixels(t, before, after)
			_, err = Repack(after)
			require.ErrorIs(t, err, ErrNotSmaller, name)
		}
	}
}

// TestRealPictures goes through the PNGs that an image library is tested with.
func TestRealPictures(t *testing.T) {
	sampling.Heavy(t)
	folder, err := exec.CommandContext(t.Context(), "go", "list", "-m", "-f", "{{.Dir}}", "golang.org/x/image").Output()
	require.NoError(t, err)
	paths, err := filepath.Glob(filepath.Join(strings.TrimSpace(string(folder)), "testdata", "*.png"))
	require.NoError(t, err)
	require.Greater(t, len(paths), 20)
	before, after, smaller := 0, 0, 0
	for _, path := range paths {
		data, err := os.ReadFile(path) //nolint:gosec // of the module
		require.NoError(t, err)
		packed, err := Repack(data)
		if err != nil {
			require.ErrorIs(t, err, ErrNotSmaller, path)
			continue
		}
		requireSamePixels(t, data, packed)
		before, after, smaller = before+len(data), after+len(packed), smaller+1
	}
	t.Logf("%d of %d are smaller: %d bytes of %d", smaller, len(paths), after, before)
	assert.Greater(t, smaller, len(paths)/2)
}

func TestSamplesOfPDFsAreFilteredAnew(t *testing.T) {
	gray := image.NewGray(image.Rect(0, 0, 400, 300))
	for i := range gray.Pix {
		x, y := i%400, i/400
		gray.Pix[i] = uint8((x*x/90 + y*y/70 + x*y/50) / 20) //nolint:gosec // a slope
	}
	var packed bytes.Buffer
	w := zlib.NewWriter(&packed)
	_, err := w.Write(gray.Pix)
	require.NoError(t, err)
	require.NoError(t, w.Close())
	l := Layout{Width: 400, Height: 300, Channels: 1, Bits: 8}
	after, err := RepackSamples(packed.Bytes(), l, false)
	require.NoError(t, err)
	assert.Less(t, len(after), packed.Len()*4/5, "a slope is little but differences")
	samples, err := samplesOf(after, l, true)
	require.NoError(t, err)
	assert.Equal(t, gray.Pix, samples)

	l.Height = 301
	_, err = RepackSamples(packed.Bytes(), l, false)
	require.ErrorIs(t, err, ErrDamaged, "a row is missing")
	l.Height = 299
	_, err = RepackSamples(packed.Bytes(), l, false)
	require.ErrorIs(t, err, ErrDamaged, "a row too many")
}

func TestFiltersAreUndone(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4)) //nolint:gosec // noise
	for _, l := range []Layout{{5, 4, 3, 8}, {9, 3, 1, 1}, {4, 4, 4, 16}, {7, 5, 3, 4}, {1, 1, 1, 8}} {
		samples := make([]byte, l.rowBytes()*l.Height)
		for i := range samples {
			samples[i] = byte(random.IntN(256)) //nolint:gosec // a byte
		}
		for choice := range choices {
			again, err := unfilter(filtered(samples, l, 0, l.Height, choice), l)
			require.NoError(t, err)
			assert.Equal(t, samples, again, fmt.Sprintf("%+v, %d", l, choice))
		}
	}
}

func TestWhatIsLeftAsItIs(t *testing.T) {
	good := file(t, pictures()["gray"], png.DefaultCompression)
	torn := good[:len(good)-40]
	wrongSum := bytes.Clone(good)
	wrongSum[len(wrongSum)/2] ^= 1
	otherHead := bytes.Clone(good)
	otherHead[28] = 1 // it would be interlaced
	chunks, err := chunksOf(good)
	require.NoError(t, err)
	interlaced := bytes.Clone(chunks[0].body)
	interlaced[12] = 1
	for name, c := range map[string]struct {
		data []byte
		want error
	}{
		"torn": {torn, ErrDamaged}, "a wrong sum": {wrongSum, ErrDamaged}, "no PNG": {[]byte("BM"), ErrDamaged}, "nothing": {nil, ErrDamaged},
		"a sum that is not of its head": {otherHead, ErrDamaged},
		"a head alone":                  {good[:33], ErrDamaged},
		"interlaced":                    {fileOf(chunk{"IHDR", interlaced}, chunks[1:]), ErrUnsupported},
		"animated":                      {fileOf(chunks[0], append([]chunk{{"acTL", make([]byte, 8)}}, chunks[1:]...)), ErrUnsupported},
	} {
		_, err := Repack(c.data)
		require.ErrorIs(t, err, c.want, name)
	}
	for _, l := range []Layout{{0, 1, 1, 8}, {1, 1, 5, 8}, {1, 1, 1, 3}, {1 << 30, 1 << 30, 4, 16}, {mostSamples, 2, 1, 8}} {
		_, err := RepackSamples(nil, l, false)
		require.ErrorIs(t, err, ErrUnsupported)
	}
}

// fileOf is a file of chunks.
func fileOf(head chunk, rest []chunk) []byte {
	out := AppendChunk([]byte(Signature), head.kind, head.body)
	for _, c := range rest {
		out = AppendChunk(out, c.kind, c.body)
	}
	return out
}

func FuzzRepack(f *testing.F) {
	for _, img := range pictures() {
		small := image.NewRGBA(image.Rect(0, 0, 20, 10))
		draw.Draw(small, small.Rect, img, image.Point{}, draw.Src)
		f.Add(file(f, small, png.DefaultCompression))
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		chunks, err := chunksOf(data)
		if err == nil {
			if l, err := layoutOf(chunks); err == nil && l.rowBytes()*l.Height > 1<<20 {
				return // only slow
			}
		}
		after, err := Repack(data)
		if err != nil {
			return
		}
		assert.Less(t, len(after), len(data))
		if before, err := png.Decode(bytes.NewReader(data)); err == nil {
			again, err := png.Decode(bytes.NewReader(after))
			require.NoError(t, err)
			assert.Equal(t, before, again)
		}
	})
}

func FuzzRepackSamples(f *testing.F) {
	packed, err := compress(make([]byte, 400))
	require.NoError(f, err)
	f.Add(packed, 20, 20, 1, 8, false)
	f.Add(packed, 19, 20, 1, 8, true)
	f.Fuzz(func(t *testing.T, data []byte, width, height, channels, bits int, isFiltered bool) {
		l := Layout{width, height, channels, bits}
		if l.check() != nil || l.rowBytes()*l.Height > 1<<20 {
			return
		}
		after, err := RepackSamples(data, l, isFiltered)
		if err != nil {
			return
		}
		before, err := samplesOf(data, l, isFiltered)
		require.NoError(t, err)
		again, err := samplesOf(after, l, true)
		require.NoError(t, err)
		assert.Equal(t, before, again)
	})
}
