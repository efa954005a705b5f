package packets

import (
	"context"
	"errors"
	"fmt"
	"math"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/store"
)

// PagePicture returns the path of a JPEG of a page as it now stands, at least
// width pixels wide, up to what render.Widths allows.
func (s *Service) PagePicture(ctx context.Context, packetID string, id packet.PageID, width int) (string, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return "", err
	}
	page, ok := p.State.Find(id)
	if !ok {
		return "", fmt.Errorf("%w: page %s", store.ErrNotFound, id)
	}
	if page.IsBlank() {
		return s.pictures.Blank(ctx, page.Size(), width)
	}
	return s.picture(ctx, string(page.Source), page.SourcePage, page.Adjustments, page.Turn, width)
}

// SourcePicture returns the path of a JPEG of a source's page, counted from 1,
// with adjustments that some page has or may get, before mirror and turn.
func (s *Service) SourcePicture(ctx context.Context, sourceID string, number int, view Adjustments, width int) (string, error) {
	source, err := s.sources.Ready(ctx, sourceID, number)
	if err != nil {
		return "", err
	}
	adjustments, err := view.of(source.Pages[number-1])
	if err != nil {
		return "", problem.Because(problem.Invalid, err)
	}
	return s.picture(ctx, sourceID, number, adjustments, 0, width)
}

// of gives the adjustments for a page of a source. The size of the paper laid flat follows from
// the outline.
func (l Adjustments) of(page store.SourcePage) (packet.Adjustments, error) {
	adjustments := packet.Adjustments{
		Paper: orZero(l.Paper), Straighten: l.Straighten, Sheet: orZero(l.Sheet), Clean: orZero(l.Clean),
		Patches: packet.PatchesOf(l.Patches), Tone: l.Tone, Annotations: l.Annotations,
	}
	if len(l.Patches) > packet.MostPatches {
		return adjustments, fmt.Errorf("a page has at most %d places that are painted over", packet.MostPatches)
	}
	if !(math.Abs(l.Straighten) <= geometry.SteepestTilt) {
		return adjustments, fmt.Errorf("a page is straightened by %.0f degrees at most", geometry.SteepestTilt)
	}
	if !adjustments.Paper.IsZero() {
		if err := adjustments.Paper.Check(); err != nil {
			return adjustments, err
		}
		adjustments.Flat = adjustments.Paper.FlatSize(page.Size, page.Scanned)
	}
	if l.Crop != nil {
		var err error
		if adjustments.Crop, err = geometry.CropOf(*l.Crop, adjustments.Framing(page.Size, 0).Flat); err != nil {
			return adjustments, err
		}
	}
	return adjustments, errors.Join(adjustments.Sheet.Check(), adjustments.Tone.Check(), adjustments.Annotations.Check())
}

func (s *Service) picture(ctx context.Context, sourceID string, number int, adjustments packet.Adjustments, turn, width int) (string, error) {
	source, err := s.sources.Ready(ctx, sourceID, number)
	if err != nil {
		return "", err
	}
	return s.pictures.Picture(ctx, s.sources.Page(source, number, adjustments, turn), width)
}
