package app

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// Ways to split a part.
const (
	ByCount     = "count"
	ByBlank     = "blank"
	ByBookmarks = "bookmarks"
	BySource    = "source"
	ByBytes     = "bytes"
)

// Split is where a part could be split: the pages that would begin its pieces,
// the first piece's included.
type Split struct {
	Pages  []packet.PageID `json:"pages" nullable:"false"`
	Titles []string        `json:"titles,omitempty" doc:"Of the pieces, where there are better ones than the part's with a number."`
	Counts []int           `json:"counts" nullable:"false" doc:"The pages of each piece."`
	Bytes  []int64         `json:"bytes" nullable:"false" doc:"What each piece weighs."`
	Blanks []packet.PageID `json:"blanks,omitempty" doc:"The blank pages that the part is split at."`
}

// FindSplit tells where a part would be split: every n pages, at blank pages, at
// the bookmarks of its sources, where the source changes, or so that no piece
// weighs more than n bytes, as far as single pages allow.
func (a *App) FindSplit(ctx context.Context, packetID string, part packet.PartID, by string, n int64) (Split, error) {
	p, sources, err := a.load(ctx, packetID)
	if err != nil {
		return Split{}, err
	}
	i := slices.IndexFunc(p.State.Parts, func(p packet.Part) bool { return p.ID == part })
	if i < 0 {
		return Split{}, fmt.Errorf("%w: part %s", ErrNotFound, part)
	}
	s := splitter{pages: p.State.Parts[i].Pages, weights: weightsOf(sources)}
	switch by {
	case ByCount:
		s.every(n)
	case ByBytes:
		s.byWeight(n)
	case BySource:
		s.bySource(sources)
	case ByBlank:
		err = a.splitAtBlanks(ctx, p, sources, &s)
	case ByBookmarks:
		err = a.splitAtBookmarks(ctx, sources, &s)
	default:
		err = packet.Invalid("a part is not split by %q", by)
	}
	return s.measured(), err
}

type splitter struct {
	pages   []packet.Page
	weights weights
	split   Split
}

func (s *splitter) begin(page packet.Page, title string) {
	s.split.Pages = append(s.split.Pages, page.ID)
	if title != "" {
		s.split.Titles = append(s.split.Titles, title)
	}
}

// measured counts and weighs the pieces.
func (s *splitter) measured() Split {
	begins := map[packet.PageID]bool{}
	for _, id := range s.split.Pages {
		begins[id] = true
	}
	if len(s.split.Titles) != len(s.split.Pages) {
		s.split.Titles = nil
	}
	for i, page := range s.pages {
		if i == 0 || begins[page.ID] {
			s.split.Counts, s.split.Bytes = append(s.split.Counts, 0), append(s.split.Bytes, 0)
		}
		last := len(s.split.Counts) - 1
		s.split.Counts[last]++
		s.split.Bytes[last] += s.weights.of(page)
	}
	return s.split
}

func (s *splitter) every(n int64) {
	for i, page := range s.pages {
		if int64(i)%max(1, n) == 0 {
			s.begin(page, "")
		}
	}
}

func (s *splitter) byWeight(most int64) {
	var weight int64
	for i, page := range s.pages {
		own := s.weights.of(page)
		if i == 0 || weight+own > most {
			s.begin(page, "")
			weight = 0
		}
		weight += own
	}
}

func (s *splitter) bySource(sources []store.Source) {
	titles := map[packet.SourceID]string{}
	for _, source := range sources {
		titles[packet.SourceID(source.ID)] = partTitle(source.Name)
	}
	var last packet.SourceID
	for i, page := range s.pages {
		if i == 0 || (!page.IsBlank() && page.Source != last) {
			s.begin(page, titles[page.Source])
		}
		if !page.IsBlank() {
			last = page.Source
		}
	}
}

// splitAtBlanks begins a piece after each run of blank pages.
func (a *App) splitAtBlanks(ctx context.Context, p store.Packet, sources []store.Source, s *splitter) error {
	facts, err := a.allFacts(ctx, p, sources)
	if err != nil {
		return err
	}
	wasBlank := true
	for _, page := range s.pages {
		blank := page.IsBlank() || facts["blank"](page)
		if blank {
			s.split.Blanks = append(s.split.Blanks, page.ID)
		} else if wasBlank {
			s.begin(page, "")
		}
		wasBlank = blank
	}
	return nil
}

func (a *App) splitAtBookmarks(ctx context.Context, sources []store.Source, s *splitter) error {
	marks := map[packet.SourceID][]render.Bookmark{}
	for _, source := range sources {
		if !readsAsPDF(source) {
			continue
		}
		found, err := a.engine.Bookmarks(ctx, a.store.FilePath(source.Working))
		if err != nil {
			return fmt.Errorf("bookmarks of source %s: %w", source.ID, err)
		}
		marks[packet.SourceID(source.ID)] = found
	}
	for _, page := range s.pages {
		i := slices.IndexFunc(marks[page.Source], func(m render.Bookmark) bool { return m.Page == page.SourcePage })
		if i >= 0 {
			title := []rune(strings.Join(strings.Fields(marks[page.Source][i].Title), " "))
			s.begin(page, string(title[:min(len(title), packet.MaxTitle)]))
		}
	}
	return nil
}
