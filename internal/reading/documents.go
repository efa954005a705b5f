package reading

import (
	"context"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/text"
	"dorbin/internal/store"
)

// Documents are how the pages of a part belong together, by what is written on them.
type Documents struct {
	Documents []Document      `json:"documents" nullable:"false"`
	Changes   bool            `json:"changes" doc:"The pages would come in another order, become several parts, or be turned."`
	Without   []packet.PageID `json:"without" nullable:"false" doc:"Pages that have no text, of which nothing is known."`
}

// Document is pages that belong together.
type Document struct {
	Title   string         `json:"title" doc:"Proposed for the part that it becomes."`
	Pages   []DocumentPage `json:"pages" nullable:"false" doc:"In their order."`
	Missing []int          `json:"missing" nullable:"false" doc:"Numbers that its pages leave out."`
}

// DocumentPage is a page in its document.
type DocumentPage struct {
	Page   packet.PageID `json:"page"`
	Turn   int           `json:"turn,omitempty" doc:"By which it is to be turned to be read, in degrees clockwise."`
	Twice  bool          `json:"twice,omitempty" doc:"Another page of the document bears its number."`
	Reason message.Text  `json:"reason" doc:"Why it is there."`
}

// FindDocuments tells how the pages of a part belong together.
func (s *Service) FindDocuments(ctx context.Context, packetID string, id packet.PartID) (Documents, error) {
	found := Documents{Documents: []Document{}, Without: []packet.PageID{}}
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return found, err
	}
	part, ok := partOf(p.State, id)
	if !ok {
		return found, problem.New(problem.Missing, "the part is not in the packet")
	}
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return found, err
	}
	stack, turns, err := s.sheets(ctx, texts, part.Pages)
	if err != nil {
		return found, err
	}
	for i, page := range part.Pages {
		if len(stack[i].Text.Lines) == 0 && !page.IsBlank() {
			found.Without = append(found.Without, page.ID)
		}
	}
	for _, d := range check.FindDocuments(stack) {
		found.Documents = append(found.Documents, documentView(d, part, turns))
	}
	found.Changes = found.changes(part)
	return found, nil
}

func partOf(p packet.Packet, id packet.PartID) (packet.Part, bool) {
	for _, part := range p.Parts {
		if part.ID == id {
			return part, true
		}
	}
	return packet.Part{}, false
}

// seen is the text of a page as it stands.
func (s *Service) seen(ctx context.Context, texts map[store.TextKey]store.TextInfo, page packet.Page) (text.Page, error) {
	if page.IsBlank() {
		return text.Page{}, nil
	}
	info := infoOf(texts, page)
	flat, err := s.store.Text(ctx, info.TextKey)
	return seenText(page, info, flat), err
}

// sheets are pages as they are read, and by how much each is turned for that.
func (s *Service) sheets(ctx context.Context, texts map[store.TextKey]store.TextInfo, pages []packet.Page) (sheets []text.Sheet, turns []int, err error) {
	sheets, turns = make([]text.Sheet, len(pages)), make([]int, len(pages))
	for i, page := range pages {
		seen, err := s.seen(ctx, texts, page)
		if err != nil {
			return nil, nil, err
		}
		sheets[i], turns[i] = upright(page, seen)
	}
	return sheets, turns, nil
}

// upright is a page as it is read, and by how much it is turned for that.
func upright(page packet.Page, seen text.Page) (sheet text.Sheet, turn int) {
	turn = seen.Turn()
	return turned(seen, page.Size(), turn), turn
}

// turned is a page of this size with its text, turned by degrees clockwise.
func turned(page text.Page, size geometry.Size, turn int) text.Sheet {
	framing := geometry.Framing{Flat: size, Turn: turn}
	return text.Sheet{Text: page.Mapped(framing.Transform()), Size: framing.Size()}
}

func documentView(d check.Document, part packet.Part, turns []int) Document {
	view := Document{Title: d.Title, Missing: append([]int{}, d.Missing...)}
	if view.Title == "" {
		view.Title = part.Title
	}
	for _, placed := range d.Pages {
		view.Pages = append(view.Pages, DocumentPage{part.Pages[placed.Leaf].ID, turns[placed.Leaf], placed.Twice, placed.Reason})
	}
	return view
}

// changes tells whether the part would look otherwise.
func (d Documents) changes(part packet.Part) bool {
	if len(d.Documents) > 1 {
		return true
	}
	for _, document := range d.Documents {
		for i, page := range document.Pages {
			if page.Turn != 0 || page.Page != part.Pages[i].ID {
				return true
			}
		}
	}
	return false
}
