package packet

import (
	"dorbin/core/geometry"
	"dorbin/core/message"
)

// Slice makes several pages of each, from top to bottom: it is cut across at its breaks, and each piece
// is laid on a sheet of its own, as large as it can be there, at the top.
type Slice struct {
	Breaks map[PageID][]float64 `json:"breaks" doc:"Of each page, where it is cut, as shares of what is kept of it, from its top as it stands, in order."`
	Paper  geometry.Size        `json:"paper,omitzero" doc:"Of the sheets, in points. Without it the pieces are pages as large as they are."`
}

// mostBreaks is at how many places a page is cut at most.
const mostBreaks = 500

func (c Slice) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	ids := make([]PageID, 0, len(c.Breaks))
	for id := range c.Breaks {
		ids = append(ids, id)
	}
	wanted, err := p.placedSet(ids)
	if err != nil {
		return message.Text{}, err
	}
	on, made := p.affected(wanted), 0
	numbers := p.numbers()
	err = p.eachBecomes(wanted, func(page Page) ([]Page, error) {
		pieces, err := p.pieces(page, c.Breaks[page.ID], c.Paper)
		if err != nil {
			return nil, message.Errorf("page %d: %s", numbers[page.ID], err)
		}
		made += len(pieces)
		return pieces, nil
	})
	if err != nil {
		return message.Text{}, err
	}
	return message.Of("Cut %s into %s", on, CountPages(made)), nil
}

// pieces are what a page is cut into. The first is the page itself.
func (p *Packet) pieces(page Page, breaks []float64, paper geometry.Size) ([]Page, error) {
	switch {
	case page.IsMade():
		return nil, errMadeTwice
	case len(breaks) == 0:
		return nil, message.Errorf("it is not said where it is to be cut")
	case len(breaks) > mostBreaks:
		return nil, message.Errorf("a page is cut at %d places at most", mostBreaks)
	}
	seen := page.Framing().Cut()
	whole := seen.DisplayedCrop()
	if whole.IsZero() {
		whole = seen.Size().Box()
	}
	page.Sheet = geometry.SheetLayout{}
	sheet := geometry.SheetLayout{Paper: paper, Scale: geometry.Fill, Across: 0.5}
	if paper == (geometry.Size{}) {
		sheet = geometry.SheetLayout{}
	}
	if err := sheet.Check(); err != nil {
		return nil, err
	}
	height := whole.Size().Height
	var pieces []Page
	from := 0.0
	for _, to := range append(breaks[:len(breaks):len(breaks)], 1) {
		if !(to > from) || to > 1 {
			return nil, message.Errorf("the places where it is cut are shares of its height, one below the other")
		}
		piece := page
		if from > 0 {
			piece = p.double(page)
		}
		if err := piece.cropTo(geometry.Box{X0: whole.X0, Y0: whole.Y0 + from*height, X1: whole.X1, Y1: whole.Y0 + to*height}); err != nil {
			return nil, err
		}
		piece.Sheet = piece.Framing().LayoutAsDisplayed(sheet)
		pieces, from = append(pieces, piece), to
	}
	return pieces, nil
}
