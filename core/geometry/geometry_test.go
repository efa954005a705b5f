package geometry

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestImageSizeFromResolution(t *testing.T) {
	cases := map[string]struct {
		width, height int
		resolution    Resolution
		want          Size
	}{
		"A4 at 300 dpi":             {2480, 3508, Resolution{300, 300}, Size{595.2, 841.92}},
		"fax with uneven dpi":       {1728, 1143, Resolution{204, 98}, Size{609.88, 839.75}},
		"no dpi, A4 aspect":         {1240, 1754, Resolution{}, Size{595.17, 841.89}},
		"no dpi, Letter aspect":     {850, 1100, Resolution{}, Letter},
		"no dpi, landscape":         {1754, 1240, Resolution{}, Size{841.89, 595.17}},
		"photograph at 1 dpi":       {4000, 3000, Resolution{1, 1}, Size{792, 594}},
		"scan claiming a huge page": {20000, 30000, Resolution{72, 72}, Size{561.26, 841.89}},
		"icon claiming 4800 dpi":    {1000, 1414, Resolution{4800, 4800}, Size{595.28, 841.72}},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			got := ImageSize(c.width, c.height, c.resolution)
			assert.InDelta(t, c.want.Width, got.Width, 0.02)
			assert.InDelta(t, c.want.Height, got.Height, 0.02)
		})
	}
}

func TestImageSizeKeepsAspectWithoutResolution(t *testing.T) {
	for _, px := range [][2]int{{100, 5000}, {5000, 100}, {3, 3}, {4032, 3024}} {
		got := ImageSize(px[0], px[1], Resolution{})
		assert.InEpsilon(t, float64(px[0])/float64(px[1]), got.Width/got.Height, 1e-9)
	}
}

func TestTurning(t *testing.T) {
	for degrees, want := range map[int]int{0: 0, 90: 90, 360: 0, -90: 270, 450: 90, -720: 0, 180: 180} {
		assert.Equal(t, want, NormalTurn(degrees), degrees)
	}
	assert.Equal(t, Size{20, 10}, Size{10, 20}.Turned(270))
	assert.Equal(t, Size{10, 20}, Size{10, 20}.Turned(-180))
}

func TestPaperName(t *testing.T) {
	assert.Equal(t, "A4", PaperName(Size{842, 595}))
	assert.Equal(t, "Letter", PaperName(Size{612, 792}))
	assert.Equal(t, "A3", PaperName(A3.Landscape()))
	assert.Equal(t, "", PaperName(Size{400, 400}))
	assert.Equal(t, "210 × 297 mm", A4.String())
}
