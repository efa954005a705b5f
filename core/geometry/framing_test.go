package geometry

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func someFraming(random *rand.Rand) Framing {
	f := Framing{
		Flat:   Size{200 + 800*random.Float64(), 200 + 800*random.Float64()},
		Mirror: random.IntN(2) == 0, Turn: 90 * random.IntN(4),
	}
	if random.IntN(2) == 0 {
		f.Straighten = 30*random.Float64() - 15
	}
	if random.IntN(2) == 0 {
		f.Crop = Box{
			f.Flat.Width * 0.4 * random.Float64(), f.Flat.Height * 0.4 * random.Float64(),
			f.Flat.Width * (1 - 0.4*random.Float64()), f.Flat.Height * (1 - 0.4*random.Float64()),
		}
	}
	if random.IntN(2) == 0 {
		f.Fit = someFit(random)
	}
	return f
}

func someFit(random *rand.Rand) SheetLayout {
	edge := func() float64 { return 300 + 500*random.Float64() }
	margin := func() float64 { return 30 * random.Float64() }
	fit := SheetLayout{Across: random.Float64(), Down: random.Float64(), Margin: Margin{margin(), margin(), margin(), margin()}}
	if random.IntN(4) > 0 {
		fit.Paper, fit.Follow = Size{edge(), edge()}, random.IntN(2) == 0
		fit.Scale = []Scale{Shrink, Fill, Keep}[random.IntN(3)]
	}
	return fit
}

func TestFramingLeadsThereAndBack(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 2))
	for range 500 {
		f := someFraming(random)
		there, back := f.Transform(), f.Transform().Inverse()
		x, y := f.Flat.Width*random.Float64(), f.Flat.Height*random.Float64()
		u, v := there.Apply(x, y)
		gotX, gotY := back.Apply(u, v)
		require.InDelta(t, x, gotX, 1e-6)
		require.InDelta(t, y, gotY, 1e-6)
		px, py := there.Projection().Then(back.Projection()).Apply(x, y)
		require.InDelta(t, x, px, 1e-6)
		require.InDelta(t, y, py, 1e-6)
		require.InDelta(t, there.A*there.A+there.B*there.B, math.Abs(there.A*there.D-there.B*there.C), 1e-9, "nothing is stretched or slanted")
	}
}

func TestFramingFillsThePage(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 4))
	for range 500 {
		f := someFraming(random)
		f.Straighten, f.Fit = 0, SheetLayout{}
		got, want := f.Kept().Mapped(f.Transform()), f.Size().Box()
		require.InDeltaSlice(t,
			[]float64{want.X0, want.Y0, want.X1, want.Y1}, []float64{got.X0, got.Y0, got.X1, got.Y1}, 1e-6)
	}
}

func TestFramingGoesStepByStep(t *testing.T) {
	flat := Size{200, 100}
	for _, c := range []struct {
		name    string
		framing Framing
		x, y    float64 // where the flat page's point (20, 10) goes
	}{
		{"as it is", Framing{Flat: flat}, 20, 10},
		{"turned right", Framing{Flat: flat, Turn: 90}, 90, 20},
		{"turned about", Framing{Flat: flat, Turn: 180}, 180, 90},
		{"turned left", Framing{Flat: flat, Turn: 270}, 10, 180},
		{"mirrored", Framing{Flat: flat, Mirror: true}, 180, 10},
		{"mirrored, then turned right", Framing{Flat: flat, Mirror: true, Turn: 90}, 90, 180},
		{"cropped", Framing{Flat: flat, Crop: Box{5, 4, 100, 50}}, 15, 6},
		{"cropped, then turned right", Framing{Flat: flat, Crop: Box{5, 4, 100, 50}, Turn: 90}, 40, 15},
	} {
		x, y := c.framing.Transform().Apply(20, 10)
		assert.InDeltaSlice(t, []float64{c.x, c.y}, []float64{x, y}, 1e-9, c.name)
	}
	tilted := Framing{Flat: flat, Straighten: 10}
	x, y := tilted.Transform().Apply(150, 50)
	assert.Greater(t, y, 50.0, "what is right of the middle goes down: clockwise")
	assert.Less(t, x, 150.0)
}

func TestEnlargement(t *testing.T) {
	strip := Framing{Flat: Size{Width: 60, Height: 840}, Crop: Box{X1: 60, Y1: 84}}
	assert.InDelta(t, 1, strip.Enlargement(), 1e-9)
	strip.Fit = SheetLayout{Paper: Size{Width: 600, Height: 840}, Scale: Fill}
	assert.InDelta(t, 10, strip.Enlargement(), 1e-9)
	strip.Fit.Scale, strip.Turn, strip.Mirror = Shrink, 90, true
	assert.InDelta(t, 1, strip.Enlargement(), 1e-9, "there is room")
	strip.Fit = SheetLayout{Paper: Size{Width: 30, Height: 840}, Scale: Shrink}
	assert.InDelta(t, 0.5, strip.Enlargement(), 1e-9)
}

func TestCropAsItStands(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 6))
	for range 500 {
		f := someFraming(random)
		size := f.Uncropped().Size()
		want := Box{
			size.Width * 0.3 * random.Float64(), size.Height * 0.3 * random.Float64(),
			size.Width * (1 - 0.3*random.Float64()), size.Height * (1 - 0.3*random.Float64()),
		}
		crop, err := f.CropAsDisplayed(want)
		require.NoError(t, err)
		f.Crop, f.Fit = crop, SheetLayout{}
		got := f.DisplayedCrop()
		require.InDeltaSlice(t, []float64{want.X0, want.Y0, want.X1, want.Y1}, []float64{got.X0, got.Y0, got.X1, got.Y1}, 1e-6)
		require.InDelta(t, want.Size().Width, f.Size().Width, 1e-6)
		require.InDelta(t, want.Size().Height, f.Size().Height, 1e-6)
	}
}

func TestCropOf(t *testing.T) {
	for _, c := range []struct {
		name    string
		box     Box
		want    Box
		problem string
	}{
		{"inside", Box{10, 20, 100, 200}, Box{10, 20, 100, 200}, ""},
		{"over the edge", Box{-10, 20, 700, 200}, Box{0, 20, 595.276, 200}, ""},
		{"all of the page", Box{-1, 0, 700, 900}, Box{}, ""},
		{"beside the page", Box{600, 0, 700, 100}, Box{}, "the rectangle leaves less than 5 mm of the page"},
		{"turned round", Box{100, 100, 50, 50}, Box{}, "the rectangle leaves less than 5 mm of the page"},
		{"no number", Box{math.NaN(), 0, 50, 50}, Box{}, "a side of the rectangle is no number"},
	} {
		got, err := CropOf(c.box, A4)
		if c.problem != "" {
			assert.EqualError(t, err, c.problem, c.name)
			continue
		}
		assert.NoError(t, err, c.name)
		assert.Equal(t, c.want, got, c.name)
	}
}
