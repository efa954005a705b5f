package sources

import (
	"context"
	"fmt"

	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/internal/intake"
	"dorbin/internal/store"
)

// Cropped gives what is seen of a page of an image file that is only cropped, with every pixel the same. It is not
// ok where its pixels have to be written anew.
func (o *Opener) Cropped(ctx context.Context, source store.Source, page packet.Page) (cropped pdf.Image, ok bool, err error) {
	part := page.OnlyCrop()
	if part.IsZero() || IsPDF(source) {
		return cropped, false, nil
	}
	cropped, err = intake.Crop(ctx, o.pool, o.store.FilePath(source.Working), page.SourcePage, part)
	switch {
	case err == nil:
		return cropped, true, nil
	case ctx.Err() != nil:
		return cropped, false, fmt.Errorf("crop page %d of source %s: %w", page.SourcePage, source.ID, ctx.Err())
	}
	return cropped, false, nil // who writes it anew says what is wrong with it
}
