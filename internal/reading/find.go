package reading

import (
	"context"

	"dorbin/core/packet"
	"dorbin/core/text"
	"dorbin/internal/store"
)

// Found is where something is in a packet.
type Found struct {
	Query   string          `json:"query"`
	Pages   []FoundPage     `json:"pages" nullable:"false" doc:"In the order of the packet."`
	Parts   []packet.PartID `json:"parts" nullable:"false" doc:"Parts whose titles have it."`
	Notes   []packet.PageID `json:"notes" nullable:"false" doc:"Pages whose notes have it."`
	Matches int             `json:"matches" doc:"How often it is on all pages."`
	Without int             `json:"without" doc:"Pages that have no text to search; blank pages are none of them."`
}

// FoundPage is a page that has what was searched.
type FoundPage struct {
	Page    packet.PageID `json:"page"`
	Matches int           `json:"matches"`
}

// Find searches all pages of a packet, the titles of its parts and the notes on its pages. Accents,
// capitals and hyphens do not matter.
func (s *Service) Find(ctx context.Context, packetID, query string) (Found, error) {
	found := Found{Query: query, Pages: []FoundPage{}, Parts: []packet.PartID{}, Notes: []packet.PageID{}}
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return found, err
	}
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return found, err
	}
	folded, err := s.store.FoldedTexts(ctx, packetID)
	if err != nil {
		return found, err
	}
	query = text.Fold(query)
	for _, part := range p.State.Parts {
		if text.Count(text.Fold(part.Title), query) > 0 {
			found.Parts = append(found.Parts, part.ID)
		}
		for _, page := range part.Pages {
			if err := s.findOn(ctx, &found, page, texts, folded, query); err != nil {
				return found, err
			}
		}
	}
	return found, nil
}

func (s *Service) findOn(
	ctx context.Context, found *Found, page packet.Page, texts map[store.TextKey]store.TextInfo, folded map[store.TextKey]string, query string,
) error {
	if text.Count(text.Fold(page.Note), query) > 0 {
		found.Notes = append(found.Notes, page.ID)
	}
	if page.IsBlank() {
		return nil
	}
	info := infoOf(texts, page)
	if info.State != store.TextOwn && info.State != store.TextRead && info.Words == 0 {
		found.Without++
	}
	matches := text.Count(folded[info.TextKey], query)
	if isChanged(page) && info.Words > 0 {
		seen, err := s.seen(ctx, texts, page)
		if err != nil {
			return err
		}
		matches = text.Count(text.IndexOf(seen).Folded, query)
	}
	if matches > 0 {
		found.Pages = append(found.Pages, FoundPage{page.ID, matches})
		found.Matches += matches
	}
	return nil
}

// isChanged tells of a page on which other words may be seen than were read: something is cropped away,
// painted over or corrected.
func isChanged(page packet.Page) bool {
	framing := page.Framing()
	return page.Patches != "" || page.Corrected != "" || framing.Straighten != 0 || framing.Seen() != framing.Flat.Box()
}
