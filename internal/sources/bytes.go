package sources

import (
	"math"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/store"
)

// Bytes looks up what is known of the source pages that pages show.
type Bytes map[packet.SourceID][]store.SourcePage

// BytesOf gives what is known of the pages of sources.
func BytesOf(sources []store.Source) Bytes {
	w := Bytes{}
	for _, source := range sources {
		w[packet.SourceID(source.ID)] = source.Pages
	}
	return w
}

// Of is how many bytes a page is, as far as that can be told before it is written: of
// a paper in a photograph, its share.
func (w Bytes) Of(p packet.Page) int64 {
	bytes := w.Page(p).Bytes
	if !p.Paper.IsZero() {
		bytes = int64(float64(bytes) * math.Min(1, p.Paper.Area()))
	}
	if page := w.Page(p); page.Pixels[0] > 0 { // a picture is truly cut
		seen, flat := p.Framing().Seen().Size(), p.Framing().Flat
		bytes = int64(float64(bytes) * seen.Width * seen.Height / (flat.Width * flat.Height))
	}
	return bytes
}

// DPI is the resolution of an image page as it stands, in dots per inch; 0 of others.
func (w Bytes) DPI(p packet.Page) int {
	page := w.Page(p)
	pixels := page.Pixels[0]
	size := p.Framing().Flat
	if pixels == 0 || size.Width == 0 {
		return 0
	}
	if !p.Paper.IsZero() {
		pixels, _ = raster.FlatPixels(p.Paper, page.Pixels[0], page.Pixels[1], size.Width/size.Height)
	}
	return int(math.Round(float64(pixels) / (size.Width * p.Framing().Enlargement()) * geometry.PointsPerInch))
}

// Page is what is known of the source page that a page shows.
func (w Bytes) Page(p packet.Page) store.SourcePage {
	pages := w[p.Source]
	if p.SourcePage < 1 || p.SourcePage > len(pages) {
		return store.SourcePage{}
	}
	return pages[p.SourcePage-1]
}
