package packet

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

func TestWhatChangedSinceADocumentWasMade(t *testing.T) {
	page := func(id string) Page {
		return Page{ID: PageID(id), Source: "f", SourcePage: 1, Upright: geometry.Size{Width: 595, Height: 842}}
	}
	made := func() Packet {
		return Packet{Name: "Roof", Parts: []Part{
			{ID: "s1", Title: "Form", Pages: []Page{page("p1"), page("p2")}}, {ID: "s2", Title: "Quotes", Pages: []Page{page("p3")}},
		}}
	}
	for name, c := range map[string]struct {
		change func(*Packet)
		want   Changes
	}{
		"nothing":      {func(*Packet) {}, Changes{}},
		"a note":       {func(p *Packet) { p.Parts[0].Pages[0].Note = "call them" }, Changes{}},
		"a turn":       {func(p *Packet) { p.Parts[0].Pages[1].Turn = 90 }, Changes{Pages: []PageID{"p2"}}},
		"a page more":  {func(p *Packet) { p.Parts[1].Pages = append(p.Parts[1].Pages, page("p4")) }, Changes{Pages: []PageID{"p4"}}},
		"a page less":  {func(p *Packet) { p.Parts = p.Parts[:1] }, Changes{Gone: 1}},
		"order":        {func(p *Packet) { p.Parts[0].Pages = []Page{page("p2"), page("p1")} }, Changes{Order: true}},
		"a title":      {func(p *Packet) { p.Parts[1].Title = "Roofing quotes" }, Changes{Titles: true}},
		"page numbers": {func(p *Packet) { p.Finish = p.Finish.OrDefaults(); p.Finish.Numbers.On = true }, Changes{Finish: true}},
		"defaults":     {func(p *Packet) { p.Finish = p.Finish.OrDefaults() }, Changes{}},
	} {
		now := made()
		c.change(&now)
		got := now.Since(made(), false)
		assert.Equal(t, c.want, got, name)
		assert.Equal(t, name != "nothing" && name != "a note" && name != "defaults", got.Any(), name)
	}
}

func TestADocumentOfSomePagesHasNoNewsOfTheOthers(t *testing.T) {
	made := Packet{Parts: []Part{{ID: "s1", Title: "Form", Pages: []Page{{ID: "p2"}}}}}
	now := Packet{Parts: []Part{{ID: "s1", Title: "Other", Pages: []Page{{ID: "p1"}, {ID: "p2"}, {ID: "p3"}}}}}
	assert.Equal(t, Changes{}, now.Since(made, true))
	now.Parts[0].Pages[1].Turn = 180
	assert.Equal(t, Changes{Pages: []PageID{"p2"}}, now.Since(made, true))
}

// TestAPacketThatWasKeptDidNotChange compares packets with what they are when they are read again.
func TestAPacketThatWasKeptDidNotChange(t *testing.T) {
	p := Packet{Name: "Roof", Parts: []Part{{ID: "s1", Title: "Form", Pages: []Page{{ID: "p1", Note: "x", Adjustments: Adjustments{Straighten: 1.5}}}}}}
	p.Finish = p.Finish.OrDefaults()
	encoded, err := json.Marshal(p)
	require.NoError(t, err)
	var again Packet
	require.NoError(t, json.Unmarshal(encoded, &again))
	assert.Equal(t, Changes{}, again.Since(p, false))
}
