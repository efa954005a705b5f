package jbig2

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"image"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
)

// decoded has jbig2dec, which we did not write, decode what a PDF would embed.
func decoded(t testing.TB, shared, data []byte) *bilevel.Bitmap {
	t.Helper()
	folder := t.TempDir()
	args := []string{"-e", "-t", "pbm", "-o", filepath.Join(folder, "out.pbm")}
	if shared != nil {
		path := filepath.Join(folder, "shared.jb2")
		require.NoError(t, os.WriteFile(path, shared, 0o600))
		args = append(args, path)
	}
	path := filepath.Join(folder, "page.jb2")
	require.NoError(t, os.WriteFile(path, data, 0o600))
	told, err := exec.Command("jbig2dec", append(args, path)...).CombinedOutput()
	require.NoError(t, err, "%s", told)
	pbm, err := os.ReadFile(filepath.Join(folder, "out.pbm"))
	require.NoError(t, err)
	var width, height int
	_, err = fmt.Sscanf(string(pbm), "P4\n%d %d\n", &width, &height)
	require.NoError(t, err)
	b := bilevel.New(width, height)
	copy(b.Bits, pbm[len(pbm)-len(b.Bits):])
	return b
}

func requireSame(t testing.TB, want, got *bilevel.Bitmap, name string) {
	t.Helper()
	require.Equal(t, image.Pt(want.Width, want.Height), image.Pt(got.Width, got.Height), name)
	require.True(t, bytes.Equal(want.Bits, got.Bits), "%s: some pixel is another", name)
}

// requireDecodes has our own decoder read what was written.
func requireDecodes(t testing.TB, want *bilevel.Bitmap, shared, data []byte, name string) {
	t.Helper()
	got, err := Decode(shared, data)
	require.NoError(t, err, name)
	requireSame(t, want, got, name)
}

func noise(random *rand.Rand, width, height int, share float64) *bilevel.Bitmap {
	b := bilevel.New(width, height)
	for y := range height {
		if y > 0 && random.IntN(3) == 0 {
			copy(b.Row(y), b.Row(y-1))
			continue
		}
		for x := range width {
			if random.Float64() < share {
				b.Set(x, y)
			}
		}
	}
	return b
}

func TestGenericPages(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	black := bilevel.New(70, 40)
	black.Invert()
	one := bilevel.New(1, 1)
	one.Set(0, 0)
	templates := map[byte]int{}
	for name, b := range map[string]*bilevel.Bitmap{
		"one pixel": one, "one white pixel": bilevel.New(1, 1), "all black": black, "empty": bilevel.New(300, 200),
		"a pixel wide": noise(random, 1, 500, 0.5), "a pixel high": noise(random, 500, 1, 0.5),
		"very wide": noise(random, 20_000, 3, 0.2), "noise": noise(random, 257, 199, 0.5),
		"sparse": noise(random, 640, 480, 0.01), "dense": noise(random, 333, 222, 0.97),
	} {
		encoded := EncodePage(b)
		requireSame(t, b, decoded(t, nil, encoded), name)
		requireDecodes(t, b, nil, encoded, name)
		templates[genericRegion(b)[17]>>templateAt&3]++
	}
	assert.Len(t, templates, 2, "what makes it shorter is taken")
}

func TestIntegersAreInTheirRanges(t *testing.T) {
	e := newArithmeticEncoder()
	var contexts integerContexts
	for _, v := range []int{0, 3, -3, 4, 19, 20, 83, 84, 339, 340, 4435, 4436, -70_000} {
		e.integer(v, &contexts)
	}
	e.outOfBand(&contexts)
	d := newArithmeticDecoder(e.flush())
	var seen integerContexts
	for _, v := range []int{0, 3, -3, 4, 19, 20, 83, 84, 339, 340, 4435, 4436, -70_000} {
		got, ok := d.integer(&seen)
		assert.Equal(t, v, got)
		assert.True(t, ok)
	}
	_, ok := d.integer(&seen)
	assert.False(t, ok, "the list ends")
}

func FuzzDecode(f *testing.F) {
	random := rand.New(rand.NewPCG(7, 8))
	encoded := Encode([]*bilevel.Bitmap{writing(random, 200, 150, 0.02), noise(random, 40, 30, 0.5)})
	for _, page := range append(encoded.Pages, EncodePage(screened(random, 150, 120, 5.3))) {
		f.Add(encoded.Shared, page)
	}
	f.Fuzz(func(t *testing.T, shared, data []byte) {
		if len(data) > 19 && binary.BigEndian.Uint32(data[11:])|binary.BigEndian.Uint32(data[15:]) > 1<<10 {
			t.Skip("large pages take long")
		}
		b, err := Decode(shared, data)
		if err != nil {
			assert.ErrorIs(t, err, ErrDamaged)
			return
		}
		assert.Positive(t, b.Width)
	})
}

// writing is a page on which a few shapes come again and again, some a little changed.
func writing(random *rand.Rand, width, height int, spoilt float64) *bilevel.Bitmap {
	var glyphs []*bilevel.Bitmap
	for range 12 {
		glyphs = append(glyphs, noise(random, 6+random.IntN(30), 8+random.IntN(30), 0.7))
	}
	b := bilevel.New(width, height)
	for y := 5; y+45 < height; y += 45 {
		for x := 3; x+40 < width; x += 40 {
			g := glyphs[random.IntN(len(glyphs))]
			for v := range g.Height {
				for u := range g.Width {
					if black := g.Black(u, v); black != (random.Float64() < spoilt) {
						b.Set(x+u, y+45-g.Height+v)
					}
				}
			}
		}
	}
	return b
}

func TestPagesShareSymbols(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	for name, spoilt := range map[string]float64{"the same": 0, "a little different": 0.02, "hardly alike": 0.3} {
		pages := []*bilevel.Bitmap{writing(random, 500, 400, spoilt), writing(random, 300, 700, spoilt), bilevel.New(200, 200)}
		encoded := Encode(pages)
		for i, b := range pages {
			page := fmt.Sprintf("%s, page %d", name, i+1)
			requireSame(t, b, decoded(t, encoded.Shared, encoded.Pages[i]), page)
			requireDecodes(t, b, encoded.Shared, encoded.Pages[i], page)
		}
	}
	one := Encode([]*bilevel.Bitmap{noise(random, 90, 90, 0.5)})
	assert.NotEmpty(t, one.Pages[0])
}

func TestSymbolsReachOverTheEdges(t *testing.T) {
	letter := bilevel.New(9, 9)
	letter.Fill(image.Rect(0, 0, 9, 2))
	letter.Fill(image.Rect(3, 2, 6, 9))
	b := bilevel.New(200, 100)
	put := func(x, y int, spots ...image.Point) {
		for v := range letter.Height {
			for u := range letter.Blacks(v) {
				b.Set(x+u, y+v)
			}
		}
		for _, spot := range spots {
			b.Set(x+spot.X, y+spot.Y)
		}
	}
	for x := 0; x <= 180; x += 15 {
		put(x, 0)
		put(x, 91)
		put(x, 40, image.Pt(-1, 1), image.Pt(4, -1), image.Pt(9, 0), image.Pt(4, 9))
	}
	put(191, 50)
	put(191, 70)
	encoded := Encode([]*bilevel.Bitmap{b})
	require.NotEmpty(t, encoded.Shared, "there are symbols")
	requireSame(t, b, decoded(t, encoded.Shared, encoded.Pages[0]), "by jbig2dec")
	requireDecodes(t, b, encoded.Shared, encoded.Pages[0], "by ours")
}

func TestWhatComesAgainIsStoredOnce(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	page := writing(random, 1200, 1600, 0)
	encoded := Encode([]*bilevel.Bitmap{page})
	together, alone := len(encoded.Shared)+len(encoded.Pages[0]), len(EncodePage(page))
	assert.Less(t, 2*together, alone)
}
