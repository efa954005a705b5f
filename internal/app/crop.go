package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/jpeg"
	"io"
	"math"
	"runtime"
	"sync"

	"golang.org/x/sync/errgroup"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/core/raster"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// cropWidth is the width, in pixels, of the pictures in which content is looked
// for and that are laid on each other.
const cropWidth = 960

const overlayQuality = 85

// PageContent is where on a page there is anything, and what is kept of it, in
// points of the page as it would stand uncropped.
type PageContent struct {
	Page    packet.PageID `json:"page"`
	Width   float64       `json:"width" doc:"Of the page as it would stand uncropped, in points."`
	Height  float64       `json:"height"`
	Crop    *geometry.Box `json:"crop,omitempty" doc:"What is kept of it now."`
	Content *geometry.Box `json:"content,omitempty" doc:"Around all that is on it; none on an empty page."`
	Unread  bool          `json:"unread,omitempty" doc:"The page is damaged: nothing is known of its content."`
}

// knownContent remembers where content was found, by the page's look.
type knownContent struct {
	mutex sync.Mutex
	boxes map[string]geometry.Box
}

const mostContents = 50_000

func (k *knownContent) find(name string, find func() (geometry.Box, error)) (geometry.Box, error) {
	k.mutex.Lock()
	box, ok := k.boxes[name]
	k.mutex.Unlock()
	if ok {
		return box, nil
	}
	box, err := find()
	if err != nil {
		return box, err
	}
	k.mutex.Lock()
	defer k.mutex.Unlock()
	if k.boxes == nil || len(k.boxes) >= mostContents {
		k.boxes = map[string]geometry.Box{}
	}
	k.boxes[name] = box
	return box, nil
}

// Contents tells of pages where there is anything on them.
func (a *App) Contents(ctx context.Context, packetID string, ids []packet.PageID) ([]PageContent, error) {
	defer a.urgent.begin()()
	pages, err := a.uncropped(ctx, packetID, ids)
	if err != nil {
		return nil, err
	}
	out := make([]PageContent, len(pages))
	err = onAllCores(pages, func(i int, page uncroppedPage) error {
		out[i] = PageContent{Page: page.ID, Width: page.size.Width, Height: page.size.Height}
		if crop := page.Framing().StandingCrop(); !crop.IsZero() {
			out[i].Crop = &crop
		}
		if page.IsBlank() {
			return nil
		}
		content, err := a.contentOf(ctx, page, nil)
		switch {
		case err != nil:
			out[i].Unread = true
		case !content.IsZero():
			out[i].Content = &content
		}
		return ctx.Err()
	})
	return out, err
}

// Overlay draws pages seen through each other, as they would stand uncropped and at
// the size of the first, as a JPEG: the darkest of all of them, or their average.
// What cannot be drawn is left out.
func (a *App) Overlay(ctx context.Context, packetID string, ids []packet.PageID, average bool) ([]byte, error) {
	defer a.urgent.begin()()
	pages, err := a.uncropped(ctx, packetID, ids)
	if err != nil {
		return nil, err
	}
	if len(pages) == 0 {
		return nil, fmt.Errorf("%w: no page is named", packet.ErrInvalid)
	}
	size := pages[0].size
	stack := raster.NewStack(cropWidth, max(1, int(math.Round(cropWidth*size.Height/size.Width))))
	var adding sync.Mutex
	err = onAllCores(pages, func(_ int, page uncroppedPage) error {
		if page.IsBlank() {
			return nil
		}
		picture, err := a.pictures.Image(ctx, page.render, cropWidth)
		if err != nil {
			return ctx.Err()
		}
		if _, err := a.contentOf(ctx, page, picture); err != nil {
			return err
		}
		adding.Lock()
		defer adding.Unlock()
		stack.Add(picture)
		return nil
	})
	if err != nil {
		return nil, err
	}
	shown := stack.Darkest()
	if average {
		shown = stack.Average()
	}
	var out bytes.Buffer
	if err := jpeg.Encode(&out, shown, &jpeg.Options{Quality: overlayQuality}); err != nil {
		return nil, fmt.Errorf("encode pages seen through each other: %w", err)
	}
	return out.Bytes(), nil
}

// uncroppedPage is a page with its size and, unless it is blank, its picture without
// its crop.
type uncroppedPage struct {
	packet.Page
	size   geometry.Size
	render render.Page
}

// uncropped finds pages by their ids, in the order in which they are named.
func (a *App) uncropped(ctx context.Context, packetID string, ids []packet.PageID) ([]uncroppedPage, error) {
	p, err := a.store.Packet(ctx, packetID)
	if err != nil {
		return nil, err
	}
	sources, err := a.store.Sources(ctx, packetID)
	if err != nil {
		return nil, err
	}
	bySource := map[packet.SourceID]store.Source{}
	for _, source := range sources {
		bySource[packet.SourceID(source.ID)] = source
	}
	byID := map[packet.PageID]packet.Page{}
	for _, page := range p.State.Pages() {
		byID[page.ID] = page
	}
	out := make([]uncroppedPage, len(ids))
	for i, id := range ids {
		page, ok := byID[id]
		if !ok {
			return nil, fmt.Errorf("%w: page %s", ErrNotFound, id)
		}
		out[i] = uncroppedPage{Page: page, size: page.Framing().Uncropped().Size()}
		if page.IsBlank() {
			continue
		}
		look := page.Look
		look.Crop = geometry.Box{}
		out[i].render = a.renderPage(bySource[page.Source], page.SourcePage, look, page.Turn)
	}
	return out, nil
}

// contentOf finds where on a page there is anything, in its picture when that is at
// hand already.
func (a *App) contentOf(ctx context.Context, page uncroppedPage, picture image.Image) (geometry.Box, error) {
	name := fmt.Sprintf("%s %d %+v %d", page.Source, page.SourcePage, page.render.Look, page.Turn)
	return a.content.find(name, func() (geometry.Box, error) {
		if picture == nil {
			var err error
			if picture, err = a.pictures.Image(ctx, page.render, cropWidth); err != nil {
				return geometry.Box{}, err
			}
		}
		return raster.FindContent(picture, page.size), nil
	})
}

// onAllCores does something with each page, several at once.
func onAllCores(pages []uncroppedPage, do func(i int, page uncroppedPage) error) error {
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, page := range pages {
		group.Go(func() error { return do(i, page) })
	}
	return group.Wait()
}

// cutAway gives a document without what lies wholly outside the crops of its pages,
// or the document itself where no page is cropped. A page that is placed more than
// once is left whole, as its placements may show different things.
func (a *App) cutAway(ctx context.Context, source store.Source, doc *pdf.Document, sum string, placements []pdf.Placement) (*pdf.Document, error) {
	cuts := cutsOf(doc, placements)
	if len(cuts) == 0 {
		return doc, nil
	}
	blob, err := a.store.Files.Write(func(w io.Writer) error {
		return a.engine.CutAway(ctx, a.store.Files.Path(sum), cuts, w)
	})
	if err != nil {
		return nil, err
	}
	cut, err := a.parsePDF(blob.SHA256, len(source.Pages))
	return cut, errors.Join(err, a.store.ReleaseFile(ctx, blob.SHA256))
}

func cutsOf(doc *pdf.Document, placements []pdf.Placement) []render.Cut {
	var cuts []render.Cut
	for _, group := range byPage(placements) {
		if len(group) > 1 {
			continue
		}
		kept, content, ok := doc.Reshaped(group[0])
		if !ok {
			continue
		}
		cuts = append(cuts, render.Cut{Page: group[0].Page + 1, Kept: kept, Content: content, Seen: surelySeen(group[0].Framing)})
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
