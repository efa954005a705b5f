package reading

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"sync"

	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/store"
)

// openingPages is how many pages of a part are read to tell what paper it is, and of which day.
const openingPages = 3

// PartFacts are what tells of the parts of a packet which papers they are, as far as their text is known.
func (s *Service) PartFacts(ctx context.Context, packetID string, parts []packet.Part) ([]requirements.PartFacts, error) {
	version := s.store.TextsVersion()
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return nil, err
	}
	facts := make([]requirements.PartFacts, len(parts))
	for i, part := range parts {
		pages := part.Pages[:min(openingPages, len(part.Pages))]
		opening, err := s.openings.of(pages, version, func() (string, error) { return s.openingText(ctx, texts, pages) })
		if err != nil {
			return nil, err
		}
		facts[i] = requirements.PartFacts{Title: part.Title, Paper: part.Paper, Text: opening}
	}
	return facts, nil
}

// openingText is the text of pages, line by line.
func (s *Service) openingText(ctx context.Context, texts map[store.TextKey]store.TextInfo, pages []packet.Page) (string, error) {
	var opening strings.Builder
	for _, page := range pages {
		if page.IsBlank() {
			continue
		}
		seen, err := s.seen(ctx, texts, page)
		if err != nil {
			return "", err
		}
		for _, line := range seen.Lines {
			opening.WriteString(line.String())
			opening.WriteByte('\n')
		}
	}
	return opening.String(), nil
}

// mostOpenings is how many openings are remembered; when there are more, it begins anew.
const mostOpenings = 500

// openings remembers the texts of pages, which are asked for after every command. It holds for as long as no
// text is written.
type openings struct {
	mutex   sync.Mutex
	version int // of the texts
	texts   map[string]string
}

// of is the text of pages as they stand, which is read if it is not remembered.
func (o *openings) of(pages []packet.Page, version int, read func() (string, error)) (string, error) {
	stand, err := json.Marshal(pages)
	if err != nil {
		return "", fmt.Errorf("encode pages: %w", err)
	}
	key := string(stand)
	o.mutex.Lock()
	known, ok := o.texts[key]
	ok = ok && o.version == version
	o.mutex.Unlock()
	if ok {
		return known, nil
	}
	text, err := read()
	if err != nil {
		return "", err
	}
	o.mutex.Lock()
	defer o.mutex.Unlock()
	if o.version != version || o.texts == nil || len(o.texts) >= mostOpenings {
		o.version, o.texts = version, map[string]string{}
	}
	o.texts[key] = text
	return text, nil
}
