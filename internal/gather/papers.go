package gather

import (
	"context"
	"fmt"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/jobs"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// searchPapers looks for a paper in each page that is a photograph, and for two
// facing pages in it. What it cannot draw, it leaves alone: the page shows what is wrong with it.
func (s *Service) searchPapers(ctx context.Context, source *store.Source) error {
	for i := range source.Pages {
		if !sources.IsPhotograph(*source, i+1) {
			continue
		}
		picture, err := s.pictures.Upright(ctx, s.sources.Page(*source, i+1, packet.Adjustments{}, 0), render.ProxyEdge)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if err != nil {
			continue
		}
		page := &source.Pages[i]
		if found, ok := raster.FindOutline(picture); ok && found.Score >= raster.Sure {
			page.Paper = found.Outline
		}
		page.Fold, _ = raster.FindFold(picture, page.Paper)
	}
	return nil
}

// mayShowFacingPages tells of a page that is looked at in the background: a picture that is wider
// than high, and no photograph, which was looked at when it came in.
func mayShowFacingPages(source store.Source, number int) bool {
	size := source.Pages[number-1].Size
	return !sources.IsPDF(source) && size.Width > size.Height && !sources.IsPhotograph(source, number)
}

// searchFolds looks for two facing pages in the scans of a source.
func (s *Service) searchFolds(ctx context.Context, task *jobs.Task) error {
	source, err := s.store.Source(ctx, task.Key)
	if err != nil {
		return store.UnlessGone(err)
	}
	found := map[int]raster.Fold{}
	for i := range source.Pages {
		if !mayShowFacingPages(source, i+1) {
			continue
		}
		if err := task.WaitIdle(ctx); err != nil {
			return err
		}
		picture, err := s.pictures.Upright(ctx, s.sources.Page(source, i+1, packet.Adjustments{}, 0), render.ProxyEdge)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if err != nil {
			continue
		}
		if fold, ok := raster.FindFold(picture, source.Pages[i].Paper); ok {
			found[i] = fold
		}
	}
	return store.UnlessGone(s.keepFolds(ctx, source.ID, found))
}

// keepFolds keeps the folds that were found, by the places of their pages.
func (s *Service) keepFolds(ctx context.Context, id string, found map[int]raster.Fold) error {
	if len(found) == 0 {
		return nil
	}
	source, err := s.store.Source(ctx, id) // as it is now
	if err != nil {
		return err
	}
	source.Pages = slices.Clone(source.Pages) // the store's own are not to be changed
	for i, fold := range found {
		source.Pages[i].Fold = fold
	}
	if err := s.store.UpdateSource(ctx, source); err != nil {
		return err
	}
	s.changed(source.Packet)
	return nil
}

// layPapersFlat gives new pages the outlines that were found in their source.
func (s *Service) layPapersFlat(ctx context.Context, source store.Source, added []packet.PageID) error {
	if !slices.ContainsFunc(source.Pages, func(page store.SourcePage) bool { return !page.Paper.IsZero() }) {
		return nil
	}
	_, err := s.packets.Do(ctx, source.Packet, func(p store.Packet) ([]packet.Command, error) {
		var commands []packet.Command
		for _, id := range added {
			page, ok := p.State.Find(id)
			if !ok || string(page.Source) != source.ID {
				continue
			}
			if paper := source.Pages[page.SourcePage-1].Paper; !paper.IsZero() {
				commands = append(commands, packet.Outline{Selected: packet.On(id), Outline: &paper})
			}
		}
		return commands, nil
	})
	return err
}

// Papers is what is found in a picture.
type Papers struct {
	Outline *geometry.PaperQuad `json:"outline,omitempty" doc:"Where a paper seems to lie."`
	Sure    bool                `json:"sure" doc:"Whether the outline is more than a guess."`
	Fold    *raster.Fold        `json:"fold,omitempty" doc:"Where two facing pages seem to meet, within the outline."`
}

// FindPapers looks for a paper in a source's page, counted from 1, and for a
// fold within it or within the given outline.
func (s *Service) FindPapers(ctx context.Context, sourceID string, number int, within geometry.PaperQuad) (Papers, error) {
	source, err := s.sources.Ready(ctx, sourceID, number)
	if err != nil {
		return Papers{}, err
	}
	picture, err := s.pictures.Upright(ctx, s.sources.Page(source, number, packet.Adjustments{}, 0), render.ProxyEdge)
	if err != nil {
		return Papers{}, fmt.Errorf("draw page %d of source %s: %w", number, sourceID, err)
	}
	var papers Papers
	if found, ok := raster.FindOutline(picture); ok {
		papers.Outline, papers.Sure = &found.Outline, found.Score >= raster.Sure
	}
	if within.IsZero() && papers.Sure {
		within = *papers.Outline
	}
	if fold, ok := raster.FindFold(picture, within); ok {
		papers.Fold = &fold
	}
	return papers, nil
}
