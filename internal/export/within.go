package export

import (
	"context"
	"fmt"
	"slices"

	"dorbin/core/message"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/shrink"
	"dorbin/internal/guard"
	"dorbin/internal/store"
)

const (
	mostWritings  = 8
	nearEnough    = 0.95 // share of the limit from which a document is not made better
	mostRefined   = 4    // pages that are written in better quality than was measured, to come near
	refinedAtOnce = 2    // of these, that share the room and are written at the same time
	worthOfRoom   = 0.02 // share of the limit that is worth writing a page anew for
)

// makeWithin writes the document. One that is to fit under a limit is measured as it is
// written, and written again with other choices until it is under the limit, and near
// it where its pages allow that; of those that are, the largest is kept.
func (s *Service) makeWithin(ctx context.Context, e *store.Export, m *making, write func() (*store.Pin, error)) (*store.Pin, error) {
	if m.request.Size != planning.Fit {
		return write()
	}
	f := fitting{limit: m.request.Limit}
	err := s.fit(ctx, e, m, write, &f)
	switch {
	case err != nil:
		f.drop()
		return nil, err
	case f.best == nil:
		return nil, s.tooLarge(m)
	}
	m.became, m.files, m.leftOut = f.made.became, f.made.files, f.made.leftOut
	return f.best, nil
}

// fitting is the best document so far of those that are under a limit.
type fitting struct {
	limit int64
	best  *store.Pin
	made  making
}

// consider keeps a document if it is under the limit and larger than the best so far, and
// releases the other one.
func (f *fitting) consider(file *store.Pin, m *making) {
	if file.Bytes > f.limit || file.Bytes <= f.bytes() {
		file.Release()
		return
	}
	f.drop()
	f.best, f.made = file, *m
}

func (f *fitting) drop() {
	if f.best != nil {
		f.best.Release()
	}
}

func (f *fitting) bytes() int64 {
	if f.best == nil {
		return 0
	}
	return f.best.Bytes
}

func (s *Service) fit(ctx context.Context, e *store.Export, m *making, write func() (*store.Pin, error), f *fitting) error {
	budget := f.limit - planning.Overhead
	for range mostWritings {
		fits := m.choose(budget)
		if fits {
			if err := s.refineQuality(ctx, m, budget); err != nil {
				return err
			}
		}
		e.Done = 0
		file, err := write()
		if err != nil {
			return err
		}
		bytes := file.Bytes
		f.consider(file, m)
		// What the document takes up besides its pages as they were measured is known now: it
		// is less than nothing where pages share much.
		next := f.limit - 1 - (bytes - m.bytes())
		isNear := float64(f.bytes()) >= nearEnough*float64(f.limit)
		isOver := bytes > f.limit
		if isNear || next == budget || (!isOver && m.isLargest()) || (isOver && !fits) {
			return nil
		}
		budget = next
	}
	return nil
}

// bytes are those of the pages, as they were measured.
func (m *making) bytes() (sum int64) {
	for _, v := range m.chosen {
		sum += v.Bytes
	}
	return sum
}

// isLargest tells whether every page is written as richly as it may be.
func (m *making) isLargest() bool {
	for i, page := range m.pages {
		if largest := page.pageOf(m.request.Sizing).Candidates()[0]; m.chosen[i].Bytes < largest.Bytes {
			return false
		}
	}
	return true
}

// refineQuality writes the pages that have the most to gain in better quality than was measured, for
// as long as there is room.
func (s *Service) refineQuality(ctx context.Context, m *making, bytes int64) error {
	clear(m.refined)
	room := bytes
	order := make([]int, len(m.chosen))
	gain := func(i int) int64 {
		return m.pages[i].pageOf(m.request.Sizing).Candidates()[0].Bytes - m.chosen[i].Bytes
	}
	for i, v := range m.chosen {
		room -= v.Bytes
		order[i] = i
	}
	slices.SortStableFunc(order, func(x, y int) int { return int(gain(y) - gain(x)) })
	order = order[:min(len(order), mostRefined)]
	order = slices.DeleteFunc(order, func(i int) bool { return gain(i) == 0 })
	for few := range slices.Chunk(order, refinedAtOnce) {
		if float64(room) < worthOfRoom*float64(m.request.Limit) {
			return nil
		}
		refined := make([]shrink.Refined, len(few))
		err := guard.Each(ctx, few, func(ctx context.Context, at, i int) (err error) {
			page := m.pages[i]
			if refined[at], err = s.refinePage(ctx, page, m.chosen[i], min(room/int64(len(few)), gain(i))); err != nil {
				return fmt.Errorf("write page %d of source %s more richly: %w", page.SourcePage, page.source.ID, err)
			}
			return nil
		})
		if err != nil {
			return err
		}
		for at, i := range few {
			room -= m.take(i, refined[at])
		}
	}
	return nil
}

// take takes a page as it was refined, and tells how many bytes more it has.
func (m *making) take(i int, refined shrink.Refined) (more int64) {
	more = refined.Bytes - m.chosen[i].Bytes
	m.chosen[i] = refined.Candidate
	if refined.Page != nil {
		m.refined[m.pages[i].ID] = *refined.Page
	}
	return more
}

func (s *Service) refinePage(ctx context.Context, page *measuredPage, v shrink.Candidate, room int64) (shrink.Refined, error) {
	if page.isInPlace() {
		refined, err := s.refineInPlace(ctx, page, v, room)
		return shrink.Refined{Candidate: refined}, err
	}
	pixels, dpi, err := s.pixelsOf(ctx, page.source, page.placedPage)
	if err != nil {
		return shrink.Refined{}, err
	}
	release, err := s.room.take(ctx, pixels)
	if err != nil {
		return shrink.Refined{}, err
	}
	defer release()
	var known *shrink.CompressedPage
	if written, ok := s.takeWritten(ofImageFile(page.source, page.placedPage), v.EncodingParams); ok {
		known = &written
	}
	return shrink.RefineQuality(pixels, dpi, v, known, room)
}

// tooLarge says that the document does not fit, and which pages take up the most.
func (s *Service) tooLarge(m *making) error {
	plan := planOf(m.pages, m.request.Sizing, s.reader.IsInstalled())
	sentences := []message.Text{message.Of("It cannot go below %s without making text hard to read, and is to be under %s.",
		inWords(plan.Smallest), inWords(m.request.Limit))}
	for _, help := range plan.Helps {
		sentences = append(sentences, message.Of("Page %d is %s.", m.request.number(help.Number-1), inWords(help.Bytes)))
	}
	return &problem.Error{Kind: problem.Invalid, Sentence: message.Sentences(sentences...)}
}

// inWords gives bytes as people read them, in decimal units.
func inWords(bytes int64) message.Text {
	switch {
	case bytes < 1000:
		return message.Of("%d B", bytes)
	case bytes < 999_500:
		return message.Of("%d KB", (bytes+500)/1000)
	}
	return message.Of("%.1f MB", float64(bytes)/1e6)
}
