package raster

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
)

// darkest is the darkest grey in a rectangle given in millimetres.
func (s sheetOfPaper) darkest(x0, y0, x1, y1 float64) uint8 {
	least := uint8(255)
	for y := int(y0 * dotsPerMM); y < int(y1*dotsPerMM); y++ {
		for x := int(x0 * dotsPerMM); x < int(x1*dotsPerMM); x++ {
			least = min(least, s.GrayAt(x, y).Y)
		}
	}
	return least
}

func cleaned(s sheetOfPaper, c Cleaning) sheetOfPaper {
	return sheetOfPaper{c.Apply(s.Gray, geometry.A4).(*image.Gray)}
}

func TestEdgesAreWiped(t *testing.T) {
	for name, spoil := range map[string]func(sheetOfPaper){
		"a dark side":         func(s sheetOfPaper) { s.fill(0, 0, 4, 297, 30) },
		"a grey lid":          func(s sheetOfPaper) { s.fill(0, 0, 210, 9, 195); s.fill(0, 9, 210, 9.6, 120) },
		"a frame":             func(s sheetOfPaper) { s.fill(0, 0, 210, 5, 30); s.fill(0, 0, 5, 297, 60); s.fill(204, 0, 210, 297, 40) },
		"shadow of a binding": func(s sheetOfPaper) { s.fill(0, 0, 6, 297, 120); s.fill(6, 0, 7.5, 297, 190) },
	} {
		s := newSheet(235, 3)
		s.words(30, 40, 170, 252)
		spoil(s)
		got := cleaned(s, Cleaning{Edges: true})
		for _, strip := range [][4]float64{{0, 0, 210, 11}, {0, 0, 9, 297}, {201, 0, 210, 297}} {
			assert.Greater(t, got.darkest(strip[0], strip[1], strip[2], strip[3]), uint8(215), "%s, %v", name, strip)
		}
		assert.Equal(t, s.darkest(30, 40, 170, 252), got.darkest(30, 40, 170, 252), "%s: words stay", name)
	}
}

func TestWhatIsDrawnToTheBorderStays(t *testing.T) {
	for name, draw := range map[string]func(sheetOfPaper){
		"a rule":    func(s sheetOfPaper) { s.fill(0, 100, 210, 100.6, 40) },
		"a picture": func(s sheetOfPaper) { s.fill(0, 0, 210, 120, 90) },
		"a photograph that fills the page": func(s sheetOfPaper) {
			s.fill(0, 0, 210, 297, 90)
		},
	} {
		s := newSheet(235, 4)
		draw(s)
		assert.Equal(t, s.Pix, cleaned(s, Cleaning{Edges: true}).Pix, name)
	}
}

func TestSpecksAreRemoved(t *testing.T) {
	s := newSheet(235, 5)
	s.words(30, 40, 170, 252)
	s.fill(100, 270, 100.4, 270.4, 60)
	s.fill(171, 42, 171.5, 42.5, 40) // a full stop
	got := cleaned(s, Cleaning{Specks: true})
	assert.Greater(t, got.darkest(95, 265, 105, 275), uint8(215))
	assert.Less(t, got.darkest(170.5, 41, 173, 43), uint8(100))
	assert.Equal(t, uint8(60), s.darkest(95, 265, 105, 275), "the picture itself is left alone")
}

func TestPaintOver(t *testing.T) {
	s := newSheet(230, 6)
	s.words(30, 40, 170, 252)
	s.disc(60, 270, 8, 40)
	corner := func(x, y float64) geometry.Point { return geometry.Point{X: x * dotsPerMM, Y: y * dotsPerMM} }
	got := sheetOfPaper{PaintOver(s.Gray, [4]geometry.Point{corner(50, 258), corner(72, 262), corner(70, 284), corner(48, 280)}).(*image.Gray)}
	assert.Greater(t, got.darkest(45, 255, 75, 290), uint8(210))
	assert.Equal(t, s.darkest(30, 40, 170, 252), got.darkest(30, 40, 170, 252))

	tinted := image.NewRGBA(image.Rect(0, 0, 100, 100))
	for i := range tinted.Pix {
		tinted.Pix[i] = []uint8{200, 220, 180, 255}[i%4]
	}
	tinted.Set(50, 50, color.Black)
	whole := PaintOver(tinted, [4]geometry.Point{{X: 40, Y: 40}, {X: 60, Y: 40}, {X: 60, Y: 60}, {X: 40, Y: 60}})
	assert.Equal(t, color.RGBA{200, 220, 180, 255}, whole.At(50, 50), "in the paper's own colour")
	assert.Equal(t, tinted, PaintOver(tinted, [4]geometry.Point{{X: 140, Y: 40}, {X: 160, Y: 40}, {X: 160, Y: 60}, {X: 140, Y: 60}}), "outside of the picture")
}

func TestFindPaperEdge(t *testing.T) {
	for name, c := range map[string]struct {
		lid  func(sheetOfPaper)
		want []float64
	}{
		"no lid":           {func(sheetOfPaper) {}, []float64{0, 0, 0, 0}},
		"right and bottom": {func(s sheetOfPaper) { s.fill(204, 0, 210, 297, 40); s.fill(0, 285, 210, 297, 40) }, []float64{0, 0, 204, 285}},
		"a grey lid":       {func(s sheetOfPaper) { s.fill(0, 0, 7, 297, 190); s.fill(7, 0, 7.4, 297, 120) }, []float64{7.4, 0, 210, 297}},
		"a rule":           {func(s sheetOfPaper) { s.fill(0, 100, 210, 100.6, 40) }, []float64{0, 0, 0, 0}},
	} {
		s := newSheet(238, 8)
		s.words(30, 40, 170, 252)
		c.lid(s)
		// An edge is left out with where it fades.
		assert.InDeltaSlice(t, c.want, inMM(FindPaperEdge(s.Gray, geometry.A4)), 1.6, name)
	}
}

func TestTheEdgeOfATinyPage(t *testing.T) {
	for _, size := range []image.Point{{1400, 1400}, {1, 1}, {1400, 3}} {
		black := image.NewGray(image.Rectangle{Max: size})
		assert.Zero(t, FindPaperEdge(black, geometry.Size{Width: 32, Height: 32}), "a page that is black all over has no edge")
	}
}
