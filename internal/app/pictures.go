package app

import (
	"context"
	"fmt"

	"dorbin/core/geometry"
	"dorbin/core/packet"
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
	if page.IsBlank() {
		return a.pictures.Blank(ctx, page.Size(), width)
	}
	return a.picture(ctx, string(page.Source), page.SourcePage, page.Look, page.Turn, width)
}

// SourcePicture returns the path of a JPEG of a source's page, counted from 1,
// with a look that some page has or may get. The size of the paper
// laid flat follows from the outline.
func (a *App) SourcePicture(ctx context.Context, sourceID string, number int, look packet.Look, width int) (string, error) {
	source, err := a.readySource(ctx, sourceID, number)
	if err != nil {
		return "", err
	}
	if !look.Outline.IsZero() {
		if err := look.Outline.Check(); err != nil {
			return "", fmt.Errorf("%w: %w", packet.ErrInvalid, err)
		}
		page := source.Pages[number-1]
		look.Flat = look.Outline.FlatSize(page.Size, page.Scanned)
	}
	if !look.Crop.IsZero() {
		if look.Crop, err = geometry.CropOf(look.Crop, look.Framing(source.Pages[number-1].Size, 0).Flat); err != nil {
			return "", fmt.Errorf("%w: %w", packet.ErrInvalid, err)
		}
	}
	if err := look.Tone.Check(); err != nil {
		return "", fmt.Errorf("%w: %w", packet.ErrInvalid, err)
	}
	return a.picture(ctx, sourceID, number, look, 0, width)
}

func (a *App) picture(ctx context.Context, sourceID string, number int, look packet.Look, turn, width int) (string, error) {
	source, err := a.readySource(ctx, sourceID, number)
	if err != nil {
		return "", err
	}
	return a.pictures.Picture(ctx, a.renderPage(source, number, look, turn), width)
}
