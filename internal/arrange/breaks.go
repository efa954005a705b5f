package arrange

import (
	"context"
	"math"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/guard"
)

// PageBreaks is where a page is best cut across so that its pieces have room on sheets.
type PageBreaks struct {
	Page   packet.PageID `json:"page"`
	Width  float64       `json:"width" doc:"Of what is kept of the page, as it stands, in points."`
	Height float64       `json:"height"`
	Breaks []float64     `json:"breaks" nullable:"false" doc:"Shares of that height, from the top; none where it has room on one sheet."`
	Unread bool          `json:"unread,omitempty" doc:"The page is damaged: nothing is known of it."`
}

// longestDrawn is how many pixels a picture has at most in which breaks are looked for.
const longestDrawn = 40_000_000

// Breaks tells of pages where they are best cut across so that each piece, as wide as the paper, is no higher.
func (s *Service) Breaks(ctx context.Context, packetID string, ids []packet.PageID, paper geometry.Size) ([]PageBreaks, error) {
	defer s.runner.Foreground()()
	pages, err := s.uncropped(ctx, packetID, ids)
	if err != nil {
		return nil, err
	}
	out := make([]PageBreaks, len(pages))
	err = guard.Each(ctx, pages, func(ctx context.Context, i int, page uncroppedPage) error {
		cut := page.Framing().Cut()
		size := cut.Size()
		out[i] = PageBreaks{Page: page.ID, Width: size.Width, Height: size.Height, Breaks: []float64{}}
		asWide := size.Height * paper.Width / size.Width // its height where it is as wide as the paper
		if page.IsBlank() || asWide <= paper.Height+geometry.PaperTolerance {
			return nil
		}
		page.render.Adjustments.Crop = cut.Crop
		width := min(cropWidth, int(math.Sqrt(longestDrawn*size.Width/size.Height)))
		picture, err := s.pictures.Image(ctx, page.render, max(1, width))
		if err != nil {
			out[i].Unread = true
			return ctx.Err()
		}
		if breaks := raster.FindBreaks(picture, paper.Height/paper.Width); breaks != nil {
			out[i].Breaks = breaks
		}
		return nil
	})
	return out, err
}
