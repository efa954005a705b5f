package check

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"maps"
	"slices"
	"strconv"

	"dorbin/core/packet"
	"dorbin/core/raster"
)

// copies finds pages that look like others: those with the same text, and scans
// of the same sheet, also turned.
func (s survey) copies(packet.Packet) []Finding {
	var scans []sheet
	firstWith := map[string]sheet{}
	seen := map[source]bool{}
	twins := map[int]int{} // the page that a page is like, by their places
	for i, page := range s.pages {
		from := source{page.Source, page.SourcePage}
		signs, ok := s.signs(page)
		if !ok || seen[from] || signs.Ink < nearlyBlankInk {
			continue
		}
		seen[from] = true
		this := sheet{i, from, signs.Miniature}
		first, known := firstWith[signs.Text]
		switch {
		case signs.Text == "":
			scans = append(scans, this)
		case !known:
			firstWith[signs.Text] = this
		case first.miniature.Likeness(signs.Miniature) >= alike:
			twins[i] = first.at
		}
	}
	for _, twin := range s.twins(scans) {
		one, other := scans[twin.First].at, scans[twin.Second].at
		twins[max(one, other)] = min(one, other)
	}
	findings := make([]Finding, 0, len(twins))
	for _, second := range slices.Sorted(maps.Keys(twins)) {
		findings = append(findings, s.double(Copy, twins[second], second, "looks like"))
	}
	return findings
}

// sheet is a page by its place in the packet.
type sheet struct {
	at        int
	from      source
	miniature raster.Miniature
}

// source is a page of a source.
type source struct {
	id   packet.SourceID
	page int
}

// twins pairs scans. Which are alike does not depend on their places, so the
// scans are put in the order of their sources, and it is found out once.
func (s survey) twins(scans []sheet) []raster.Twin {
	slices.SortFunc(scans, func(a, b sheet) int {
		return cmp.Or(cmp.Compare(a.from.id, b.from.id), cmp.Compare(a.from.page, b.from.page))
	})
	miniatures := make([]raster.Miniature, len(scans))
	key := fnv.New64a()
	for i, scan := range scans {
		miniatures[i] = scan.miniature
		_, _ = fmt.Fprintln(key, scan.from.id, scan.from.page) // a hash takes everything
	}
	find := func() []raster.Twin { return raster.FindTwins(miniatures, alike) }
	if s.known.Remember == nil {
		return find()
	}
	return s.known.Remember(strconv.FormatUint(key.Sum64(), 36), find)
}
