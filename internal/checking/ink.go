package checking

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"image"
	"slices"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// compareInk compares the ink of the scans of a packet that look alike, so that pages are told to
// be the same only if they are. It goes on at the next start where it was stopped.
func (s *Service) compareInk(ctx context.Context, task *jobs.Task) error {
	pairs, sources, err := s.uncompared(ctx, task.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	slices.SortStableFunc(pairs, func(a, b check.Pair) int { // the pairs of a scan together: its ink is remembered
		return cmp.Or(cmp.Compare(a.First.Source, b.First.Source), cmp.Compare(a.First.Page, b.First.Page))
	})
	inks := inkCache{}
	for _, pair := range pairs {
		if err := task.WaitIdle(ctx); err != nil {
			return err
		}
		progress, err := json.Marshal(pair)
		if err != nil {
			return fmt.Errorf("encode which scans are compared: %w", err)
		}
		if err := task.Note(ctx, string(progress)); err != nil {
			return err
		}
		same, err := s.hasSameInk(ctx, inks, sources, pair)
		if err != nil {
			return err
		}
		if err := s.store.AddSameInk(ctx, pair.First, pair.Second, same); err != nil {
			return store.UnlessGone(err)
		}
	}
	if len(pairs) > 0 {
		s.changed(task.Key)
	}
	return nil
}

// giveUpComparingInk takes the scans that could not be compared for different ones, and goes on.
func (s *Service) giveUpComparingInk(ctx context.Context, failed jobs.Taken, _ error) error {
	var pair check.Pair
	if err := json.Unmarshal([]byte(failed.Progress), &pair); err != nil {
		return nil //nolint:nilerr // it had not begun with any
	}
	if err := s.store.AddSameInk(ctx, pair.First, pair.Second, false); err != nil {
		return store.UnlessGone(err)
	}
	return s.runner.Add(ctx, failed.Packet, failed.Job)
}

// uncompared are the scans of a packet that look alike and whose ink was not compared yet; none
// before all pages are analysed.
func (s *Service) uncompared(ctx context.Context, packetID string) ([]check.Pair, map[packet.SourceID]store.Source, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return nil, nil, err
	}
	known, waiting, err := s.known(ctx, p, all)
	if err != nil || waiting > 0 {
		return nil, nil, err
	}
	sources := map[packet.SourceID]store.Source{}
	for _, source := range all {
		sources[packet.SourceID(source.ID)] = source
	}
	return uncomparedOf(check.SurveyOf(p.State, known), known), sources, nil
}

func uncomparedOf(survey check.Survey, known check.Known) (pairs []check.Pair) {
	for _, pair := range survey.AlikeScans() {
		if _, compared := known.SameInk(pair); !compared {
			pairs = append(pairs, pair)
		}
	}
	return pairs
}

// inkCache remembers the ink of scans, of which each may be compared with many.
type inkCache map[check.Scan]*check.Ink

// mostInks is how many are remembered, each of 2 MB; a cache that is full starts anew.
const mostInks = 24

// hasSameInk compares two scans. What cannot be drawn is not the same as anything.
func (s *Service) hasSameInk(ctx context.Context, inks inkCache, sources map[packet.SourceID]store.Source, pair check.Pair) (bool, error) {
	first, err := s.inkOf(ctx, inks, sources, pair.First)
	if err == nil {
		var second *check.Ink
		if second, err = s.inkOf(ctx, inks, sources, pair.Second); err == nil {
			return slices.ContainsFunc(pair.Turns, func(turn int) bool {
				return check.CompareInk(first.Turned(turn), second).IsSame
			}), nil
		}
	}
	var broken *problem.Error
	if errors.As(err, &broken) && !worker.IsUnavailable(err) {
		return false, ctx.Err()
	}
	return false, err
}

func (s *Service) inkOf(ctx context.Context, inks inkCache, sources map[packet.SourceID]store.Source, scan check.Scan) (*check.Ink, error) {
	if known, ok := inks[scan]; ok {
		return known, nil
	}
	picture, err := s.drawForInk(ctx, sources[scan.Source], scan.Page, packet.Adjustments{})
	if err != nil {
		return nil, err
	}
	if len(inks) >= mostInks {
		clear(inks)
	}
	inks[scan] = check.FindInk(picture)
	return inks[scan], nil
}

// drawForInk draws a page, before its turn, at the resolution at which ink is compared.
func (s *Service) drawForInk(ctx context.Context, source store.Source, number int, adjusted packet.Adjustments) (image.Image, error) {
	size := source.Pages[number-1].Size
	edge := int(max(size.Width, size.Height) / geometry.PointsPerInch * check.InkDPI)
	picture, err := s.pictures.Upright(ctx, s.sources.Page(source, number, adjusted, 0), max(1, edge))
	if err != nil {
		return nil, fmt.Errorf("draw page %d to compare it: %w", number, err)
	}
	return picture, nil
}

// Comparison is what is different about two pages.
type Comparison struct {
	IsSame      bool           `json:"isSame" doc:"Their ink is the same."`
	Differences []geometry.Box `json:"differences" nullable:"false" doc:"Where it is not: on the second page, before its turn and mirror, as shares of its width and height."`
}

// ComparePages tells what is different about two pages of a packet, as they are seen.
func (s *Service) ComparePages(ctx context.Context, packetID string, first, second packet.PageID) (Comparison, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Comparison{}, err
	}
	var pictures [2]image.Image
	var turns [2]int
	for i, id := range [2]packet.PageID{first, second} {
		if pictures[i], turns[i], err = s.drawPageForInk(ctx, p.State, all, id); err != nil {
			return Comparison{}, err
		}
	}
	turned := raster.Turn(pictures[0], (turns[0]-turns[1]+360)%360)
	compared := check.CompareInk(check.FindInk(turned), check.FindInk(pictures[1]))
	return Comparison{compared.IsSame, append([]geometry.Box{}, compared.Differences...)}, nil
}

// drawPageForInk draws a page of a packet as it is adjusted, before its turn, which it gives too.
func (s *Service) drawPageForInk(ctx context.Context, p packet.Packet, sources []store.Source, id packet.PageID) (image.Image, int, error) {
	for _, page := range p.Pages() {
		if page.ID != id {
			continue
		}
		for _, source := range sources {
			if source.ID == string(page.Source) {
				picture, err := s.drawForInk(ctx, source, page.SourcePage, page.Adjustments)
				return picture, page.Turn, err
			}
		}
	}
	return nil, 0, problem.New(problem.Missing, "the page is not in the packet, or is blank")
}
