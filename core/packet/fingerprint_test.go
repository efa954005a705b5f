package packet

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
	"dorbin/core/raster"
)

// TestFingerprintsStayAsTheyAreStored holds fingerprints to those that data folders have in
// them. A change of one unmarks pages that were checked, and throws measurements away.
func TestFingerprintsStayAsTheyAreStored(t *testing.T) {
	quad := geometry.PaperQuad{{X: 0.1, Y: 0.05}, {X: 0.9, Y: 0.07}, {X: 0.88, Y: 0.95}, {X: 0.12, Y: 0.93}}
	sheet := geometry.SheetLayout{
		Paper: geometry.A4, Follow: true, Scale: "shrink", Across: 0.5, Down: 0.25,
		Margin: geometry.Margin{Top: 20, Right: 1, Bottom: 2, Left: 3.5},
	}
	for want, look := range map[string]Adjustments{
		"3g1r39mvjqkx6": {},
		"2zc90nppsx0xh": {Paper: quad, Flat: geometry.Size{Width: 595.276, Height: 841.89}},
		"2mnx6jcla2rq":  {Straighten: -2.4},
		"1hta8ztqf4iu6": {Crop: geometry.Box{X0: 30, Y0: 30.5, X1: 500, Y1: 700}},
		"1w1648qcjbvjj": {Sheet: sheet},
		"1trlinpmkjcw6": {Mirror: true},
		"3ik1v3x0svosu": {Clean: raster.Cleaning{Edges: true}},
		"2z50ncmdqyobf": {Patches: PatchesOf([]Patch{{Box: geometry.Box{X0: 1, Y0: 2, X1: 3, Y1: 4}, Tilt: 1.5}})},
		"2ch3iftjor34j": {Tone: raster.Tone{Mode: raster.BlackWhite, Brightness: 3, Contrast: -4}},
		"3rsp4bc1j63c6": {Picture: true},
		"32rsqkrsr1ep6": {Annotations: annotation.NoneSeen},
	} {
		page := Page{ID: "p2", Source: "f1", SourcePage: 3, Upright: geometry.A4, Turn: 90, Adjustments: look}
		assert.Equal(t, want, page.Fingerprint(), "%+v", look)
	}
	assert.Equal(t, "3usi12thmbdis", Page{ID: "p9", Upright: geometry.A4}.Fingerprint())
}

func TestPapersOfHalfAMillimetreAreToldApart(t *testing.T) {
	of := func(mm float64) string {
		paper := geometry.Size{Width: mm / geometry.MillimetresPerInch * geometry.PointsPerInch, Height: 300}
		return Page{Source: "f1", SourcePage: 1, Adjustments: Adjustments{Sheet: geometry.SheetLayout{Paper: paper}}}.Fingerprint()
	}
	assert.NotEqual(t, of(100.6), of(101.4))
}
