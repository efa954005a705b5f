package geometry

import (
	"encoding/json"
	"math"
	"math/rand/v2"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func requireBox(t *testing.T, want, got Box, message string) {
	t.Helper()
	require.InDeltaSlice(t, []float64{want.X0, want.Y0, want.X1, want.Y1}, []float64{got.X0, got.Y0, got.X1, got.Y1}, 1e-6, message)
}

// TestSheetsAreLaidAsTheClientLaysThem has the cases that the client's tests have as well.
func TestSheetsAreLaidAsTheClientLaysThem(t *testing.T) {
	text, err := os.ReadFile("testdata/sheets.json")
	require.NoError(t, err)
	var cases []struct {
		Name                string
		Fit                 SheetLayout
		Width, Height, X, Y float64
		Scale               float64
	}
	require.NoError(t, json.Unmarshal(text, &cases))
	require.NotEmpty(t, cases)
	kept := Size{200, 100}
	for _, c := range cases {
		sheet, to := c.Fit.Lay(kept)
		assert.Equal(t, Size{c.Width, c.Height}, sheet, c.Name)
		on := Box{c.X, c.Y, c.X + kept.Width*c.Scale, c.Y + kept.Height*c.Scale}
		requireBox(t, on, kept.Box().Mapped(to), c.Name)
		require.NoError(t, c.Fit.Check(), c.Name)
	}
}

func TestWhatHasNoRoomOnTheSheetIsNotSeen(t *testing.T) {
	f := Framing{Flat: Size{200, 100}, Fit: SheetLayout{Paper: Size{100, 80}, Scale: Keep, Across: 0.5, Down: 1}}
	requireBox(t, Box{50, 20, 150, 100}, f.Seen(), "")
	sheet, on := f.Laid()
	requireBox(t, sheet.Box(), on, "")
	assert.Equal(t, Box{50, 20, 150, 100}, f.Cut().Crop)
	f.Fit.Scale = Fill
	assert.Equal(t, f.Flat.Box(), f.Seen())
	assert.Zero(t, f.Cut().Crop)
}

// TestFitAsItStands lays pages by a fit that is meant as they stand: whatever their
// turn and mirror, they end on the same sheet, in the same place.
func TestFitAsItStands(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	for range 500 {
		f := someFraming(random)
		f.Straighten, f.Fit = 0, SheetLayout{}
		want := someFit(random)
		require.NoError(t, want.Check())
		stood := f.Size()
		sheet, to := want.Lay(stood)
		f.Fit = f.LayoutAsDisplayed(want)
		require.InDelta(t, sheet.Width, f.Size().Width, 1e-6)
		require.InDelta(t, sheet.Height, f.Size().Height, 1e-6)
		requireBox(t, stood.Box().Mapped(to), f.Kept().Mapped(f.Transform()), "")
		got := f.DisplayedLayout()
		require.InDelta(t, want.Across, got.Across, 1e-9)
		require.InDelta(t, want.Down, got.Down, 1e-9)
		require.Equal(t, want.Margin, got.Margin)
		require.Equal(t, want.Paper, got.Paper)
	}
}

func TestWhatIsSeenStaysOnTheSheet(t *testing.T) {
	random := rand.New(rand.NewPCG(9, 10))
	for range 500 {
		f := someFraming(random)
		sheet, seen := f.Laid()
		require.True(t, sheet.Box().Holds(seen, 1e-6), "%+v", f)
		if f.Straighten == 0 {
			require.True(t, f.Size().Box().Holds(f.Seen().Mapped(f.Transform()), 1e-6), "%+v", f)
		}
	}
}

func TestFitCheck(t *testing.T) {
	for _, c := range []struct {
		fit     SheetLayout
		problem string
	}{
		{SheetLayout{}, ""},
		{SheetLayout{Paper: A4, Scale: Shrink}, ""},
		{SheetLayout{Paper: A4}, `there is no scale ""`},
		{SheetLayout{Scale: Fill}, "nothing can be scaled without a paper to fit it to"},
		{SheetLayout{Paper: Size{10, 500}, Scale: Fill}, "a paper is between 10 and 5080 mm wide and high"},
		{SheetLayout{Paper: Size{math.NaN(), 500}, Scale: Fill}, "a paper is between 10 and 5080 mm wide and high"},
		{SheetLayout{Margin: Margin{Left: -1}}, "a margin is between 0 and 1270 mm wide"},
		{SheetLayout{Across: 2}, "a place on the sheet is between 0 and 1"},
		{SheetLayout{Paper: A4, Scale: Fill, Margin: Margin{Left: 300, Right: 300}}, "the margins leave no room on the paper"},
		{SheetLayout{Paper: Size{600, 100}, Follow: true, Scale: Fill, Margin: Margin{Left: 60, Right: 60}}, "the margins leave no room on the paper"},
	} {
		err := c.fit.Check()
		if c.problem == "" {
			assert.NoError(t, err)
		} else {
			assert.EqualError(t, err, c.problem)
		}
	}
}
