package reading

import (
	"context"
	"slices"

	"dorbin/core/packet"
	"dorbin/internal/store"
)

// DoubtfulWords are words that were read unsurely.
type DoubtfulWords struct {
	Words []DoubtfulWord `json:"words" nullable:"false" doc:"The least sure first; at most 200."`
	Count int            `json:"count" doc:"How many there are."`
}

// DoubtfulWord is a word that was read unsurely, and where it stands.
type DoubtfulWord struct {
	Page   packet.PageID `json:"page"`
	Number int           `json:"number" doc:"The page's number."`
	At     int           `json:"at" doc:"Its place among all words of the page laid flat."`
	PageWord
	Line string `json:"line" doc:"The line that it is in."`
}

const mostDoubtful = 200

// Doubtful gives the words of a packet's pages that were read unsurely and that nobody has looked at.
func (s *Service) Doubtful(ctx context.Context, packetID string) (DoubtfulWords, error) {
	found := DoubtfulWords{Words: []DoubtfulWord{}}
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return found, err
	}
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return found, err
	}
	for i, page := range p.State.Pages() {
		words, err := s.doubtfulWordsOn(ctx, page, i+1, infoOf(texts, page))
		if err != nil {
			return found, err
		}
		found.Words = append(found.Words, words...)
	}
	found.Count = len(found.Words)
	slices.SortStableFunc(found.Words, func(a, b DoubtfulWord) int { return a.Sure - b.Sure })
	found.Words = found.Words[:min(len(found.Words), mostDoubtful)]
	return found, nil
}

// doubtfulOn is how many words of a page were read unsurely: those that were kept with its text, if it
// is seen as it was read.
func (s *Service) doubtfulOn(ctx context.Context, page packet.Page, number int, info store.TextInfo) (int, error) {
	if info.State != store.TextRead || !isChanged(page) {
		return info.Doubtful, nil
	}
	words, err := s.doubtfulWordsOn(ctx, page, number, info)
	return len(words), err
}

// doubtfulWordsOn are the words of a page that were read unsurely.
func (s *Service) doubtfulWordsOn(ctx context.Context, page packet.Page, number int, info store.TextInfo) (words []DoubtfulWord, err error) {
	if page.IsBlank() || info.State != store.TextRead || info.Doubtful == 0 {
		return nil, nil
	}
	flat, err := s.store.Text(ctx, info.TextKey)
	if err != nil {
		return nil, err
	}
	for _, line := range page.SeenText(flat).Lines {
		for _, word := range line.Words {
			if word.IsDoubtful() {
				words = append(words, DoubtfulWord{page.ID, number, word.Number, wordOn(line, word), line.String()})
			}
		}
	}
	return words, nil
}
