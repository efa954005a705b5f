package export

import (
	"context"
	"io"
	"math"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// cutAway gives a document without what lies wholly outside the crops of its pages,
// or the document itself where no page is cropped.
func (s *Service) cutAway(ctx context.Context, source store.Source, doc *sources.PDF, placements []pdf.Placement) (*pdf.Document, error) {
	cuts := cutsOf(doc.Document, placements)
	if len(cuts) == 0 {
		return doc.Document, nil
	}
	file, err := s.store.Write(func(w io.Writer) error {
		return s.engine.CutAway(ctx, s.store.FilePath(doc.SHA256), cuts, w)
	})
	if err != nil {
		return nil, err
	}
	defer file.Release()
	return s.sources.Parse(ctx, file.SHA256, len(source.Pages))
}

func cutsOf(doc *pdf.Document, placements []pdf.Placement) []render.Cut {
	var cuts []render.Cut
	for _, placement := range placements {
		if kept, content, ok := doc.Reshaped(placement); ok {
			cuts = append(cuts, render.Cut{Page: placement.Page + 1, Kept: kept, Content: content, Seen: surelySeen(placement.Framing)})
		}
	}
	return cuts
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
