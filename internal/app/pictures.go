package app

import (
	"context"
	"fmt"

	"dorbin/core/packet"
	"dorbin/internal/intake"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// PagePicture returns the path of a JPEG of a page as it now stands, at least
// width pixels wide, up to what render.Widths allows.
func (a *App) PagePicture(ctx context.Context, packetID string, id packet.PageID, width int) (string, error) {
	p, err := a.store.Packet(ctx, packetID)
	if err != nil {
		return "", err
	}
	page, ok := p.State.Find(id)
	if !ok {
		return "", fmt.Errorf("%w: page %s", ErrNotFound, id)
	}
	return a.picture(ctx, string(page.Source), page.SourcePage, page.Turn, width)
}

// SourcePicture returns the path of a JPEG of a source's page, counted from 1,
// as it came in.
func (a *App) SourcePicture(ctx context.Context, sourceID string, number, width int) (string, error) {
	return a.picture(ctx, sourceID, number, 0, width)
}

func (a *App) picture(ctx context.Context, sourceID string, number, turn, width int) (string, error) {
	source, err := a.store.Source(ctx, sourceID)
	if err != nil {
		return "", err
	}
	if number < 1 || number > len(source.Pages) || source.State != store.SourceReady {
		return "", fmt.Errorf("%w: page %d of source %s", ErrNotFound, number, sourceID)
	}
	return a.pictures.Picture(ctx, render.Page{
		File: source.Working, Path: a.store.Files.Path(source.Working),
		IsPDF:  source.Kind == string(intake.PDF),
		Number: number, Size: source.Pages[number-1].Size, Turn: turn,
	}, width)
}
