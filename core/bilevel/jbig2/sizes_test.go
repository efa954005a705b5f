package jbig2

import (
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"dorbin/core/bilevel"
	"dorbin/internal/sampling"
)

const prose = `The council will consider the application at its next meeting in the town hall. Objections
should be sent in writing to the planning office before the end of the month, together with any
photographs that help to describe what is proposed. The applicant has been asked to provide a drawing
of the northern elevation, because the one that was submitted does not show the height of the porch.`

// textPages are A4 pages of text at 300 dpi, in black and white, as a scanner would make
// them of print: with a deviation of so many grey levels of noise before the threshold.
func textPages(t testing.TB, count int, noise float64) []*bilevel.Bitmap {
	t.Helper()
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: 10.5, DPI: 300})
	require.NoError(t, err)
	words := strings.Fields(prose)
	pages := make([]*bilevel.Bitmap, count)
	for n := range pages {
		random := rand.New(rand.NewPCG(uint64(n), 3)) //nolint:gosec // small
		gray := image.NewGray(image.Rect(0, 0, 2480, 3508))
		draw.Draw(gray, gray.Rect, image.White, image.Point{}, draw.Src)
		for y := 350; y < 3200; y += 60 {
			line := &font.Drawer{Dst: gray, Src: image.NewUniform(color.Black), Face: face, Dot: fixed.P(300, y)}
			for line.Dot.X.Ceil() < 2000 {
				line.DrawString(words[random.IntN(len(words))] + " ")
			}
		}
		b := bilevel.New(gray.Rect.Dx(), gray.Rect.Dy())
		for y := range b.Height {
			for x, v := range gray.Pix[y*gray.Stride:][:b.Width] {
				if v != 255 && float64(v)+noise*random.NormFloat64() < 128 {
					b.Set(x, y)
				}
			}
		}
		pages[n] = b
	}
	return pages
}

func TestTextPagesAreSmall(t *testing.T) {
	sampling.Heavy(t)
	for name, test := range map[string]struct{ noise, most float64 }{"print": {0, 0.15}, "a scan": {25, 0.5}} {
		pages := textPages(t, 10, test.noise)
		g4, generic, together := 0, 0, 0
		encoded := Encode(pages)
		for i, b := range pages {
			g4 += len(bilevel.EncodeG4(b))
			generic += len(EncodePage(b))
			together += len(encoded.Pages[i])
		}
		together += len(encoded.Shared)
		t.Logf("%s: G4 %d, generic %.2f of it, with symbols %.2f", name, g4, float64(generic)/float64(g4), float64(together)/float64(g4))
		assert.Less(t, float64(generic), 0.85*float64(g4), name)
		assert.Less(t, float64(together), test.most*float64(g4), name)
		requireSame(t, pages[3], decoded(t, encoded.Shared, encoded.Pages[3]), name)
	}
}

func BenchmarkEncode(b *testing.B) {
	pages := textPages(b, 10, 25)
	for b.Loop() {
		Encode(pages)
	}
	b.ReportMetric(float64(b.Elapsed().Milliseconds())/float64(b.N)/10, "ms/page")
}

func BenchmarkEncodePage(b *testing.B) {
	page := textPages(b, 1, 25)[0]
	for b.Loop() {
		EncodePage(page)
	}
}
