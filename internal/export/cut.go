package export

import (
	"context"
	"io"
	"math"
	"slices"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// cutAway gives a document without what lies wholly outside the crops of its pages,
// or the document itself where no page is cropped.
func (s *Service) cutAway(ctx context.Context, d *document, file *store.Pin, placements []pdf.Placement) (*store.Pin, error) {
	if !slices.ContainsFunc(placements, func(p pdf.Placement) bool { return !p.Framing.Cut().Crop.IsZero() || p.Framing.Straighten != 0 }) {
		return file, nil
	}
	reshaped, err := s.sources.Reshaped(ctx, file.SHA256, placements)
	if err != nil {
		return nil, err
	}
	var cuts []render.Cut
	for i, placement := range placements {
		if r := reshaped[i]; r.IsCut {
			cuts = append(cuts, render.Cut{Page: placement.Page + 1, Kept: r.Seen, Content: r.Content, Seen: surelySeen(placement.Framing)})
		}
	}
	if len(cuts) == 0 {
		return file, nil
	}
	cut, err := s.store.Write(func(w io.Writer) error {
		return s.engine.CutAway(ctx, s.store.FilePath(file.SHA256), cuts, w)
	})
	if err != nil {
		return nil, err
	}
	d.pin(cut)
	return cut, nil
}

// surelySeen is what of the flat page is seen before it is straightened, as
// fractions.
func surelySeen(f geometry.Framing) geometry.Box {
	kept := f.Seen()
	size := kept.Size()
	tilt := math.Abs(math.Sin(f.Straighten*math.Pi/180)) * math.Max(f.Flat.Width, f.Flat.Height)
	if 2*tilt >= math.Min(size.Width, size.Height) {
		return geometry.Box{}
	}
	kept = kept.Grown(-tilt)
	return geometry.Box{
		X0: kept.X0 / f.Flat.Width, Y0: kept.Y0 / f.Flat.Height,
		X1: kept.X1 / f.Flat.Width, Y1: kept.Y1 / f.Flat.Height,
	}
}
