package check

import (
	"cmp"
	"fmt"
	"hash/fnv"
	"maps"
	"slices"
	"strconv"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/raster"
)

// copies finds pages that look like others: those with the same text, and scans of the same
// sheet, also turned, whose ink was compared.
func (s Survey) copies() []Finding {
	twins := s.sameText()
	for _, pair := range s.alike {
		if same, known := s.known.sameInk(pair); !same || !known {
			continue
		}
		one, other := s.placeOf(pair.First), s.placeOf(pair.Second)
		if first, found := twins[max(one, other)]; !found || min(one, other) < first {
			twins[max(one, other)] = min(one, other)
		}
	}
	findings := make([]Finding, 0, len(twins))
	for _, second := range slices.Sorted(maps.Keys(twins)) {
		findings = append(findings, s.double(Copy, twins[second], second, message.Of("may be the same as")))
	}
	return findings
}

// sameText pairs pages by their places, each with the first one before it that has the same text
// and looks like it.
func (s Survey) sameText() map[int]int {
	firstWith, twins := map[string]original{}, map[int]int{}
	for _, this := range s.scans {
		first, known := firstWith[this.analysis.Text]
		switch {
		case this.analysis.Text == "":
		case !known:
			firstWith[this.analysis.Text] = this
		case first.analysis.Miniature.Likeness(this.analysis.Miniature) >= alike:
			twins[this.place] = first.place
		}
	}
	return twins
}

// original is a page of a source that is in the packet, with the first place where it is.
type original struct {
	Scan
	place    int
	analysis PageAnalysis
}

// originals are the pages of sources in the packet that are not blank, each once.
func (s Survey) originals() (all []original) {
	seen := map[Scan]bool{}
	for i, page := range s.pages {
		scan := Scan{page.Source, page.SourcePage}
		analysis, ok := s.signs(page)
		if ok && !seen[scan] && analysis.Ink >= nearlyBlankInk {
			seen[scan] = true
			all = append(all, original{scan, i, analysis})
		}
	}
	return all
}

// placeOf is the first place of a page of a source in the packet.
func (s Survey) placeOf(scan Scan) int {
	return slices.IndexFunc(s.pages, func(page packet.Page) bool {
		return page.Source == scan.Source && page.SourcePage == scan.Page
	})
}

// Scan is a page of a source.
type Scan struct {
	Source packet.SourceID
	Page   int // from 1
}

// Pair are two scans that look alike in the large, which their ink must confirm.
type Pair struct {
	First, Second Scan
	Turns         []int // degrees clockwise by which the first may be turned to look like the second
}

// alikeScans pairs scans. Which are alike does not depend on their places, so the scans are put
// in the order of their sources, and it is found out once.
func (s Survey) alikeScans() []Pair {
	scans := slices.DeleteFunc(slices.Clone(s.scans), func(o original) bool { return o.analysis.Text != "" })
	slices.SortFunc(scans, func(a, b original) int {
		return cmp.Or(cmp.Compare(a.Source, b.Source), cmp.Compare(a.Page, b.Page))
	})
	miniatures := make([]raster.Miniature, len(scans))
	key := fnv.New64a()
	for i, scan := range scans {
		miniatures[i] = scan.analysis.Miniature
		_, _ = fmt.Fprintln(key, scan.Source, scan.Page) // a hash takes everything
	}
	find := func() []raster.Twin { return raster.FindTwins(miniatures, alikeInTheLarge) }
	var twins []raster.Twin
	if s.known.Remember == nil {
		twins = find()
	} else {
		twins = s.known.Remember(strconv.FormatUint(key.Sum64(), 36), find)
	}
	var pairs []Pair
	at := map[[2]int]int{}
	for _, twin := range twins {
		i, known := at[[2]int{twin.First, twin.Second}]
		if !known {
			i = len(pairs)
			at[[2]int{twin.First, twin.Second}] = i
			pairs = append(pairs, Pair{First: scans[twin.First].Scan, Second: scans[twin.Second].Scan})
		}
		pairs[i].Turns = append(pairs[i].Turns, twin.Turn)
	}
	return pairs
}
