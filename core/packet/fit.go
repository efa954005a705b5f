package packet

import (
	"dorbin/core/geometry"
	"dorbin/core/message"
)

// Fit lays each page on a sheet, which takes the place of the one it lay on, or on none.
type Fit struct {
	Selected
	Fit      *geometry.SheetLayout `json:"fit,omitempty"`
	Mirrored bool                  `json:"mirrored,omitempty"` // margins are mirrored on even pages
}

func (c Fit) apply(p *Packet, ids []PageID, _ Known) (message.Text, error) {
	var sheet geometry.SheetLayout
	if c.Fit != nil {
		if err := c.Fit.Check(); err != nil {
			return message.Text{}, err
		}
		if c.Fit.Paper != (geometry.Size{}) || c.Fit.Margin != (geometry.Margin{}) {
			sheet = *c.Fit
		}
	}
	numbers := p.numbers()
	on, err := p.adjust(ids, func(page *Page) error {
		wanted := sheet
		if c.Mirrored && numbers[page.ID]%2 == 0 {
			wanted.Margin = wanted.Margin.MirroredLeftRight()
		}
		page.Sheet = page.Framing().LayoutAsDisplayed(wanted)
		return nil
	})
	return fitWords(sheet, on), err
}

func fitWords(f geometry.SheetLayout, on affected) message.Text {
	switch name := geometry.PaperName(f.Paper); {
	case f.IsZero():
		return message.Count(on.count, "Left %s as large as it was", "Left %s as large as they were", on)
	case f.Paper == (geometry.Size{}):
		return message.Of("Added a border to %s", on)
	case name != "":
		return message.Of("Made %s %s", on, name)
	default:
		return message.Of("Made %s %s", on, f.Paper)
	}
}

// numbers are the pages' places in the packet, from 1.
func (p *Packet) numbers() map[PageID]int {
	numbers := map[PageID]int{}
	for i, page := range p.Pages() {
		numbers[page.ID] = i + 1
	}
	return numbers
}

// FitTo lays pages on a paper of this size, as large as they can be there, in its middle, and upright or on
// its side as they are.
func FitTo(paper geometry.Size, pages ...PageID) Fit {
	if paper.Width > paper.Height {
		paper = paper.Turned(90)
	}
	sheet := geometry.SheetLayout{Paper: paper, Follow: true, Scale: geometry.Fill, Across: 0.5, Down: 0.5}
	return Fit{Selected: On(pages...), Fit: &sheet}
}
