package packet

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/problem"
)

// threeParts has parts of pages p1…p4 (source f4), p6…p10 (f5) and p12, p13 (f2).
func threeParts(t *testing.T) Packet {
	return apply(t, New("x"),
		Place{Source: "f4", Title: "A"},
		Place{Source: "f5", Title: "B"},
		Place{Source: "f2", Title: "C"})
}

func ids(pages []Page) []PageID {
	out := []PageID{}
	for _, page := range pages {
		out = append(out, page.ID)
	}
	return out
}

func placed(p Packet) []PageID { return ids(p.Pages()) }

func TestCommandsOnOrder(t *testing.T) {
	parts := threeParts(t).Parts
	for name, c := range map[string]struct {
		command Command
		words   string
		want    string
	}{
		"swap":          {Swap{Selected: InRange("1, 11")}, "Swapped 2 pages", "11 2 3 4 | 5 6 7 8 9 | 10 1"},
		"reverse":       {Reverse{Selected: InRange("3-6")}, "Reversed the order of 4 pages", "1 2 6 5 | 4 3 7 8 9 | 10 11"},
		"interleave":    {Interleave{Selected: InRange("part 2")}, "Combined fronts and backs of 5 pages", "1 2 3 4 | 5 8 6 9 7 | 10 11"},
		"backs in turn": {Interleave{Selected: InRange("part 2"), Backwards: true}, "Combined fronts and backs of 5 pages", "1 2 3 4 | 5 9 6 8 7 | 10 11"},
		"deal":          {Deal{Selected: InRange("part 2")}, "Separated fronts and backs of 5 pages", "1 2 3 4 | 5 7 9 6 8 | 10 11"},
		"sort":          {Sort{Selected: InRange("all")}, "Sorted 11 pages by name", "10 11 1 2 | 3 4 5 6 7 | 8 9"},
		"keep only":     {KeepOnly{Selected: InRange("odd of part 2")}, "Kept 3 pages and set aside 8", "5 7 9"},
		"divide":        {Divide{Selected: InRange("3, 7")}, "Split into 2 parts more", "1 2 | 3 4 | 5 6 | 7 8 9 | 10 11"},
		"join":          {Join{Parts: []PartID{parts[2].ID, parts[0].ID}}, "Joined 2 parts into “A”", "1 2 3 4 10 11 | 5 6 7 8 9"},
		"per source":    {PartPerSource{}, "Made 3 parts, one for each file", "1 2 3 4 | 5 6 7 8 9 | 10 11"},
	} {
		t.Run(name, func(t *testing.T) {
			before := threeParts(t)
			after, words, err := Apply(before, []Command{c.command}, sizes)
			require.NoError(t, err)
			assert.Equal(t, c.words, words.English)
			assert.Equal(t, c.want, written(before, after))
		})
	}
}

// written gives a packet's parts with the numbers that its pages had before.
func written(before, after Packet) string {
	numbers := map[PageID]int{}
	for i, id := range placed(before) {
		numbers[id] = i + 1
	}
	text := ""
	for i, part := range after.Parts {
		if i > 0 {
			text += " | "
		}
		for j, page := range part.Pages {
			if j > 0 {
				text += " "
			}
			text += fmt.Sprint(numbers[page.ID])
		}
	}
	return text
}

func TestOrderCommandsPermute(t *testing.T) {
	for seed := range uint64(100) {
		random := rand.New(rand.NewPCG(seed, 3))
		before := threeParts(t)
		some := randomPages(random, before, 2)
		for do, command := range orders(seed%2 == 0) {
			after := apply(t, before, command(some))
			assert.ElementsMatch(t, placed(before), placed(after), do)
			for i, part := range after.Parts {
				assert.Len(t, part.Pages, len(before.Parts[i].Pages), do)
			}
			for i, id := range placed(before) {
				if !slices.Contains(some, id) {
					assert.Equal(t, id, placed(after)[i], "%s moves a page that is not named", do)
				}
			}
		}
	}
}

// orders are the commands that put pages in another order.
func orders(backwards bool) map[string]func([]PageID) Command {
	return map[string]func([]PageID) Command{
		"reverse":    func(pages []PageID) Command { return Reverse{On(pages...)} },
		"interleave": func(pages []PageID) Command { return Interleave{On(pages...), backwards} },
		"deal":       func(pages []PageID) Command { return Deal{On(pages...), backwards} },
		"sort":       func(pages []PageID) Command { return Sort{On(pages...)} },
	}
}

func randomPages(random *rand.Rand, p Packet, atLeast int) []PageID {
	all := placed(p)
	random.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	return all[:atLeast+random.IntN(len(all)-atLeast)]
}

func TestOrderCommandsHaveInverses(t *testing.T) {
	for seed := range uint64(60) {
		random := rand.New(rand.NewPCG(seed, 4))
		before := threeParts(t)
		some := randomPages(random, before, 2)
		backwards := seed%2 == 0
		inOrder := func(p Packet) []PageID { // the pages that now have the places of some
			var at []PageID
			for i, id := range placed(before) {
				if slices.Contains(some, id) {
					at = append(at, placed(p)[i])
				}
			}
			return at
		}
		for do, undo := range map[string]string{"interleave": "deal", "deal": "interleave", "reverse": "reverse"} {
			there := apply(t, before, orders(backwards)[do](some))
			back := apply(t, there, orders(backwards)[undo](inOrder(there)))
			assert.Equal(t, placed(before), placed(back), "%s, seed %d", do, seed)
		}
	}
}

func TestDivideThenJoinIsTheSame(t *testing.T) {
	for seed := range uint64(60) {
		random := rand.New(rand.NewPCG(seed, 5))
		before := threeParts(t)
		divided := apply(t, before, Divide{Selected: On(randomPages(random, before, 1)...)})
		assert.Equal(t, placed(before), placed(divided))
		joined := divided
		for _, part := range before.Parts {
			if pieces := piecesOf(divided, part); len(pieces) > 1 {
				joined = apply(t, joined, Join{Parts: pieces})
			}
		}
		assert.Equal(t, before.Parts, joined.Parts)
	}
}

func piecesOf(p Packet, whole Part) []PartID {
	var pieces []PartID
	for _, part := range p.Parts {
		if slices.Contains(ids(whole.Pages), part.Pages[0].ID) {
			pieces = append(pieces, part.ID)
		}
	}
	return pieces
}

func TestMovePart(t *testing.T) {
	before := threeParts(t)
	at := 0
	after := apply(t, before, MovePart{Part: before.Parts[2].ID, At: at})
	assert.Equal(t, "10 11 | 1 2 3 4 | 5 6 7 8 9", written(before, after))
}

func TestDivideNamesParts(t *testing.T) {
	before := threeParts(t)
	pages := placed(before)
	after := apply(t, before, Divide{Selected: On(pages[0], pages[2]), Titles: []string{"Front", "Back"}})
	assert.Equal(t, []string{"Front", "Back", "B", "C"}, titles(after))
	untitled := apply(t, before, Divide{Selected: On(pages[1], pages[3])})
	assert.Equal(t, []string{"A", "A, 2", "A, 3", "B", "C"}, titles(untitled))
}

func titles(p Packet) []string {
	var all []string
	for _, part := range p.Parts {
		all = append(all, part.Title)
	}
	return all
}

func TestBlankPagesAndDoubles(t *testing.T) {
	before := threeParts(t)
	first := placed(before)[0]
	size := geometry.A4.Landscape()
	after := apply(t, before,
		Note{Selected: On(first), Title: " sign here "},
		InsertBlank{Size: size, Destination: Destination{After: first}},
		Duplicate{Selected: On(first)})
	pages := after.Pages()
	assert.Equal(t, "sign here", pages[0].Note)
	assert.Empty(t, pages[1].Note)
	assert.Equal(t, pages[0].SourcePage, pages[1].SourcePage)
	assert.True(t, pages[2].IsBlank())
	assert.Equal(t, size, pages[2].Size())
	assert.Equal(t, 4, after.Placed()["f4"], "neither doubles nor blank pages count")
	grouped := apply(t, after, PartPerSource{})
	assert.Len(t, grouped.Parts, 3, "a blank page stays with the page before it")
}

func TestExpectIsUndone(t *testing.T) {
	before := threeParts(t)
	after := apply(t, before, Expect{Count: 12})
	assert.Equal(t, 12, after.Expected)
	back, err := Diff(before, after).Back(after)
	require.NoError(t, err)
	assert.Zero(t, back.Expected)
}

func TestCommandsThatMakeNoSense(t *testing.T) {
	p := threeParts(t)
	far := 3
	tiny := geometry.Size{Width: 1, Height: 900}
	for name, c := range map[string]Command{
		"swap three":         Swap{Selected: InRange("1-3")},
		"join one":           Join{Parts: []PartID{p.Parts[0].ID, p.Parts[0].ID}},
		"join nothing":       Join{Parts: []PartID{p.Parts[0].ID, "s99"}},
		"move part too far":  MovePart{Part: p.Parts[0].ID, At: far},
		"tiny blank":         InsertBlank{Size: tiny, Destination: Destination{Part: p.Parts[0].ID}},
		"blank of no size":   InsertBlank{Destination: Destination{Part: p.Parts[0].ID}},
		"more titles":        Divide{Selected: InRange("2"), Titles: []string{"a", "b"}},
		"empty title":        Divide{Selected: InRange("2"), Titles: []string{" "}},
		"a range of nothing": Turn{Selected: InRange("landscape"), By: 90},
		"a bad range":        Turn{Selected: InRange("99"), By: 90},
		"negative count":     Expect{Count: -1},
	} {
		_, _, err := Apply(p, []Command{c}, sizes)
		assert.ErrorIs(t, err, problem.Invalid, name)
	}
}
