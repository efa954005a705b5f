package check

import (
	"slices"
	"strings"

	"dorbin/core/message"
	"dorbin/core/packet"
)

const (
	mostOdd    = 0.3 // share of the pages that may each be told to be of another size
	sizesNamed = 3   // of a mixture
)

// sizes finds pages of another size than most, or a mixture of sizes.
func (s Survey) sizes() []Finding {
	most := packet.CommonestSize(s.pages)
	var findings []Finding
	var ids []packet.PageID
	for i, page := range s.pages {
		name := packet.SizeName(page)
		if name == most || s.isLong(page) {
			continue // on one sheet, a long page could not be read
		}
		ids = append(ids, page.ID)
		findings = append(findings, Finding{
			Kind: Size, Key: key(Size, page), Page: page.ID,
			Sentence: message.Of("Page %d is %s, most are %s", i+1, name, most),
			Settle:   s.fitTo(most, page.ID),
		})
	}
	if float64(len(ids)) <= mostOdd*float64(len(s.pages)) {
		return findings
	}
	kinds, words := s.mixture()
	return []Finding{{
		Kind: Size, Key: Size + " " + words.English,
		Sentence: message.Of("The pages are of %d sizes: %s", kinds, words),
		Settle:   s.fitTo(most, ids...),
	}}
}

// fitTo makes pages as large as those of a name are.
func (s Survey) fitTo(size string, pages ...packet.PageID) []packet.Command {
	at := slices.IndexFunc(s.pages, func(page packet.Page) bool { return packet.SizeName(page) == size })
	return []packet.Command{packet.FitTo(s.pages[at].Size(), pages...)}
}

// mixture tells how many sizes there are, and names the first of them, the commonest
// first.
func (s Survey) mixture() (kinds int, words message.Text) {
	counts := map[string]int{}
	var names []string
	for _, page := range s.pages {
		name := packet.SizeName(page)
		if counts[name] == 0 {
			names = append(names, name)
		}
		counts[name]++
	}
	slices.SortStableFunc(names, func(a, b string) int { return counts[b] - counts[a] })
	var told []message.Text
	others := len(s.pages)
	for _, name := range names[:min(len(names), sizesNamed)] {
		of := message.Of("%d %s", counts[name], name)
		if strings.Contains(name, "×") {
			of = message.Of("%d of %s", counts[name], name)
		}
		told = append(told, of)
		others -= counts[name]
	}
	if others > 0 {
		told = append(told, message.Of("%d of other sizes", others))
	}
	return len(names), message.Commas(told...)
}
