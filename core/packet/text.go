package packet

import (
	"hash/fnv"
	"slices"
	"strconv"

	"dorbin/core/geometry"
	"dorbin/core/text"
)

// TextLook names what the text of a page depends on besides its source's page: how the page comes
// to lie flat. It is empty for a page that is as it came in. Turning, straightening, cropping
// and painting over need no other text.
//
// Looks are stored with texts, as fingerprints are.
func (p Page) TextLook() string {
	if p.Paper.IsZero() && !p.Mirror {
		return ""
	}
	hash := fnv.New64a()
	for _, corner := range p.Paper {
		write(hash, "%v %v ", corner.X, corner.Y)
	}
	write(hash, "%s %t", wholeMillimetres(p.Flat), p.Mirror)
	return strconv.FormatUint(hash.Sum64(), 36)
}

// SeenText gives of the text of the flat page what is seen of it on the page as it stands, where
// it then is. Of a page that is mirrored the text is that of the flat page mirrored.
func (p Page) SeenText(flat text.Page) text.Page {
	if len(flat.Lines) == 0 {
		return flat
	}
	flat = p.correctedText(flat.Numbered())
	framing := p.Framing()
	toFlat := geometry.Identity
	if p.Mirror {
		toFlat = geometry.Affine{A: -1, D: 1, E: framing.Flat.Width}
	}
	straightened, seen := framing.Straightening(), framing.Seen()
	patches := p.patchesOn(framing.Flat)
	onPage := flat.Only(func(middle geometry.Point) bool {
		middle.X, middle.Y = toFlat.Apply(middle.X, middle.Y)
		if slices.ContainsFunc(patches, func(corners [4]geometry.Point) bool { return isInside(middle, corners) }) {
			return false
		}
		x, y := straightened.Apply(middle.X, middle.Y)
		return x >= seen.X0 && x <= seen.X1 && y >= seen.Y0 && y <= seen.Y1
	})
	return onPage.Mapped(toFlat.Then(framing.Transform()))
}

// patchesOn are the corners of what is painted over on a flat page of this size.
func (p Page) patchesOn(flat geometry.Size) (corners [][4]geometry.Point) {
	for _, patch := range p.Patches.List() {
		corners = append(corners, patch.Corners(flat))
	}
	return corners
}

// isInside tells whether a point is in a convex shape whose corners follow each other clockwise.
func isInside(p geometry.Point, corners [4]geometry.Point) bool {
	for i, from := range corners {
		to := corners[(i+1)%len(corners)]
		if (to.X-from.X)*(p.Y-from.Y)-(to.Y-from.Y)*(p.X-from.X) < 0 {
			return false
		}
	}
	return true
}
