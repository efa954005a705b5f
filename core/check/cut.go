package check

import (
	"fmt"

	"dorbin/core/geometry"
	"dorbin/core/packet"
)

const (
	// ContentTolerance is how exactly content is known, in points: half a millimetre. A crop
	// that takes no more of it away is not told of.
	ContentTolerance = 0.5 * geometry.PointsPerInch / geometry.MillimetresPerInch
	// ContentRoom is left around content when a crop is widened, in points: a millimetre.
	ContentRoom = geometry.PointsPerInch / geometry.MillimetresPerInch
)

// cut finds pages whose crop takes away some of what is on them.
func (s Survey) cut() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		if page.Crop.IsZero() || page.IsBlank() || !page.Paper.IsZero() {
			continue
		}
		signs, ok := s.known.Analysis(page.Source, page.SourcePage)
		framing := page.Framing()
		content := signs.Content.Mapped(framing.Straightening())
		if !ok || signs.Content.IsZero() || page.Crop.Holds(content, ContentTolerance) {
			continue
		}
		needed := content.Grown(ContentRoom).Intersect(framing.Flat.Box())
		framing.Crop = page.Crop.Union(needed)
		findings = append(findings, Finding{
			Kind: Cut, Key: key(Cut, page), Page: page.ID,
			Sentence: fmt.Sprintf("Page %d is cropped through what is on it", i+1),
			Settle:   []packet.Command{packet.Crop{Boxes: map[packet.PageID]geometry.Box{page.ID: framing.DisplayedCrop()}}},
		})
	}
	return findings
}
