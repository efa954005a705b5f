package sources

import (
	"context"
	"errors"
	"fmt"
	"image"
	"io"
	"log/slog"

	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/internal/intake"
	"dorbin/internal/render"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// Opener opens the sources of a data folder. It is safe for concurrent use.
type Opener struct {
	store  *store.Store
	engine *render.Engine
	pool   *worker.Pool
	log    *slog.Logger
}

// NewOpener returns an opener of a data folder's sources.
func NewOpener(store *store.Store, engine *render.Engine, pool *worker.Pool, log *slog.Logger) *Opener {
	return &Opener{store: store, engine: engine, pool: pool, log: log}
}

// IsPDF tells whether a source's pages are read from a PDF.
func IsPDF(source store.Source) bool {
	return source.Kind == string(intake.PDF) || source.Kind == string(intake.Office)
}

// IsPhotograph tells whether a page of a source, counted from 1, may have been taken by a
// camera: it is of a kind that cameras make, and does not have the resolution of a scan.
// Pictures of a screen and drawings are of other kinds.
func IsPhotograph(source store.Source, number int) bool {
	if number < 1 || number > len(source.Pages) || source.Pages[number-1].Scanned {
		return false
	}
	kind := intake.Kind(source.Kind)
	return kind == intake.JPEG || kind == intake.HEIC || kind == intake.WebP
}

// Ready reads a source that has a page of this number, counted from 1. It returns
// store.ErrNotFound for one that has not, or is locked.
func (o *Opener) Ready(ctx context.Context, id string, number int) (store.Source, error) {
	source, err := o.store.Source(ctx, id)
	if err != nil {
		return source, err
	}
	if number < 1 || number > len(source.Pages) || source.State != store.SourceReady {
		return source, fmt.Errorf("%w: page %d of source %s", store.ErrNotFound, number, id)
	}
	return source, nil
}

// Page is a source's page, counted from 1, as pictures are made of it.
func (o *Opener) Page(source store.Source, number int, adjustments packet.Adjustments, turn int) render.Page {
	return render.Page{
		File: source.Working, Path: o.store.FilePath(source.Working), IsPDF: IsPDF(source), IsJPEG: IsJPEG(source),
		Number: number, Size: source.Pages[number-1].Size, Adjustments: adjustments, Turn: turn,
	}
}

// DecodeImage has a worker decode a page of an image file, counted from 1: upright, at most
// maxEdge pixels long.
func (o *Opener) DecodeImage(ctx context.Context, path string, page, maxEdge int) (image.Image, error) {
	return intake.DecodeImage(ctx, o.pool, path, page, maxEdge)
}

// Measured is what is known of the pages of a PDF that was parsed.
type Measured struct {
	pdf.PageBytes
	Headings []string // the titles of the document's bookmarks that open the page
}

// Measure tells what is known of each page of a source's PDF, and gives the file that parsed,
// pinned: the source's own, or a copy that PDFium has repaired.
func (o *Opener) Measure(ctx context.Context, source store.Source) (pages []Measured, file *store.Pin, err error) {
	pages, err = o.parsedPages(ctx, source.Working, len(source.Pages))
	if err == nil {
		return pages, o.store.Pin(source.Working), nil
	}
	if worker.GaveUp(err) || ctx.Err() != nil {
		return nil, nil, err
	}
	copied, rewriteErr := o.store.Write(func(w io.Writer) error {
		return o.engine.Rewrite(ctx, o.store.FilePath(source.Working), "", w)
	})
	if rewriteErr != nil {
		return nil, nil, errors.Join(err, rewriteErr)
	}
	pages, again := o.parsedPages(ctx, copied.SHA256, len(source.Pages))
	if again != nil {
		copied.Release()
		return nil, nil, errors.Join(err, again)
	}
	o.log.Info("source repaired", "packet", source.Packet, "source", source.ID)
	return pages, copied, nil
}

// parsedPages has a worker parse a stored PDF that has so many pages.
func (o *Opener) parsedPages(ctx context.Context, sum string, count int) ([]Measured, error) {
	known, err := o.try(ctx, sum)
	if err == nil && len(known.Sizes) != count {
		err = fmt.Errorf("the parser finds %d pages where there are %d", len(known.Sizes), count)
	}
	pages := make([]Measured, len(known.Sizes))
	for i, size := range known.Sizes {
		pages[i].PageBytes = size
		if i < len(known.Headings) {
			pages[i].Headings = known.Headings[i]
		}
	}
	return pages, err
}
