package packet

import (
	"encoding/json"
	"errors"
	"math/rand/v2"
	"os"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
	"dorbin/core/problem"
	"dorbin/core/raster"
)

var tilted = geometry.PaperQuad{{X: 0.1, Y: 0.1}, {X: 0.9, Y: 0.15}, {X: 0.95, Y: 0.9}, {X: 0.05, Y: 0.85}}

func page(t *testing.T, p Packet, id PageID) Page {
	t.Helper()
	found, ok := p.Find(id)
	require.True(t, ok)
	return found
}

// corner follows the top left corner of the source through mirror and turn, as
// the number of the corner it comes to, clockwise.
func corner(p Page) (at int, clockwise bool) {
	if p.Mirror {
		return (1 + p.Turn/90) % 4, false
	}
	return p.Turn / 90, true
}

func TestFlipsAreThoseOfThePageAsItStands(t *testing.T) {
	across := map[int]int{0: 1, 1: 0, 2: 3, 3: 2} // where a corner goes
	down := map[int]int{0: 3, 3: 0, 1: 2, 2: 1}
	for turn := 0; turn < 360; turn += 90 {
		for _, mirrored := range []bool{false, true} {
			p := twoParts(t)
			p.Parts[0].Pages[0].Turn, p.Parts[0].Pages[0].Mirror = turn, mirrored
			before, way := corner(page(t, p, "p2"))
			for axis, moves := range map[string]map[int]int{"leftRight": across, "topBottom": down} {
				flipped := apply(t, p, Flip{Selected: On("p2"), Axis: axis})
				after, wayAfter := corner(page(t, flipped, "p2"))
				assert.Equal(t, moves[before], after, "%s of a page turned %d, mirrored %v", axis, turn, mirrored)
				assert.NotEqual(t, way, wayAfter)
				back := apply(t, flipped, Flip{Selected: On("p2"), Axis: axis})
				assert.Equal(t, p, back, "twice is not at all")
			}
		}
	}
}

func TestOutlineGivesThePaperItsSizeAndIsLifted(t *testing.T) {
	p := apply(t, twoParts(t), Outline{Selected: On("p2", "p6"), Outline: &tilted}, Turn{Selected: On("p6"), By: 90})
	flat := tilted.FlatSize(geometry.A4, false)
	assert.Equal(t, flat, page(t, p, "p2").Size())
	assert.Equal(t, flat.Turned(90), page(t, p, "p6").Size())
	assert.Equal(t, geometry.A4, page(t, p, "p3").Size())
	p = apply(t, p, Outline{Selected: On("p2")})
	assert.Equal(t, page(t, twoParts(t), "p2"), page(t, p, "p2"))
}

func TestCutMakesLeftAndRightHalvesInOrder(t *testing.T) {
	fold := &raster.Fold{Top: 0.5, Bottom: 0.52}
	p := apply(t, twoParts(t), Cut{Selected: On("p3"), Fold: *fold})
	assert.Equal(t, "A: p2 p3 p8 p4 | B: p6 p7", drawn(p))
	left, right := page(t, p, "p3"), page(t, p, "p8")
	assert.Equal(t, geometry.Point{X: 0.5}, left.Paper[1])
	assert.Equal(t, left.Paper[2], right.Paper[3])
	assert.Less(t, left.Size().Width, geometry.A4.Width)

	rightFirst := apply(t, twoParts(t), Cut{Selected: On("p3"), Fold: *fold, RightFirst: true})
	assert.Equal(t, right.Paper, page(t, rightFirst, "p3").Paper)
	assert.Equal(t, left.Paper, page(t, rightFirst, "p8").Paper)

	mirrored := apply(t, twoParts(t), Flip{Selected: On("p3"), Axis: "leftRight"}, Cut{Selected: On("p3"), Fold: *fold})
	assert.Equal(t, right.Paper, page(t, mirrored, "p3").Paper, "mirrored, the right half is at the left")
}

func TestPlacing(t *testing.T) {
	zero := 0
	cases := []struct {
		name string
		c    Place
		want string
	}{
		{"after a page", Place{Source: "f2", Destination: Destination{After: "p2"}}, "A: p2 p8 p9 p3 p4 | B: p6 p7"},
		{"before a page", Place{Source: "f1", Destination: Destination{Before: "p6"}}, "A: p2 p3 p4 | B: p8 p6 p7"},
		{"at a part's end", Place{Source: "f1", Destination: Destination{Part: "s1"}}, "A: p2 p3 p4 p8 | B: p6 p7"},
		{"first of the parts", Place{Source: "f1", Destination: Destination{At: &zero}, Title: "C"}, "C: p9 | A: p2 p3 p4 | B: p6 p7"},
		{"some pages, in their order", Place{Source: "f9", Take: []int{9, 2, 2}, Title: "C"}, "A: p2 p3 p4 | B: p6 p7 | C: p9 p10 p11"},
		{"instead of pages", Place{Source: "f1", Replace: []PageID{"p6", "p3"}}, "A: p2 p8 p4 | B: p7 [p3] [p6]"},
		{"instead of a whole part", Place{Source: "f1", Replace: []PageID{"p6", "p7"}}, "A: p2 p3 p4 | B: p8 [p6] [p7]"},
	}
	for _, c := range cases {
		before := twoParts(t)
		p := apply(t, before, c.c)
		assert.Equal(t, c.want, drawn(p), c.name)
		back, err := Diff(before, p).Back(p)
		require.NoError(t, err, c.name)
		assert.Equal(t, drawn(before), drawn(back), c.name)
	}
	some := apply(t, twoParts(t), Place{Source: "f9", Take: []int{9, 2}, Title: "C", Annotations: annotation.NoneSeen})
	assert.Equal(t, 9, page(t, some, "p9").SourcePage)
	assert.Equal(t, annotation.NoneSeen, page(t, some, "p10").Annotations)
}

func TestASourceTakenOutComesBackByUndoAndByPlacing(t *testing.T) {
	before := apply(t, twoParts(t), SetAside{Selected: On("p3")})
	p := apply(t, before, RemoveSource{Source: "f3"})
	assert.Equal(t, "B: p6 p7", drawn(p))
	assert.Equal(t, []SourceID{"f3"}, p.Removed)
	back, err := Diff(before, p).Back(p)
	require.NoError(t, err)
	assert.Equal(t, before, back)
	again := apply(t, p, Place{Source: "f3", Title: "C"})
	assert.Empty(t, again.Removed)
	_, _, err = Apply(p, []Command{RemoveSource{Source: "f3"}}, sizes)
	assert.ErrorIs(t, err, problem.Invalid, "it is out already")
}

func TestAdjustmentsThatCannotBe(t *testing.T) {
	crossed := geometry.PaperQuad{{X: 0, Y: 0}, {X: 1, Y: 1}, {X: 1, Y: 0}, {X: 0, Y: 1}}
	nine := 9
	for name, c := range map[string]Command{
		"an axis":             Flip{Selected: On("p2"), Axis: "diagonal"},
		"a crossed outline":   Outline{Selected: On("p2"), Outline: &crossed},
		"a fold outside":      Cut{Selected: On("p2"), Fold: raster.Fold{Top: 1.2, Bottom: 0.5}},
		"no fold":             Cut{Selected: On("p2")},
		"an unknown tone":     Tone{Selected: On("p2"), Tone: raster.Tone{Mode: "sepia"}},
		"page 4 of 3":         Place{Source: "f3", Take: []int{4}, Title: "C"},
		"page 0":              Place{Source: "f3", Take: []int{0}, Title: "C"},
		"a place too far":     Place{Source: "f3", Title: "C", Destination: Destination{At: &nine}},
		"no title":            Place{Source: "f3"},
		"two places":          Place{Source: "f3", Replace: []PageID{"p2"}, Destination: Destination{After: "p3"}},
		"replacing nothing":   Place{Source: "f3", Replace: []PageID{"p99"}},
		"an unknown source":   RemoveSource{Source: "zz"},
		"an unknown page":     Annotate{Selected: On("p99"), Annotations: annotation.NoneSeen},
		"a page cut, unknown": Cut{Selected: On("p99"), Fold: raster.Fold{Top: 0.5, Bottom: 0.5}},
	} {
		p := twoParts(t)
		_, _, err := Apply(p, []Command{c}, sizes)
		assert.ErrorIs(t, err, problem.Invalid, name)
		assert.Equal(t, twoParts(t), p, name)
	}
}

func TestParsePages(t *testing.T) {
	for text, want := range map[string][]int{
		"1":             {1},
		"1, 4-6, last":  {1, 4, 5, 6, 10},
		"last 3":        {8, 9, 10},
		"last 30,1":     {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 1},
		"6–4":           {6, 5, 4},
		"odd":           {1, 3, 5, 7, 9},
		"Even, 1":       {2, 4, 6, 8, 10, 1},
		"8 - last":      {8, 9, 10},
		"all":           {1, 2, 3, 4, 5, 6, 7, 8, 9, 10},
		"last-last, 02": {10, 2},
	} {
		pages, err := ParsePages(text, 10)
		assert.NoError(t, err, text)
		assert.Equal(t, want, pages, text)
	}
	for text, at := range map[string]int{"": 0, "1,,2": 2, "1, 11": 3, "0": 0, "two": 0, "1, 2-": 3, "-3": 0, "last x": 0, "1, 2 3": 3, "4-12": 0} {
		_, err := ParsePages(text, 10)
		var where *RangeError
		require.True(t, errors.As(err, &where), text)
		assert.Equal(t, at, where.At, text)
		assert.NotEmpty(t, where.Problem)
	}
	_, err := ParsePages("all, all", MaxTake)
	assert.Error(t, err)
}

// TestPageRangesAsTheInterfaceHasThem reads the cases that the interface is tested with too.
func TestPageRangesAsTheInterfaceHasThem(t *testing.T) {
	text, err := os.ReadFile("testdata/pageranges.json")
	require.NoError(t, err)
	var cases []struct {
		Text    string
		IsRange bool
	}
	require.NoError(t, json.Unmarshal(text, &cases))
	require.NotEmpty(t, cases)
	for _, c := range cases {
		_, err := ParsePages(c.Text, 1000)
		assert.Equal(t, c.IsRange, err == nil, "%q: %v", c.Text, err)
	}
}

func FuzzParsePages(f *testing.F) {
	for _, text := range []string{"1, 4-6, last", "odd,even", "last 3", "9-1", "–", ",", "99999999999999999999"} {
		f.Add(text, 10)
	}
	f.Fuzz(func(t *testing.T, text string, count int) {
		pages, err := ParsePages(text, count%5000)
		if err != nil {
			return
		}
		for _, n := range pages {
			if n < 1 || n > count%5000 {
				t.Fatalf("%q of %d gives page %d", text, count, n)
			}
		}
	})
}

// TestAnyAdjustmentIsUndone applies adjustments at random and takes them back.
func TestAnyAdjustmentIsUndone(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 3))
	for range 300 {
		before := twoParts(t)
		p := before
		var deltas []Delta
		var states []Packet
		for range 1 + random.IntN(8) {
			pages := p.Pages()
			if len(pages) == 0 {
				break
			}
			some := []PageID{pages[random.IntN(len(pages))].ID}
			c := []Command{
				Flip{Selected: On(some...), Axis: "topBottom"},
				Outline{Selected: On(some...), Outline: &tilted},
				Tone{Selected: On(some...), Tone: raster.Tone{Mode: raster.BlackWhite, Contrast: random.IntN(100)}},
				Crop{Selected: On(some...), Box: &geometry.Box{X0: 50 * random.Float64(), Y0: 20, X1: 300, Y1: 300}, Mirrored: random.IntN(2) == 0},
				Crop{Selected: On(some...)},
				Straighten{Selected: On(some...), Angle: 10*random.Float64() - 5},
				Cut{Selected: On(some...), Fold: raster.Fold{Top: 0.5, Bottom: 0.5}},
				Annotate{Selected: On(some...), Annotations: annotation.NoneSeen},
				Place{Source: "f3", Replace: some},
				RemoveSource{Source: pages[0].Source},
			}[random.IntN(10)]
			next, _, err := Apply(p, []Command{c}, sizes)
			if err != nil { // halves become too small to cut again
				assert.ErrorIs(t, err, problem.Invalid)
				continue
			}
			deltas, states = append(deltas, Diff(p, next)), append(states, p)
			p = next
		}
		for i, delta := range slices.Backward(deltas) {
			back, err := delta.Back(p)
			require.NoError(t, err)
			assert.Equal(t, drawn(states[i]), drawn(back))
			assert.Equal(t, states[i].Pages(), back.Pages())
			p = back
		}
	}
}
