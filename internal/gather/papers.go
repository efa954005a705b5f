package gather

import (
	"context"
	"fmt"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// searchPapers looks for a paper in each page that is a photograph, and for two
// facing pages in each picture that is wider than high. What it cannot draw,
// it leaves alone: the page shows what is wrong with it.
func (s *Service) searchPapers(ctx context.Context, source *store.Source) error {
	if sources.IsPDF(*source) {
		return nil
	}
	for i := range source.Pages {
		page := &source.Pages[i]
		lying := page.Size.Width > page.Size.Height
		if page.Scanned && !lying {
			continue
		}
		picture, err := s.pictures.Upright(ctx, s.sources.Page(*source, i+1, packet.Adjustments{}, 0), render.ProxyEdge)
		if ctx.Err() != nil {
			return ctx.Err()
		}
		if err != nil {
			continue
		}
		if sources.IsPhotograph(*source, i+1) {
			if found, ok := raster.FindOutline(picture); ok && found.Score >= raster.Sure {
				page.Paper = found.Outline
			}
		}
		page.Fold, _ = raster.FindFold(picture, page.Paper)
	}
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
