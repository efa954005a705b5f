package raster

import (
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"
	"golang.org/x/image/math/fixed"

	"dorbin/core/geometry"
	"dorbin/internal/sampling"
)

// levelPage is an A4 page that is drawn level at a resolution.
type levelPage struct {
	*image.Gray
	dpi    float64
	face   font.Face
	random *rand.Rand
}

func newLevelPage(t testing.TB, dpi float64, seed uint64) levelPage {
	t.Helper()
	parsed, err := opentype.Parse(goregular.TTF)
	require.NoError(t, err)
	face, err := opentype.NewFace(parsed, &opentype.FaceOptions{Size: 10.5, DPI: dpi})
	require.NoError(t, err)
	p := levelPage{image.NewGray(image.Rect(0, 0, int(8.27*dpi), int(11.69*dpi))), dpi, face, rand.New(rand.NewPCG(seed, 21))}
	draw.Draw(p.Gray, p.Rect, image.NewUniform(color.Gray{Y: uint8(225 + p.random.IntN(30))}), image.Point{}, draw.Src) //nolint:gosec // below 256
	return p
}

func (p levelPage) px(mm float64) int { return int(mm / geometry.MillimetresPerInch * p.dpi) }

func (p levelPage) fill(x0, y0, x1, y1 float64) {
	r := image.Rect(p.px(x0), p.px(y0), max(p.px(x1), p.px(x0)+1), max(p.px(y1), p.px(y0)+1))
	draw.Draw(p.Gray, r, image.NewUniform(color.Gray{Y: 50}), image.Point{}, draw.Src)
}

func (p levelPage) write(x0, x1, y float64) {
	words := strings.Fields(prose)
	line := &font.Drawer{Dst: p.Gray, Src: image.NewUniform(color.Gray{Y: 45}), Face: p.face, Dot: fixed.P(p.px(x0), p.px(y))}
	for {
		word := words[p.random.IntN(len(words))] + " "
		if (line.Dot.X + line.MeasureString(word)).Ceil() > p.px(x1) {
			return
		}
		line.DrawString(word)
	}
}

func (p levelPage) text(from, to float64) {
	for y := from; y < to; y += 5 {
		p.write(25, 150+35*p.random.Float64(), y)
	}
}

func (p levelPage) table(from, to float64) {
	for y := from; y <= to; y += 9 {
		p.fill(25, y, 185, y+0.3)
		if y+9 <= to {
			p.write(28, 60, y+6)
			p.write(110, 140, y+6)
		}
	}
	for _, x := range []float64{25, 100, 145, 185} {
		p.fill(x, from, x+0.3, to)
	}
}

func (p levelPage) form() {
	for y := 40.0; y < 250; y += 14 {
		p.write(25, 60, y)
		p.fill(65, y+0.8, 180, y+1)
		if p.random.IntN(2) == 0 {
			p.write(68, 120, y)
		}
	}
}

// photograph fills a rectangle with soft shapes of every direction.
func (p levelPage) photograph(x0, y0, x1, y1 float64) {
	area := image.Rect(p.px(x0), p.px(y0), p.px(x1), p.px(y1)).Intersect(p.Rect)
	const coarse = 6
	small := image.NewGray(image.Rect(0, 0, area.Dx()/coarse, area.Dy()/coarse))
	for i := range 30 {
		f := (0.02 + 0.02*float64(i)) * coarse / (p.dpi / 50)
		angle, phase := 2*math.Pi*p.random.Float64(), 7*p.random.Float64()
		dx, dy, size := f*math.Cos(angle), f*math.Sin(angle), 30/(1+float64(i)/4)
		for at := range small.Pix {
			v := size * math.Sin(dx*float64(at%small.Stride)+dy*float64(at/small.Stride)+phase)
			small.Pix[at] = uint8(max(-100, min(100, float64(small.Pix[at])-100+v)) + 100)
			if i == 0 {
				small.Pix[at] = uint8(120 + v)
			}
		}
	}
	draw.Draw(p.Gray, area, Resize(small, area.Dx(), area.Dy()), image.Point{}, draw.Src)
}

// scanned is the page leaning by an angle, in degrees clockwise, with a scanner's
// noise, at half its resolution.
func (p levelPage) scanned(angle float64) *image.Gray {
	size := geometry.Size{Width: float64(p.Rect.Dx()) / 2, Height: float64(p.Rect.Dy()) / 2}
	f := geometry.Framing{Flat: size, Straighten: angle}
	from := f.Transform().Inverse().Then(geometry.Scaling(2, 2)).Projection()
	soft := image.NewGray(p.Rect)
	copy(soft.Pix, p.Pix)
	boxBlurGray(soft, p.Gray)
	page := Warp(soft, from, int(size.Width), int(size.Height), PaperColour(p.Gray)).(*image.Gray)
	for i, v := range page.Pix {
		page.Pix[i] = uint8(max(0, min(255, float64(v)+4*p.random.NormFloat64())))
	}
	return page
}

func boxBlurGray(out, in *image.Gray) {
	for y := range in.Rect.Dy() - 1 {
		for x := range in.Rect.Dx() - 1 {
			i := y*in.Stride + x
			out.Pix[i] = uint8((int(in.Pix[i]) + int(in.Pix[i+1]) + int(in.Pix[i+in.Stride]) + int(in.Pix[i+in.Stride+1])) / 4) //nolint:gosec // a mean of bytes
		}
	}
}

var leaning = map[string]func(levelPage){
	"text":                  func(p levelPage) { p.text(30, 265) },
	"a short letter":        func(p levelPage) { p.text(50, 90); p.write(25, 70, 110) },
	"a table":               func(p levelPage) { p.text(25, 40); p.table(60, 240) },
	"a form":                func(p levelPage) { p.form() },
	"text and a photograph": func(p levelPage) { p.text(30, 120); p.photograph(30, 130, 150, 200); p.text(220, 260) },
	"a sideways table": func(p levelPage) {
		for x := 20.0; x < 190; x += 12 {
			p.fill(x, 30, x+0.4, 260)
		}
	},
}

func TestMeasureTilt(t *testing.T) {
	sampling.Heavy(t)
	sum, worst, n := 0.0, 0.0, 0
	for _, name := range slices.Sorted(maps.Keys(leaning)) {
		draw := leaning[name]
		for _, i := range sampling.Numbers(t, 5, 2) {
			random := rand.New(rand.NewPCG(uint64(i), 5)) //nolint:gosec // small
			angle := 30*random.Float64() - 15
			if i < 3 {
				angle /= 15 // most scans lean by little
			}
			p := newLevelPage(t, 240, uint64(i)) //nolint:gosec // small
			draw(p)
			got := MeasureTilt(p.scanned(angle))
			off := math.Abs(got.Angle - angle)
			sum, worst, n = sum+off, math.Max(worst, off), n+1
			assert.Less(t, off, 0.3, "%s at %.2f: %+v", name, angle, got)
			assert.Greater(t, got.Sure, SureTilt, "%s at %.2f", name, angle)
		}
	}
	t.Logf("mean error %.4f°, worst %.3f° of %d", sum/float64(n), worst, n)
	assert.Less(t, sum/float64(n), 0.05)
}

func TestNothingLeansWhereThereIsNothingToMeasure(t *testing.T) {
	for name, draw := range map[string]func(levelPage){
		"blank":               func(levelPage) {},
		"blank, with a hole":  func(p levelPage) { p.fill(8, 100, 12, 104) },
		"a photograph":        func(p levelPage) { p.photograph(0, 0, 211, 298) },
		"a framed photograph": func(p levelPage) { p.photograph(10, 10, 200, 280) },
		"a sky":               func(p levelPage) { p.photograph(0, 150, 211, 298) },
	} {
		for _, i := range sampling.Numbers(t, 5, 2) {
			p := newLevelPage(t, 150, uint64(i)) //nolint:gosec // small
			draw(p)
			got := MeasureTilt(p.scanned(float64(i)))
			assert.Less(t, got.Sure, SureTilt, fmt.Sprintf("%s, %d: %+v", name, i, got))
		}
	}
}

func BenchmarkMeasureTilt(b *testing.B) {
	p := newLevelPage(b, 600, 1)
	p.text(30, 265)
	scan := p.scanned(2)
	for b.Loop() {
		MeasureTilt(scan)
	}
}
