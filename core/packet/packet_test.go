package packet

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/problem"
)

// sizes gives every source f<n> n pages of A4.
var sizes = Known{Source: sourceOfA4, Facts: map[string]func(Page) bool{
	"checked": func(page Page) bool { return page.SourcePage == 1 },
}}

func sourceOfA4(id SourceID) (Source, bool) {
	var n int
	if _, err := fmt.Sscanf(string(id), "f%d", &n); err != nil {
		return Source{}, false
	}
	pages := make([]SourcePage, n)
	for i := range pages {
		pages[i].Size = geometry.A4
	}
	name := fmt.Sprintf("file %d.pdf", n)
	return Source{Name: name, Title: "File " + fmt.Sprint(n), Pages: pages}, true
}

func apply(t *testing.T, p Packet, commands ...Command) Packet {
	t.Helper()
	next, _, err := Apply(p, commands, sizes)
	require.NoError(t, err)
	return next
}

// twoParts is a packet of parts A (3 pages: p2 p3 p4) and B (2 pages: p6 p7).
func twoParts(t *testing.T) Packet {
	return apply(t, New("Test"), Place{Source: "f3", Title: "A"}, Place{Source: "f2", Title: "B"})
}

// drawn writes a packet as "A: p2 p3* | B: p6 [p7]", a star for each quarter
// turn and set-aside pages in brackets.
func drawn(p Packet) string {
	var parts []string
	for _, part := range p.Parts {
		words := []string{part.Title + ":"}
		for _, page := range part.Pages {
			words = append(words, string(page.ID)+strings.Repeat("*", page.Turn/90))
		}
		parts = append(parts, strings.Join(words, " "))
	}
	text := strings.Join(parts, " | ")
	for _, aside := range p.SetAside {
		text += " [" + string(aside.ID) + "]"
	}
	return text
}

func TestCommands(t *testing.T) {
	one, zero := 1, 0
	cases := []struct {
		name     string
		commands []Command
		want     string
		words    string
	}{
		{"move after", []Command{Move{Selected: On("p2"), Destination: Destination{After: "p6"}}}, "A: p3 p4 | B: p6 p2 p7", "Moved page 1 to 4"},
		{"move before", []Command{Move{Selected: On("p7", "p3"), Destination: Destination{Before: "p2"}}}, "A: p3 p7 p2 p4 | B: p6", "Moved 2 pages to 1–2"},
		{"move into a part", []Command{Move{Selected: On("p2", "p4"), Destination: Destination{Part: "s5", At: &one}}}, "A: p3 | B: p6 p2 p4 p7", "Moved 2 pages to 3–4"},
		{"move to a part's end", []Command{Move{Selected: On("p2"), Destination: Destination{Part: "s1"}}}, "A: p3 p4 p2 | B: p6 p7", "Moved page 1 to 3"},
		{"move past the border of a part", []Command{Move{Selected: On("p4"), Destination: Destination{Before: "p6"}}}, "A: p2 p3 | B: p4 p6 p7", "Moved page 3 into “B”"},
		{"an emptied part goes", []Command{Move{Selected: On("p6", "p7"), Destination: Destination{Part: "s1", At: &zero}}}, "A: p6 p7 p2 p3 p4", "Moved 2 pages to 1–2"},
		{"turn", []Command{Turn{Selected: On("p3", "p7"), By: 90}}, "A: p2 p3* p4 | B: p6 p7*", "Turned 2 pages right"},
		{"turn on", []Command{Turn{Selected: On("p3"), By: 270}, Turn{Selected: On("p3"), By: 180}}, "A: p2 p3* p4 | B: p6 p7", "Turned page 2 left, then turned page 2 by 180°"},
		{"set aside", []Command{SetAside{Selected: On("p3", "p6")}}, "A: p2 p4 | B: p7 [p3] [p6]", "Set aside 2 pages"},
		{"set aside and bring back", []Command{SetAside{Selected: On("p3", "p2", "p6")}, Restore{Selected: On("p6", "p2", "p3")}}, "A: p2 p3 p4 | B: p6 p7", "Set aside 3 pages, then brought back 3 pages"},
		{"bring back elsewhere", []Command{SetAside{Selected: On("p3")}, Restore{Selected: On("p3"), Destination: Destination{After: "p7"}}}, "A: p2 p4 | B: p6 p7 p3", ""},
		{"a part that went comes back", []Command{SetAside{Selected: On("p6", "p7")}, Restore{Selected: On("p7")}}, "A: p2 p3 p4 | B: p7 [p6]", ""},
		{"split", []Command{Split{Selected: On("p4", "p3"), Title: "C"}}, "A: p2 | C: p3 p4 | B: p6 p7", "Made 2 pages a part of their own"},
		{"rename part", []Command{RenamePart{Part: "s5", Title: "  Plans \n of  it "}}, "A: p2 p3 p4 | Plans of it: p6 p7", "Renamed a part to “Plans of it”"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			before := twoParts(t)
			after, words, err := Apply(before, c.commands, sizes)
			require.NoError(t, err)
			assert.Equal(t, c.want, drawn(after))
			assert.Equal(t, drawn(twoParts(t)), drawn(before), "the packet that was given is changed")
			if c.words != "" {
				assert.Equal(t, c.words, words.English)
			}
		})
	}
}

func TestInvalidCommandsChangeNothing(t *testing.T) {
	nine, minus := 9, -1
	cases := map[string]Command{
		"no such command":    nil,
		"no pages":           Turn{By: 90},
		"unknown page":       Turn{Selected: On("p2", "p99"), By: 90},
		"page named twice":   Turn{Selected: On("p2", "p2"), By: 90},
		"odd angle":          Turn{Selected: On("p2"), By: 45},
		"next to itself":     Move{Selected: On("p2"), Destination: Destination{After: "p2"}},
		"two destinations":   Move{Selected: On("p2"), Destination: Destination{After: "p3", Before: "p4"}},
		"no destination":     Move{Selected: On("p2")},
		"beyond the part":    Move{Selected: On("p2"), Destination: Destination{Part: "s5", At: &nine}},
		"before the part":    Move{Selected: On("p2"), Destination: Destination{Part: "s5", At: &minus}},
		"unknown part":       RenamePart{Part: "s9", Title: "x"},
		"empty title":        Rename{Title: " \t"},
		"endless title":      Rename{Title: strings.Repeat("é", MaxTitle+1)},
		"not set aside":      Restore{Selected: On("p2")},
		"unknown source":     Place{Source: "nothing", Title: "x"},
		"source of no pages": Place{Source: "f0", Title: "x"},
		"split of nothing":   Split{Selected: On("p99"), Title: "x"},
	}
	for name, command := range cases {
		t.Run(name, func(t *testing.T) {
			before := twoParts(t)
			// A valid command before the invalid one must not be applied either.
			after, _, err := Apply(before, []Command{Turn{Selected: On("p6"), By: 90}, command}, sizes)
			require.ErrorIs(t, err, problem.Invalid)
			assert.Equal(t, before, after)
		})
	}
	_, _, err := Apply(New("x"), nil, sizes)
	require.ErrorIs(t, err, problem.Invalid)
}

// randomCommand makes a command that is mostly valid for the packet.
func randomCommand(random *rand.Rand, p Packet) Command {
	some := func(pages []PageID) []PageID {
		var chosen []PageID
		for _, id := range pages {
			if random.IntN(4) == 0 {
				chosen = append(chosen, id)
			}
		}
		random.Shuffle(len(chosen), func(i, j int) { chosen[i], chosen[j] = chosen[j], chosen[i] })
		return chosen
	}
	var placed, aside []PageID
	for _, page := range p.Pages() {
		placed = append(placed, page.ID)
	}
	for _, a := range p.SetAside {
		aside = append(aside, a.ID)
	}
	part := PartID("none")
	if len(p.Parts) > 0 {
		part = p.Parts[random.IntN(len(p.Parts))].ID
	}
	at := random.IntN(4)
	anchor := PageID("none")
	if len(placed) > 0 {
		anchor = placed[random.IntN(len(placed))]
	}
	return []Command{
		Place{Source: SourceID(fmt.Sprintf("f%d", 1+random.IntN(4))), Title: "Part"},
		Turn{Selected: On(some(placed)...), By: 90 * (1 + random.IntN(3))},
		Move{Selected: On(some(placed)...), Destination: Destination{Part: part, At: &at}},
		Move{Selected: On(some(placed)...), Destination: Destination{After: anchor}},
		Move{Selected: On(some(placed)...), Destination: Destination{Before: anchor}},
		SetAside{Selected: On(some(placed)...)},
		Restore{Selected: On(some(aside)...)},
		Restore{Selected: On(some(aside)...), Destination: Destination{Part: part}},
		Split{Selected: On(some(placed)...), Title: "Split"},
		Rename{Title: fmt.Sprint("Name ", random.IntN(9))},
		RenamePart{Part: part, Title: fmt.Sprint("Title ", random.IntN(9))},
		Swap{Selected: On(some(placed)...)},
		Reverse{Selected: On(some(placed)...)},
		Interleave{Selected: On(some(placed)...), Backwards: at == 0},
		Deal{Selected: On(some(placed)...)},
		Sort{Selected: On(some(placed)...)},
		Duplicate{Selected: On(some(placed)...)},
		InsertBlank{Size: geometry.A5, Destination: Destination{After: anchor}},
		KeepOnly{Selected: On(some(placed)...)},
		Divide{Selected: On(some(placed)...)},
		MovePart{Part: part, At: at},
		PartPerSource{},
		Note{Selected: InRange("odd"), Title: fmt.Sprint("Note ", at)},
		Expect{Count: at},
	}[random.IntN(24)]
}

// TestUndoIsExact applies random commands and takes them all back; every page
// is in exactly one place all the while, and deltas survive being written down.
func TestUndoIsExact(t *testing.T) {
	for seed := range uint64(60) {
		random := rand.New(rand.NewPCG(seed, 1))
		states := []Packet{twoParts(t)}
		var deltas []Delta
		for range 80 {
			before := states[len(states)-1]
			after, _, err := Apply(before, []Command{randomCommand(random, before)}, sizes)
			if err != nil {
				require.ErrorIs(t, err, problem.Invalid)
				continue
			}
			requireEveryPageOnce(t, before, after)
			states = append(states, after)
			deltas = append(deltas, writtenDown(t, Diff(before, after)))
		}
		current := states[len(states)-1]
		for i := len(deltas) - 1; i >= 0; i-- {
			var err error
			current, err = deltas[i].Back(current)
			require.NoError(t, err)
			require.Equal(t, state(states[i]), state(current), "seed %d, undo %d", seed, i)
		}
		for i, d := range deltas {
			var err error
			current, err = d.Forward(current)
			require.NoError(t, err)
			require.Equal(t, state(states[i+1]), state(current), "seed %d, redo %d", seed, i)
		}
	}
}

// requireEveryPageOnce checks that each page is in one place, and that none of
// those that were there before is lost.
func requireEveryPageOnce(t *testing.T, before, after Packet) {
	seen := places(after)
	for id, n := range seen {
		require.Equal(t, 1, n, id)
	}
	for id := range places(before) {
		require.Contains(t, seen, id)
	}
	for _, part := range after.Parts {
		require.NotEmpty(t, part.Pages)
	}
}

func places(p Packet) map[PageID]int {
	seen := map[PageID]int{}
	for _, page := range p.Pages() {
		seen[page.ID]++
	}
	for _, aside := range p.SetAside {
		seen[aside.ID]++
	}
	return seen
}

// state is a packet without its counter, which only ever grows.
func state(p Packet) string {
	p.LastID = 0
	text, _ := json.Marshal(p)
	return strings.ReplaceAll(string(text), "null", "[]")
}

func writtenDown(t *testing.T, d Delta) Delta {
	text, err := json.Marshal(d)
	require.NoError(t, err)
	var read Delta
	require.NoError(t, json.Unmarshal(text, &read))
	return read
}

func TestDeltaRefusesAnotherState(t *testing.T) {
	before := twoParts(t)
	after := apply(t, before, Turn{Selected: On("p3"), By: 90})
	d := Diff(before, after)
	_, err := d.Forward(after)
	require.ErrorIs(t, err, ErrMismatch)
	_, err = d.Back(before)
	require.ErrorIs(t, err, ErrMismatch)
	assert.True(t, Diff(after, after).Empty())
}

func TestDeltaOfATurnIsSmall(t *testing.T) {
	p := apply(t, New("x"), Place{Source: "f2000", Title: "Many"})
	pages := p.Pages()
	after := apply(t, p, Turn{Selected: On(pages[0].ID, pages[1999].ID), By: 90})
	text, err := json.Marshal(Diff(p, after))
	require.NoError(t, err)
	assert.Less(t, len(text), 1000)
}

func TestPlacedCountsAPageOnce(t *testing.T) {
	p := twoParts(t)
	assert.Equal(t, map[SourceID]int{"f3": 3, "f2": 2}, p.Placed())
	p = apply(t, p, Place{Source: "f3", Title: "Again"}, SetAside{Selected: On("p6")})
	assert.Equal(t, map[SourceID]int{"f3": 3, "f2": 1}, p.Placed())
}

func TestFileNames(t *testing.T) {
	for name, want := range map[string]string{
		"Boathouse roof application":   "boathouse-roof-application.pdf",
		"  Étude n° 4: “Prüfung” / B ": "etude-n-4-prufung-b.pdf",
		"Заявка 7":                     "заявка-7.pdf",
		"***":                          "document.pdf",
		"Con":                          "_con.pdf",
		"the club's year":              "the-clubs-year.pdf",
	} {
		assert.Equal(t, want, ProposeFileName(name, ".pdf"), name)
	}
	for name, want := range map[string]string{
		"My file.PDF":             "My file.pdf",
		`a<b>c:d"e/f\g|h?i*j.pdf`: "a-b-c-d-e-f-g-h-i-j.pdf",
		"...":                     "document.pdf",
		"nul.pdf":                 "_nul.pdf",
		"tab\tnew\nline":          "tab-new-line.pdf",
		"v1.2":                    "v1.2.pdf",
		"trailing. ":              "trailing.pdf",
	} {
		assert.Equal(t, want, SafeFileName(name, ".pdf"), name)
	}
	long := SafeFileName(strings.Repeat("ü", 400), ".pdf")
	assert.LessOrEqual(t, len(long), maxFileName+4)
	assert.True(t, strings.HasSuffix(long, "ü.pdf"))
}

func FuzzFileName(f *testing.F) {
	f.Add("Boathouse roof")
	f.Add("CON.txt")
	f.Fuzz(func(t *testing.T, name string) {
		for _, safe := range []string{SafeFileName(name, ".pdf"), ProposeFileName(name, ".pdf")} {
			require.True(t, strings.HasSuffix(safe, ".pdf"))
			require.LessOrEqual(t, len(safe), maxFileName+8)
			require.NotContains(t, safe, "/")
			require.Greater(t, len(safe), len(".pdf"))
		}
	})
}

// FuzzDelta reads deltas as the command log keeps them.
func FuzzDelta(f *testing.F) {
	before := New("x")
	before, _, _ = Apply(before, []Command{Place{Source: "f2", Title: "A"}}, sizes)
	after, _, _ := Apply(before, []Command{SetAside{Selected: On("p2")}}, sizes)
	text, _ := json.Marshal(Diff(before, after))
	f.Add(text)
	f.Fuzz(func(t *testing.T, text []byte) {
		var d Delta
		if json.Unmarshal(text, &d) != nil {
			t.Skip()
		}
		if next, err := d.Forward(before); err == nil {
			back, err := d.Back(next)
			require.NoError(t, err)
			require.Equal(t, state(before), state(back))
		}
	})
}

func BenchmarkApplyAndDiff(b *testing.B) {
	for _, n := range []int{20, 200, 2000} {
		b.Run(fmt.Sprint(n, " pages"), func(b *testing.B) {
			p, _, err := Apply(New("x"), []Command{Place{Source: SourceID(fmt.Sprint("f", n)), Title: "A"}}, sizes)
			require.NoError(b, err)
			pages := p.Pages()
			command := []Command{Move{Selected: On(pages[0].ID), Destination: Destination{After: pages[n-1].ID}}}
			for b.Loop() {
				next, _, err := Apply(p, command, sizes)
				if err != nil || Diff(p, next).Empty() {
					b.Fatal(err)
				}
			}
		})
	}
}
