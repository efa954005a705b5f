package packet

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/problem"
)

func TestCropIsOfThePageAsItStands(t *testing.T) {
	box := geometry.Box{X0: 40, Y0: 30, X1: 540, Y1: 700}
	p := apply(t, twoParts(t), Turn{Selected: On("p3"), By: 90},
		Crop{Selected: On("p2", "p3"), Box: &box})
	assert.Equal(t, geometry.Size{Width: 500, Height: 670}, page(t, p, "p2").Size())
	turned := page(t, p, "p3")
	assert.InDelta(t, 500, turned.Size().Width, 1e-9)
	assert.InDelta(t, geometry.A4.Width-30, turned.Size().Height, 1e-9, "the page lies: the rectangle ends at its edge")
	assert.Equal(t, geometry.A4, page(t, p, "p6").Size())

	again := apply(t, p, Crop{Selected: On("p2"), Box: &geometry.Box{X1: 560, Y1: 750}})
	assert.Equal(t, geometry.Size{Width: 560, Height: 750}, page(t, again, "p2").Size(), "cropping again gives back")
	assert.Equal(t, turned, page(t, again, "p3"))

	lifted := apply(t, p, Crop{Selected: On("p2", "p3")})
	assert.Equal(t, geometry.A4, page(t, lifted, "p2").Size())
	assert.Equal(t, geometry.A4.Landscape(), page(t, lifted, "p3").Size())
}

func TestCropMirroredOnEvenPages(t *testing.T) {
	box := geometry.Box{X0: 100, Y0: 0, X1: 560, Y1: 842}
	p := apply(t, twoParts(t), Crop{Selected: InRange("all"), Box: &box, Mirrored: true})
	for i, page := range p.Pages() {
		crop := page.Framing().DisplayedCrop()
		if i%2 == 0 {
			assert.InDelta(t, 100, crop.X0, 1e-9, "page %d", i+1)
		} else {
			assert.InDelta(t, geometry.A4.Width-100, crop.X1, 1e-9, "page %d", i+1)
		}
	}
}

func TestCropWithARectangleForEachPage(t *testing.T) {
	boxes := map[PageID]geometry.Box{"p2": {X0: 10, Y0: 10, X1: 300, Y1: 300}, "p6": {X0: 20, Y0: 20, X1: 400, Y1: 500}}
	p, words, err := Apply(twoParts(t), []Command{Crop{Boxes: boxes}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Cropped 2 pages", words.English)
	assert.Equal(t, geometry.Size{Width: 290, Height: 290}, page(t, p, "p2").Size())
	assert.Equal(t, geometry.Size{Width: 380, Height: 480}, page(t, p, "p6").Size())
}

func TestCropsThatCannotBe(t *testing.T) {
	for name, c := range map[string]Command{
		"Page 2: the rectangle leaves less than 5 mm of the page": Crop{Selected: On("p3"), Box: &geometry.Box{X0: 590, Y0: 0, X1: 700, Y1: 100}},
		"Page p99 is not in any part":                             Crop{Boxes: map[PageID]geometry.Box{"p99": {X1: 100, Y1: 100}}},
		"A page is straightened by 15 degrees at most":            Straighten{Selected: On("p2"), Angle: 20},
	} {
		_, _, err := Apply(twoParts(t), []Command{c}, Known{})
		require.ErrorIs(t, err, problem.Invalid)
		assert.ErrorContains(t, err, name)
	}
}

func TestStraightenAsThePageStands(t *testing.T) {
	p := apply(t, twoParts(t), Flip{Selected: On("p3"), Axis: "leftRight"},
		Straighten{Selected: On("p2", "p3"), Angle: 2})
	assert.Equal(t, 2.0, page(t, p, "p2").Straighten)
	assert.Equal(t, -2.0, page(t, p, "p3").Straighten, "before its mirror, the page is turned the other way")
	assert.Equal(t, geometry.A4, page(t, p, "p2").Size(), "the paper stays")
	level := apply(t, p, Straighten{Selected: On("p2")})
	assert.Zero(t, page(t, level, "p2").Straighten)
}

func TestAnotherOutlineLiftsTheCrop(t *testing.T) {
	p := apply(t, twoParts(t), Crop{Selected: On("p2"), Box: &geometry.Box{X1: 300, Y1: 300}},
		Outline{Selected: On("p2"), Outline: &tilted})
	assert.True(t, page(t, p, "p2").Crop.IsZero())
}

func TestAPageWithoutARectangleIsNotCropped(t *testing.T) {
	p := twoParts(t)
	some := map[PageID]geometry.Box{"p2": {X0: 10, Y0: 10, X1: 100, Y1: 100}}
	_, _, err := Apply(p, []Command{Crop{Selected: On("p3"), Boxes: some}}, Known{})
	require.ErrorContains(t, err, "Page 2 has no rectangle to be cropped to")
}
