package check

import (
	"fmt"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
)

// damaged tells of sources of which some is missing.
func (s Survey) damaged() []Finding {
	var findings []Finding
	for _, source := range s.known.Sources {
		if !source.Damage.IsEmpty() {
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
				Sentence: message.Of("%s is protected with a password", source.Name),
			})
		}
	}
	return findings
}

// facing tells of pages that show two facing pages: a fold was found, and what is kept of
// the page is still wider than high.
func (s Survey) facing() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		size := page.Size().Turned(-page.Turn)
		if !s.sources[page.Source].Folds[page.SourcePage] || size.Width <= size.Height {
			continue
		}
		findings = append(findings, Finding{
			Kind: Facing, Key: key(Facing, page), Page: page.ID, Sentence: message.Of("Page %d shows two facing pages", i+1),
		})
	}
	return findings
}

const (
	longest      = 3   // times its width that a page may be high
	roomOnASheet = 1.1 // times the height of A4 that a page of a known size may be high
)

// long tells of pages of which little can be read on one sheet.
func (s Survey) long() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		if s.isLong(page) {
			findings = append(findings, Finding{
				Kind: Long, Key: key(Long, page), Page: page.ID, Sentence: message.Of("Page %d is too long for one sheet", i+1),
			})
		}
	}
	return findings
}

// isLong tells of a page that is so much higher than wide that little of it can be read on one sheet, such as
// the picture of a screen that was scrolled. A narrow paper that a sheet has room for is none.
func (s Survey) isLong(page packet.Page) bool {
	size := page.Framing().Cut().Size()
	if page.IsBlank() || !page.Paper.IsZero() || size.Height < longest*size.Width {
		return false
	}
	return size.Height > roomOnASheet*geometry.A4.Height || s.sources[page.Source].Unsized[page.SourcePage]
}
