package checking

import (
	"context"
	"fmt"
	"image"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// How confident the recognition of text must be. On the test pictures of an image library, 42
// pages of books, letters and tables in all four ways, what it told of those whose lines leave
// it open was right from 3 on, and of others wrong at times up to 7.
const (
	recognised        = 3.0
	plainlyRecognised = 7.0

	recognisedWidth = 1000 // pixels of a paper laid flat
)

// recogniseStanding has the recognition of text tell which way up a page stands: a scan whose
// lines leave it open, and every photograph, as what is no writing looks like lines at times. A
// paper in a photograph is laid flat before. Without the program, what the lines tell remains.
func (s *Service) recogniseStanding(
	ctx context.Context, source store.Source, number int, picture image.Image, analysis *check.PageAnalysis,
) error {
	isPhotograph := sources.IsPhotograph(source, number)
	if !s.reader.IsInstalled() || (!isPhotograph && analysis.Standing.Sure >= check.PlainlyTurned) {
		return nil
	}
	standing := &analysis.Standing
	if page := source.Pages[number-1]; !page.Paper.IsZero() {
		standing = &analysis.FlatStanding
		flat := packet.Adjustments{Paper: page.Paper, Flat: page.Paper.FlatSize(page.Size, page.Scanned)}
		var err error
		if picture, err = s.pictures.Image(ctx, s.sources.Page(source, number, flat, 0), recognisedWidth); err != nil {
			return fmt.Errorf("lay page %d flat: %w", number, err)
		}
	}
	orientation, ok, err := s.reader.Orientation(ctx, picture)
	switch {
	case err != nil:
		return fmt.Errorf("recognise which way up page %d stands: %w", number, err)
	case ok && orientation.Confidence >= plainlyRecognised:
		*standing = raster.Standing{Turn: orientation.Turn, Sure: 1}
	case ok && orientation.Confidence >= recognised:
		*standing = raster.Standing{Turn: orientation.Turn, Sure: raster.SureStanding}
	case isPhotograph:
		analysis.Standing = raster.Standing{}
	}
	return nil
}
