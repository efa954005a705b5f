package check

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
	"dorbin/core/packet"
)

func TestSourcesThatAreDamagedOrLocked(t *testing.T) {
	p, known := paper(t, []PageAnalysis{written(0, 0)})
	known.Sources[0].Damage = "survey.tif breaks off on page 2."
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
