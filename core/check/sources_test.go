package check

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
)

func TestSourcesThatAreDamagedOrLocked(t *testing.T) {
	p, known := paper(t, []PageAnalysis{written(0, 0)})
	known.Sources[0].Damage = message.Of("survey.tif breaks off on page 2.")
	known.Sources = append(known.Sources, Source{ID: "f8", Name: "bids.pdf", Locked: true})
	found := Check(p, known)
	assert.Equal(t, []string{"survey.tif breaks off on page 2.", "bids.pdf is protected with a password"}, sentences(found))
	assert.Equal(t, p.Pages()[0].ID, found[0].Page)
	assert.Equal(t, packet.SourceID("f8"), found[1].Source)

	p.Removed = []packet.SourceID{"f0", "f8"}
	assert.Empty(t, Check(p, known), "what was taken out of the packet is of no concern")
}

func TestFacingPages(t *testing.T) {
	p, known := paper(t, []PageAnalysis{written(0, 0), written(0, 0)})
	for i := range p.Parts[0].Pages {
		p.Parts[0].Pages[i].Upright = geometry.A4.Landscape()
	}
	known.Sources[0].Folds = map[int]bool{2: true}
	page := p.Pages()[1].ID
	assert.Equal(t, []string{"Page 2 shows two facing pages"}, sentences(Check(p, known)))
	half := geometry.Box{X1: geometry.A4.Width / 2, Y1: geometry.A4.Width}
	cropped := change(t, p, packet.Crop{Selected: packet.On(page), Box: &half})
	for _, f := range Check(cropped, known) {
		assert.NotEqual(t, Facing, f.Kind, "one of them is cropped away")
	}
}

func TestLongPages(t *testing.T) {
	p, known := paper(t, []PageAnalysis{written(0, 0), written(0, 0), written(0, 0), written(0, 0), written(0, 0), written(0, 0)})
	pages := p.Parts[0].Pages
	pages[0].Upright = geometry.Size{Width: 120, Height: geometry.A4.Height} // a picture of a long screen
	pages[1].Upright = geometry.Size{Width: 226, Height: geometry.A4.Height} // a receipt of a till
	pages[2].Upright = geometry.Size{Width: 226, Height: 1400}               // one that is longer than a sheet
	known.Sources[0].Unsized = map[int]bool{1: true}
	settled := func(p packet.Packet) (kinds []string) {
		for _, f := range Check(p, known) {
			kinds = append(kinds, f.Kind)
		}
		return kinds
	}
	found := Check(p, known)
	assert.Equal(t, []string{
		"Page 1 is too long for one sheet", "Page 3 is too long for one sheet", "Page 2 is 80 × 297 mm, most are A4",
	}, sentences(found)[:3])

	onSheets := change(t, p, packet.FitTo(geometry.A4, pages[0].ID, pages[1].ID))
	assert.Equal(t, []string{Long, Long}, settled(onSheets), "on a sheet it can be read no better")
	breaks := map[packet.PageID][]float64{pages[0].ID: {0.2, 0.4, 0.6, 0.8}, pages[2].ID: {0.5}}
	assert.Empty(t, settled(change(t, onSheets, packet.Slice{Breaks: breaks, Paper: geometry.A4})))
	assert.Equal(t, []string{Long}, settled(change(t, onSheets, packet.Turn{Selected: packet.On(pages[0].ID), By: 90}))[:1], "page 3 stays")
}
