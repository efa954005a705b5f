package check

import (
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
)

const (
	// ContentTolerance is how exactly content is known, in points: half a millimetre. A crop
	// that takes no more of it away is not told of.
	ContentTolerance = 0.5 * geometry.PointsPerInch / geometry.MillimetresPerInch
	// ContentRoom is left around content when a crop is widened, in points: a millimetre.
	ContentRoom = geometry.PointsPerInch / geometry.MillimetresPerInch
)

// excerpt is a page of a source as it is straightened, of which pages show something.
type excerpt struct {
	source     packet.SourceID
	page       int
	straighten float64
}

func excerptOf(page packet.Page) excerpt {
	return excerpt{page.Source, page.SourcePage, page.Straighten}
}

// excerpts are what all pages that show something of a page of a source keep of it together: pieces of a long
// page lose nothing.
func (s Survey) excerpts() map[excerpt]geometry.Box {
	kept := map[excerpt]geometry.Box{}
	for _, page := range s.pages {
		if page.Paper.IsZero() {
			kept[excerptOf(page)] = kept[excerptOf(page)].Union(page.Framing().Kept())
		}
	}
	return kept
}

// cut finds pages whose crop takes away some of what is on them, and is on no other page.
func (s Survey) cut() []Finding {
	var findings []Finding
	kept := s.excerpts()
	for i, page := range s.pages {
		if page.Crop.IsZero() || page.IsBlank() || !page.Paper.IsZero() {
			continue
		}
		signs, ok := s.known.Analysis(page.Source, page.SourcePage)
		framing := page.Framing()
		content := signs.Content.Mapped(framing.Straightening())
		if !ok || signs.Content.IsZero() || kept[excerptOf(page)].Holds(content, ContentTolerance) {
			continue
		}
		needed := content.Grown(ContentRoom).Intersect(framing.Flat.Box())
		framing.Crop = page.Crop.Union(needed)
		findings = append(findings, Finding{
			Kind: Cut, Key: key(Cut, page), Page: page.ID,
			Sentence: message.Of("Page %d is cropped through what is on it", i+1),
			Settle:   []packet.Command{packet.Crop{Boxes: map[packet.PageID]geometry.Box{page.ID: framing.DisplayedCrop()}}},
		})
	}
	return findings
}
