package packet

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

func TestSlicesAreSheetsFromTopToBottom(t *testing.T) {
	box := geometry.Box{X0: 100, Y0: 50, X1: 300, Y1: 800}
	for name, before := range map[string][]Command{
		"as it came":      nil,
		"cropped":         {Crop{Selected: On("p2"), Box: &box}},
		"upside down":     {Turn{Selected: On("p2"), By: 180}, Crop{Selected: On("p2"), Box: &box}},
		"on its side":     {Turn{Selected: On("p2"), By: 90}},
		"mirrored":        {Flip{Selected: On("p2"), Axis: "leftRight"}, Turn{Selected: On("p2"), By: 270}},
		"on a sheet":      {FitTo(geometry.A4, "p2")},
		"with a note":     {Note{Selected: On("p2"), Title: "Long"}},
		"partly on paper": {Crop{Selected: On("p2"), Box: &box}, FitTo(geometry.A4, "p2")},
	} {
		t.Run(name, func(t *testing.T) {
			p := twoParts(t)
			if len(before) > 0 {
				p = apply(t, p, before...)
			}
			whole := page(t, p, "p2").Framing().Cut()
			want := whole.DisplayedCrop()
			if want.IsZero() {
				want = whole.Size().Box()
			}
			p, words, err := Apply(p, []Command{Slice{Breaks: map[PageID][]float64{"p2": {0.25, 0.7}}, Paper: geometry.A4}}, Known{})
			require.NoError(t, err)
			assert.Equal(t, "Cut page 1 into 3 pages", words.English)
			pieces := p.Pages()[:3]
			assert.Equal(t, PageID("p2"), pieces[0].ID)
			top := want.Y0
			for i, share := range []float64{0.25, 0.7, 1} {
				piece := pieces[i]
				assert.InDelta(t, geometry.A4.Width, piece.Size().Width, 1e-6)
				assert.InDelta(t, geometry.A4.Height, piece.Size().Height, 1e-6)
				kept := piece.Framing().DisplayedCrop()
				end := want.Y0 + share*want.Size().Height
				assert.InDeltaSlice(t, []float64{want.X0, top, want.X1, end}, []float64{kept.X0, kept.Y0, kept.X1, kept.Y1}, 1e-6)
				layout := piece.Framing().DisplayedLayout()
				assert.InDelta(t, 0.5, layout.Across, 1e-9)
				assert.Zero(t, layout.Down, "at the top")
				top = end
			}
			assert.Empty(t, pieces[1].Note)
		})
	}
}

func TestSlicesWithoutPaperAreAsLargeAsTheyAre(t *testing.T) {
	p := apply(t, twoParts(t), Slice{Breaks: map[PageID][]float64{"p2": {0.5}, "p3": {0.1}}})
	assert.InDelta(t, geometry.A4.Height/2, page(t, p, "p2").Size().Height, 1e-6)
	assert.Len(t, p.Pages(), twoParts(t).PageCount()+2)
}

func TestSlicesThatCannotBe(t *testing.T) {
	for want, slice := range map[string]Slice{
		"Page 1: the places where it is cut are shares of its height, one below the other": {Breaks: map[PageID][]float64{"p2": {0.5, 0.5}}},
		"Page 1: it is not said where it is to be cut":                                     {Breaks: map[PageID][]float64{"p2": nil}},
		"Page 1: the rectangle leaves less than 5 mm of the page":                          {Breaks: map[PageID][]float64{"p2": {0.001}}},
		"Page 1: a page is cut at 500 places at most":                                      {Breaks: map[PageID][]float64{"p2": make([]float64, 501)}},
		"Page p99 is not in any part":                                                      {Breaks: map[PageID][]float64{"p99": {0.5}}},
	} {
		_, _, err := Apply(twoParts(t), []Command{slice}, Known{})
		assert.ErrorContains(t, err, want)
	}
	_, _, err := Apply(twoParts(t), []Command{Slice{Breaks: map[PageID][]float64{"p2": {0.5}}, Paper: geometry.Size{Width: 1, Height: 1}}}, Known{})
	assert.ErrorContains(t, err, "Page 1: ")
}
