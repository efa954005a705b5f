package packet

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/problem"
)

func TestCopy(t *testing.T) {
	p := apply(t, twoParts(t), Turn{Selected: On("p3"), By: 90}, Note{Selected: On("p3"), Title: "ask"})
	next, words, err := Apply(p, []Command{Copy{Selected: On("p6", "p3"), Destination: Destination{Before: "p2"}}}, sizes)
	require.NoError(t, err)
	assert.Equal(t, "A: p8* p9 p2 p3* p4 | B: p6 p7", drawn(next), "in the packet's order")
	assert.Equal(t, "Copied 2 pages at the start", words.English)
	double, _ := next.Find("p8")
	assert.Empty(t, double.Note)

	_, _, err = Apply(p, []Command{Copy{Selected: On("p6")}}, sizes)
	require.ErrorIs(t, err, problem.Invalid, "no destination")
}

func TestBring(t *testing.T) {
	known := sizes
	known.Foreign = func(c Bring) (Foreign, error) {
		found := Foreign{Packet: "Other", Title: "Letters"}
		for _, id := range c.FromPages {
			found.Pages = append(found.Pages, Page{ID: id, Source: "f5", SourcePage: 1, Upright: geometry.A4, Turn: 180, Note: "there"})
		}
		return found, nil
	}
	bring := Bring{From: "k2", FromPages: []PageID{"p3", "p2"}}
	p := twoParts(t)
	p.Removed = []SourceID{"f5"}
	next, words, err := Apply(p, []Command{bring}, known)
	require.NoError(t, err)
	assert.Equal(t, "A: p2 p3 p4 | B: p6 p7 | Letters: p8** p9**", drawn(next))
	assert.Equal(t, "Copied 2 pages from “Other”", words.English)
	assert.Empty(t, next.Removed, "its source is there again")

	bring.Destination = Destination{After: "p6"}
	assert.Equal(t, "A: p2 p3 p4 | B: p6 p8** p9** p7", func() string {
		next, _, err := Apply(p, []Command{bring}, known)
		require.NoError(t, err)
		return drawn(next)
	}())

	for what, wrong := range map[string]Bring{
		"no pages":         {From: "k2"},
		"no such neighbor": {From: "k2", FromPages: []PageID{"p2"}, Destination: Destination{After: "p99"}},
	} {
		_, _, err := Apply(p, []Command{wrong}, known)
		require.ErrorIs(t, err, problem.Invalid, what)
	}
	_, _, err = Apply(p, []Command{bring}, sizes)
	require.ErrorIs(t, err, problem.Invalid, "nobody knows other packets")
}

func TestPacketWithOtherSources(t *testing.T) {
	p := apply(t, twoParts(t), SetAside{Selected: On("p3")}, InsertBlank{Size: geometry.A4, Destination: Destination{After: "p2"}})
	p.Removed = []SourceID{"f9"}
	other := p.WithSources(map[SourceID]SourceID{"f3": "x3", "f2": "x2", "f9": "x9"})
	assert.Equal(t, drawn(p), drawn(other))
	assert.Equal(t, []SourceID{"x9"}, other.Removed)
	assert.Equal(t, SourceID("x3"), other.SetAside[0].Source)
	for i, page := range other.Pages() {
		if before := p.Pages()[i]; !before.IsBlank() {
			assert.Equal(t, "x"+string(before.Source[1:]), string(page.Source))
		} else {
			assert.True(t, page.IsBlank())
		}
	}
	assert.Equal(t, SourceID("f3"), p.SetAside[0].Source, "the packet itself stays as it is")
}

func TestTitleAt(t *testing.T) {
	p := apply(t, twoParts(t), SetAside{Selected: On("p3")})
	assert.Equal(t, "B", p.TitleAt([]PageID{"p7", "p2"}))
	assert.Equal(t, "A", p.TitleAt([]PageID{"p3"}))
	assert.Equal(t, "Test", p.TitleAt(nil))
	assert.Equal(t, "Test", p.TitleAt([]PageID{"p99"}))
}
