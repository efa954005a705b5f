package check

import (
	"fmt"

	"dorbin/core/packet"
)

// damaged tells of sources of which some is missing.
func (s Survey) damaged() []Finding {
	var findings []Finding
	for _, source := range s.known.Sources {
		if source.Damage != "" {
			findings = append(findings, Finding{
				Kind: Damaged, Key: fmt.Sprintf("%s %s", Damaged, source.ID), Page: s.firstOf(source.ID), Source: source.ID,
				Sentence: source.Damage,
			})
		}
	}
	return findings
}

// locked tells of sources that wait for their passwords.
func (s Survey) locked() []Finding {
	var findings []Finding
	for _, source := range s.known.Sources {
		if source.Locked {
			findings = append(findings, Finding{
				Kind: Locked, Key: fmt.Sprintf("%s %s", Locked, source.ID), Source: source.ID,
				Sentence: fmt.Sprintf("%s is protected with a password", source.Name),
			})
		}
	}
	return findings
}

// facing tells of pages that show two facing pages: a fold was found, and what is kept of
// the page is still wider than high.
func (s Survey) facing() []Finding {
	folds := map[packet.SourceID]map[int]bool{}
	for _, source := range s.known.Sources {
		folds[source.ID] = source.Folds
	}
	var findings []Finding
	for i, page := range s.pages {
		size := page.Size().Turned(-page.Turn)
		if !folds[page.Source][page.SourcePage] || size.Width <= size.Height {
			continue
		}
		findings = append(findings, Finding{
			Kind: Facing, Key: key(Facing, page), Page: page.ID, Sentence: fmt.Sprintf("Page %d shows two facing pages", i+1),
		})
	}
	return findings
}
