package packet

import (
	"encoding/json"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/problem"
	"dorbin/core/raster"
)

func TestClean(t *testing.T) {
	p := threeParts(t)
	ids := []PageID{p.Pages()[0].ID, p.Pages()[1].ID}
	next, said, err := Apply(p, []Command{Clean{Selected: On(ids...), Clean: raster.Cleaning{Edges: true}}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Cleaned 2 pages", said.English)
	assert.True(t, next.Pages()[0].Clean.Edges)
	next, said, err = Apply(next, []Command{Clean{Selected: On(ids...), Clean: raster.Cleaning{}}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Left 2 pages as they were scanned", said.English)
	assert.Equal(t, p.Pages()[0].Adjustments, next.Pages()[0].Adjustments)
}

func TestPaint(t *testing.T) {
	p := threeParts(t)
	page := p.Pages()[0]
	box := func(x0, y0, x1, y1 float64) *geometry.Box { return &geometry.Box{X0: x0, Y0: y0, X1: x1, Y1: y1} }
	paint := func(p Packet, b *geometry.Box) Packet {
		next, _, err := Apply(p, []Command{Paint{Selected: On(page.ID), Box: b}}, Known{})
		require.NoError(t, err)
		return next
	}
	painted := paint(paint(p, box(10, 20, 60, 50)), box(100, 100, 120, 130))
	assert.Len(t, painted.Pages()[0].Patches.List(), 2)
	assert.NotEqual(t, page.Fingerprint(), painted.Pages()[0].Fingerprint())

	text, err := json.Marshal(painted)
	require.NoError(t, err)
	var read Packet
	require.NoError(t, json.Unmarshal(text, &read))
	assert.Equal(t, painted, read, "it is kept with the packet")

	first := 0
	one, said, err := Apply(painted, []Command{Paint{Selected: On(page.ID), At: &first}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Showed again what was painted over on page 1", said.English)
	assert.Equal(t, []geometry.Box{*box(100, 100, 120, 130)}, one.Pages()[0].DisplayedPatches())
	none, _, err := Apply(painted, []Command{Paint{Selected: On(page.ID)}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, page, none.Pages()[0])

	for _, wrong := range []Command{
		Paint{Selected: On(page.ID), Box: box(10, 10, 11, 50)},
		Paint{Selected: On(page.ID), Box: box(-90, -90, -10, -10)},
		Paint{Selected: On(page.ID), At: &first},
	} {
		_, _, err := Apply(p, []Command{wrong}, Known{})
		require.ErrorIs(t, err, problem.Invalid)
	}
}

// TestPaintStaysWhereItWasPainted turns, mirrors, straightens and crops a page after a
// place on it was painted over.
func TestPaintStaysWhereItWasPainted(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 12))
	for range 200 {
		page := Page{Source: "s", Upright: geometry.Size{Width: 400, Height: 600}, Turn: 90 * random.IntN(4)}
		page.Mirror, page.Straighten = random.IntN(2) == 0, 10*random.Float64()-5
		before := page.Framing().Uncropped().Transform()
		standing := geometry.Box{X0: 100, Y0: 120, X1: 180, Y1: 150}
		require.NoError(t, page.paint(standing))
		got := page.DisplayedPatches()[0]
		require.InDelta(t, standing.X0, got.X0, 1e-6)
		require.InDelta(t, standing.Y1, got.Y1, 1e-6)

		corner := page.Patches.List()[0].Corners(page.Upright)[0]
		x, y := before.Apply(corner.X, corner.Y)
		require.True(t, standing.Grown(1e-6).Holds(geometry.Box{X0: x, Y0: y, X1: x, Y1: y}, 1e-6), "a corner of the patch is one of the box")
		page.Straighten, page.Turn, page.Crop = 0, 0, geometry.Box{X0: 10, Y0: 10, X1: 300, Y1: 300}
		require.Equal(t, corner, page.Patches.List()[0].Corners(page.Upright)[0], "what is done to the page later does not move it")
	}
}

func TestPicture(t *testing.T) {
	p := threeParts(t)
	id := p.Pages()[0].ID
	next, said, err := Apply(p, []Command{Picture{Selected: On(id), Picture: true}}, Known{})
	require.NoError(t, err)
	assert.Equal(t, "Turned page 1 into an image", said.English)
	assert.True(t, next.Pages()[0].Picture)
}

func FuzzPatches(f *testing.F) {
	f.Add([]byte(`[{"box":{"x0":1,"y0":2,"x1":3,"y1":4},"tilt":2}]`))
	f.Add([]byte(`null`))
	f.Fuzz(func(t *testing.T, text []byte) {
		var patches Patches
		if patches.UnmarshalJSON(text) != nil {
			return
		}
		written, err := json.Marshal(patches)
		require.NoError(t, err)
		var again Patches
		require.NoError(t, json.Unmarshal(written, &again))
		require.Equal(t, patches, again)
	})
}
