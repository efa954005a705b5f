package app

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"dorbin/core/shrink"
	"dorbin/internal/store"
)

const (
	mostWritings  = 8
	nearEnough    = 0.95 // share of the limit from which a document is not made better
	mostRicher    = 4    // pages that are written more richly than was measured, to come near
	worthOfRoom   = 0.02 // share of the limit that is worth writing a page anew for
	overheadGuess = 2000 // bytes of a document besides its pages
)

// makeWithin writes the document. One that is to fit under a limit is weighed as it is
// written, and written again with other choices until it is under the limit, and near
// it where its pages allow that; of those that are, the heaviest is kept.
func (a *App) makeWithin(ctx context.Context, e *store.Export, m *making, write func() (store.Blob, error)) (best store.Blob, err error) {
	limit := m.request.Limit
	if m.request.Size != Fit {
		return write()
	}
	defer func() {
		if err != nil && best.SHA256 != "" { // cancelled, or worse: nothing is left behind
			err = errors.Join(err, a.store.ReleaseFile(context.WithoutCancel(ctx), best.SHA256))
		}
	}()
	var bestMade making
	budget := limit - overheadGuess
	for range mostWritings {
		fits := m.choose(budget)
		if fits {
			if err := a.enrich(ctx, m, budget); err != nil {
				return best, err
			}
		}
		e.Done = 0
		blob, err := write()
		if err != nil {
			return best, err
		}
		isBetter := blob.Bytes <= limit && blob.Bytes > best.Bytes
		if !isBetter && blob.SHA256 != best.SHA256 {
			err = a.store.ReleaseFile(ctx, blob.SHA256)
		}
		if isBetter {
			if best.SHA256 != "" {
				err = a.store.ReleaseFile(ctx, best.SHA256)
			}
			best, bestMade = blob, *m
		}
		if err != nil {
			return best, err
		}
		// What the document weighs besides its pages as they were measured is known now: it
		// is less than nothing where pages share much.
		next := limit - 1 - (blob.Bytes - m.bytes())
		isNear := float64(best.Bytes) >= nearEnough*float64(limit)
		isOver := blob.Bytes > limit
		if isNear || next == budget || (!isOver && m.isHeaviest()) || (isOver && !fits) {
			break
		}
		budget = next
	}
	if best.SHA256 == "" {
		return best, a.tooHeavy(m)
	}
	m.became, m.files = bestMade.became, bestMade.files
	return best, nil
}

// bytes are those of the pages, as they were measured.
func (m *making) bytes() (sum int64) {
	for _, v := range m.chosen {
		sum += v.Bytes
	}
	return sum
}

// isHeaviest tells whether every page is written as richly as it may be.
func (m *making) isHeaviest() bool {
	for i, page := range m.pages {
		if heaviest := page.versions(m.request.Sizing)[0]; m.chosen[i].Bytes < heaviest.Bytes {
			return false
		}
	}
	return true
}

// enrich writes the pages that have the most to gain more richly than was measured, for
// as long as there is room.
func (a *App) enrich(ctx context.Context, m *making, bytes int64) error {
	room := bytes
	order := make([]int, len(m.chosen))
	gain := func(i int) int64 { return m.pages[i].versions(m.request.Sizing)[0].Bytes - m.chosen[i].Bytes }
	for i, v := range m.chosen {
		room -= v.Bytes
		order[i] = i
	}
	slices.SortStableFunc(order, func(x, y int) int { return int(gain(y) - gain(x)) })
	for _, i := range order[:min(len(order), mostRicher)] {
		if float64(room) < worthOfRoom*float64(m.request.Limit) || gain(i) == 0 {
			return nil
		}
		page := m.pages[i]
		richer, err := a.richer(ctx, page, m.chosen[i], min(room, gain(i)))
		if err != nil {
			return fmt.Errorf("write page %d of source %s more richly: %w", page.SourcePage, page.source.ID, err)
		}
		room -= richer.Bytes - m.chosen[i].Bytes
		m.chosen[i] = richer
	}
	return nil
}

func (a *App) richer(ctx context.Context, page *weighed, v shrink.Version, room int64) (shrink.Version, error) {
	if page.isInPlace() {
		return a.richerInPlace(ctx, page, v, room)
	}
	pixels, dpi, err := a.pixelsOf(ctx, page.source, page.placedPage)
	if err != nil {
		return v, err
	}
	return shrink.Richer(pixels, dpi, v, room)
}

// tooHeavy says that the document does not fit, and which pages weigh the most.
func (a *App) tooHeavy(m *making) error {
	plan := planOf(m.pages, m.request.Sizing)
	words := ""
	for _, help := range plan.Helps {
		words += fmt.Sprintf(" Page %d weighs %s.", m.request.number(help.Number-1), inWords(help.Bytes))
	}
	return &exportProblem{sentence: fmt.Sprintf(
		"It cannot be made lighter than %s without hurting what is to be read, and is to be under %s.%s",
		inWords(plan.Lightest), inWords(m.request.Limit), words)}
}

// inWords gives bytes as people read them, in decimal units.
func inWords(bytes int64) string {
	switch {
	case bytes < 1000:
		return fmt.Sprintf("%d B", bytes)
	case bytes < 999_500:
		return fmt.Sprintf("%d KB", (bytes+500)/1000)
	}
	return fmt.Sprintf("%.1f MB", float64(bytes)/1e6)
}
