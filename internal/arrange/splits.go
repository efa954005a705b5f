package arrange

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/render"
	"dorbin/internal/sources"
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
	Bytes  []int64         `json:"bytes" nullable:"false" doc:"Bytes of each piece."`
	Blanks []packet.PageID `json:"blanks,omitempty" doc:"The blank pages that the part is split at."`
}

// FindSplit tells where a part would be split: every n pages, at blank pages, at
// the bookmarks of its sources, where the source changes, or so that no piece
// takes up more than n bytes, as far as single pages allow.
func (s *Service) FindSplit(ctx context.Context, packetID string, part packet.PartID, by string, n int64) (Split, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Split{}, err
	}
	i := slices.IndexFunc(p.State.Parts, func(p packet.Part) bool { return p.ID == part })
	if i < 0 {
		return Split{}, fmt.Errorf("%w: part %s", store.ErrNotFound, part)
	}
	into := splitter{pages: p.State.Parts[i].Pages, bytes: sources.BytesOf(all)}
	switch by {
	case ByCount:
		into.every(n)
	case ByBytes:
		into.byBytes(n)
	case BySource:
		into.bySource(all)
	case ByBlank:
		err = s.splitAtBlanks(ctx, p, all, &into)
	case ByBookmarks:
		err = s.splitAtBookmarks(ctx, all, &into)
	default:
		err = problem.New(problem.Invalid, "a part is not split by %q", by)
	}
	return into.measured(), err
}

type splitter struct {
	pages []packet.Page
	bytes sources.Bytes
	split Split
}

func (s *splitter) begin(page packet.Page, title string) {
	s.split.Pages = append(s.split.Pages, page.ID)
	if title != "" {
		s.split.Titles = append(s.split.Titles, title)
	}
}

// measured counts the pieces and their bytes.
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
		s.split.Bytes[last] += s.bytes.Of(page)
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

func (s *splitter) byBytes(most int64) {
	var weight int64
	for i, page := range s.pages {
		own := s.bytes.Of(page)
		if i == 0 || weight+own > most {
			s.begin(page, "")
			weight = 0
		}
		weight += own
	}
}

func (s *splitter) bySource(all []store.Source) {
	titles := map[packet.SourceID]string{}
	for _, source := range all {
		titles[packet.SourceID(source.ID)] = sources.PartTitle(source.Name)
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
func (s *Service) splitAtBlanks(ctx context.Context, p store.Packet, all []store.Source, into *splitter) error {
	facts, err := s.checking.Facts(ctx, p, all)
	if err != nil {
		return err
	}
	wasBlank := true
	for _, page := range into.pages {
		blank := page.IsBlank() || facts["blank"](page)
		if blank {
			into.split.Blanks = append(into.split.Blanks, page.ID)
		} else if wasBlank {
			into.begin(page, "")
		}
		wasBlank = blank
	}
	return nil
}

func (s *Service) splitAtBookmarks(ctx context.Context, all []store.Source, into *splitter) error {
	marks := map[packet.SourceID][]render.Bookmark{}
	for _, source := range all {
		if !sources.IsPDF(source) {
			continue
		}
		found, err := s.engine.Bookmarks(ctx, s.store.FilePath(source.Working))
		if err != nil {
			return fmt.Errorf("bookmarks of source %s: %w", source.ID, err)
		}
		marks[packet.SourceID(source.ID)] = found
	}
	for _, page := range into.pages {
		i := slices.IndexFunc(marks[page.Source], func(m render.Bookmark) bool { return m.Page == page.SourcePage })
		if i >= 0 {
			title := []rune(strings.Join(strings.Fields(marks[page.Source][i].Title), " "))
			into.begin(page, string(title[:min(len(title), packet.MaxTitle)]))
		}
	}
	return nil
}
