package raster

import (
	"image"
	"image/color"
	"image/draw"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
)

// sheetOfPaper is an A4 page at 100 dpi, of paper with a little noise.
type sheetOfPaper struct{ *image.Gray }

func newSheet(paper uint8, seed uint64) sheetOfPaper {
	s := sheetOfPaper{image.NewGray(image.Rect(0, 0, 827, 1169))}
	random := rand.New(rand.NewPCG(seed, 1))
	for i := range s.Pix {
		s.Pix[i] = uint8(max(0, min(255, int(paper)+int(random.NormFloat64()*3)))) //nolint:gosec // within a byte
	}
	return s
}

const dotsPerMM = 100 / geometry.MillimetresPerInch

// fill darkens a rectangle given in millimetres.
func (s sheetOfPaper) fill(x0, y0, x1, y1 float64, grey uint8) {
	r := image.Rect(int(x0*dotsPerMM), int(y0*dotsPerMM), int(x1*dotsPerMM), int(y1*dotsPerMM))
	draw.Draw(s.Gray, r, image.NewUniform(color.Gray{grey}), image.Point{}, draw.Src)
}

// words draws lines of short strokes, as print has them, in a box in millimetres.
func (s sheetOfPaper) words(x0, y0, x1, y1 float64) {
	for y := y0; y+2 <= y1+1e-9; y += 5 {
		for x := x0; x < x1; x += 2.4 {
			s.fill(x, y, math.Min(x+1.6, x1), y+2, 40)
		}
	}
}

func (s sheetOfPaper) disc(x, y, radius float64, grey uint8) {
	for py := range s.Rect.Dy() {
		for px := range s.Rect.Dx() {
			if math.Hypot(float64(px)/dotsPerMM-x, float64(py)/dotsPerMM-y) <= radius {
				s.SetGray(px, py, color.Gray{grey})
			}
		}
	}
}

func inMM(b geometry.Box) []float64 {
	return []float64{geometry.MM(b.X0), geometry.MM(b.Y0), geometry.MM(b.X1), geometry.MM(b.Y1)}
}

func TestFindContent(t *testing.T) {
	text := []float64{30, 40, 170, 252}
	for name, spoil := range map[string]func(sheetOfPaper){
		"clean":              func(sheetOfPaper) {},
		"dark edge, left":    func(s sheetOfPaper) { s.fill(0, 0, 3, 297, 30) },
		"dark edges, corner": func(s sheetOfPaper) { s.fill(0, 0, 210, 4, 20); s.fill(206, 0, 210, 297, 50) },
		"dark all around": func(s sheetOfPaper) {
			s.fill(0, 0, 210, 5, 30)
			s.fill(0, 0, 5, 297, 30)
			s.fill(204, 0, 210, 297, 30)
			s.fill(0, 292, 210, 297, 30)
		},
		"shadow of a binding": func(s sheetOfPaper) { s.fill(0, 0, 6, 297, 120); s.fill(6, 0, 7.5, 297, 170) },
		"punch holes":         func(s sheetOfPaper) { s.disc(12, 108.5, 3, 60); s.disc(12, 188.5, 3, 60) },
		"specks": func(s sheetOfPaper) {
			s.fill(10, 10, 10.4, 10.4, 60)
			s.fill(200, 20, 200.5, 20.5, 60)
			s.fill(100, 290, 100.4, 290.4, 60)
		},
	} {
		for _, paper := range []uint8{255, 225, 190} {
			s := newSheet(paper, uint64(paper))
			s.words(text[0], text[1], text[2], text[3])
			spoil(s)
			assert.InDeltaSlice(t, text, inMM(FindContent(s.Gray, geometry.A4)), 0.6, "%s on paper of grey %d", name, paper)
		}
	}
}

func TestFindContentKeepsWhatIsContent(t *testing.T) {
	for name, c := range map[string]struct {
		draw func(sheetOfPaper)
		want []float64
	}{
		"a page number at the foot":     {func(s sheetOfPaper) { s.words(30, 40, 170, 197); s.words(104, 285, 107, 287) }, []float64{30, 40, 170, 287}},
		"a rule under the head":         {func(s sheetOfPaper) { s.words(30, 40, 170, 197); s.fill(20, 12, 190, 12.5, 40) }, []float64{20, 12, 190, 197}},
		"full stops":                    {func(s sheetOfPaper) { s.words(30, 40, 170, 197); s.fill(171, 42, 171.5, 42.5, 40) }, []float64{30, 40, 171.5, 197}},
		"a picture that fills the page": {func(s sheetOfPaper) { s.fill(0, 0, 210, 297, 90); s.words(30, 40, 170, 197) }, nil},
		"a stamp on its own":            {func(s sheetOfPaper) { s.disc(150, 230, 12, 100) }, []float64{138, 218, 162, 242}},
		"nothing":                       {func(sheetOfPaper) {}, []float64{0, 0, 0, 0}},
	} {
		s := newSheet(240, 7)
		c.draw(s)
		got := inMM(FindContent(s.Gray, geometry.A4))
		if c.want == nil {
			assert.LessOrEqual(t, got[0], 30.6, name)
			assert.GreaterOrEqual(t, got[2], 169.4, name)
			continue
		}
		assert.InDeltaSlice(t, c.want, got, 0.6, name)
	}
}

func TestMarksAreTheConnectedOnes(t *testing.T) {
	picture := []string{
		"#..#....",
		"#..#.##.",
		"####..#.",
		".......#",
		".#......",
		"#.#.....",
	}
	bw := image.NewGray(image.Rect(0, 0, 8, 6))
	for y, row := range picture {
		for x := range row {
			bw.Pix[y*8+x] = 255
			if row[x] == '#' {
				bw.Pix[y*8+x] = 0
			}
		}
	}
	assert.ElementsMatch(t, []mark{
		{image.Rect(0, 0, 4, 3), 8}, {image.Rect(5, 1, 8, 4), 4}, {image.Rect(0, 4, 3, 6), 3},
	}, marksOf(bw))
}

func BenchmarkFindContent(b *testing.B) {
	s := newSheet(230, 1)
	s.words(30, 40, 170, 252)
	for b.Loop() {
		FindContent(s.Gray, geometry.A4)
	}
}

func TestStackShowsAllPages(t *testing.T) {
	one, two := newSheet(200, 1), newSheet(250, 2)
	one.fill(30, 40, 60, 50, 20)
	two.fill(100, 100, 120, 110, 120)
	s := NewStack(one.Rect.Dx(), one.Rect.Dy())
	s.Add(one.Gray)
	s.Add(two.Gray)
	at := func(img *image.Gray, x, y float64) float64 {
		return float64(img.GrayAt(int(x*dotsPerMM), int(y*dotsPerMM)).Y)
	}
	assert.InDelta(t, 25, at(s.Darkest(), 45, 45), 4, "the ink of the first page")
	assert.InDelta(t, 122, at(s.Darkest(), 110, 105), 4, "and of the second")
	assert.Greater(t, at(s.Darkest(), 150, 200), 235.0, "grey paper hides nothing")
	assert.InDelta(t, 140, at(s.Average(), 45, 45), 5, "on one of two pages")
}
