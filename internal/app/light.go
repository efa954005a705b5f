package app

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"runtime"
	"slices"

	"golang.org/x/sync/errgroup"

	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/core/shrink"
	"dorbin/internal/store"
)

// LightPage is a page that was written in fewer bytes.
type LightPage struct {
	Number int         `json:"number" doc:"From 1."`
	Kind   shrink.Kind `json:"kind" enum:"blank,blackText,colourText,photograph" doc:"What it shows."`
	Way    shrink.Way  `json:"way" enum:"oneBit,layers,resized" doc:"How it is written."`
	Before int64       `json:"before" doc:"Bytes that it would weigh as it is."`
	After  int64       `json:"after" doc:"Bytes that it weighs."`
}

// addLight writes pages that are pictures in fewer bytes, where that makes fewer of
// them, and gives those that are left to be written as they are. All cores work on a few
// pages at a time, so that few are in memory.
func (a *App) addLight(ctx context.Context, m *making, source store.Source, pages []placedPage) (left []placedPage, err error) {
	for few := range slices.Chunk(pages, 4*runtime.GOMAXPROCS(0)) {
		lights, err := a.lightenAll(ctx, source, few)
		if err != nil {
			return nil, err
		}
		for i, page := range few {
			light := lights[i]
			if light == nil || !light.isWorthIt() {
				left = append(left, page)
				continue
			}
			if err := light.add(m.Assembler, pdf.Placement{Position: page.position, Framing: page.Framing()}); err != nil {
				return nil, fmt.Errorf("add page %d of source %s: %w", page.SourcePage, source.ID, err)
			}
			m.became = append(m.became, LightPage{page.position + 1, light.Kind, light.Way, light.before, int64(light.Bytes())})
			if err := m.progress(); err != nil {
				return nil, err
			}
		}
	}
	return left, nil
}

// lightenAll gives pages in fewer bytes; nil for those that are kept as they are.
func (a *App) lightenAll(ctx context.Context, source store.Source, pages []placedPage) ([]*lightened, error) {
	lights := make([]*lightened, len(pages))
	var group errgroup.Group
	group.SetLimit(runtime.GOMAXPROCS(0))
	for i, page := range pages {
		if readsAsPDF(source) && !page.isMadeAnew(true) {
			continue // text and drawings stay what they are
		}
		group.Go(func() (err error) {
			lights[i], err = a.lighten(ctx, source, page)
			return err
		})
	}
	if err := group.Wait(); err != nil {
		return nil, err
	}
	pictures := make([]*shrink.Light, len(lights))
	for i, light := range lights {
		if light != nil {
			pictures[i] = &light.Light
		}
	}
	shrink.Encode(pictures)
	return lights, nil
}

// lightened is a page in fewer bytes.
type lightened struct {
	shrink.Light
	before int64
}

// worthResizing is the share of its bytes, at most, that a photograph keeps that is
// encoded anew: for less it loses nothing.
const worthResizing = 0.8

func (l *lightened) isWorthIt() bool {
	after := int64(l.Bytes())
	if l.Way == shrink.Resized {
		return float64(after) <= worthResizing*float64(l.before)
	}
	return after < l.before
}

// lighten is nil for a page that cannot be decoded: it is kept as it is.
func (a *App) lighten(ctx context.Context, source store.Source, page placedPage) (*lightened, error) {
	pixels, err := a.madePixels(ctx, source, page)
	var problem *exportProblem
	if errors.As(err, &problem) {
		return nil, nil //nolint:nilnil // said above
	}
	if err != nil {
		return nil, err
	}
	size := pixels.Bounds().Size()
	seen := page.Framing().Seen().Size()
	light, err := shrink.Lighten(pixels, float64(size.X)/seen.Width*geometry.PointsPerInch)
	if err != nil {
		return nil, fmt.Errorf("make page %d of source %s lighter: %w", page.SourcePage, source.ID, err)
	}
	before, err := a.weightAsItIs(source, page, pixels)
	return &lightened{light, before}, err
}

// weightAsItIs is what a page would weigh that is written as it is.
func (a *App) weightAsItIs(source store.Source, page placedPage, pixels image.Image) (int64, error) {
	if page.isMadeAnew(readsAsPDF(source)) {
		made, err := encodeMade(pixels, page.Tone.Mode)
		return made.Length, err
	}
	images, err := a.openImages(source)
	if err != nil {
		return 0, fmt.Errorf("open source %s: %w", source.ID, err)
	}
	defer images.Close() //nolint:errcheck // only read from
	embedded, err := images.Pages[page.SourcePage-1].Embed()
	return embedded.Length, err
}

func (l *lightened) add(out *pdf.Assembler, placement pdf.Placement) error {
	switch l.Way {
	case shrink.Layers:
		return l.addLayers(out, placement)
	case shrink.OneBit:
		return out.AddImage(l.inked(l.Layered.Inks[0]), []pdf.Placement{placement})
	default:
		return out.AddImage(jpegImage(l.JPEG, l.Width, l.Height, l.Gray), []pdf.Placement{placement})
	}
}

func (l *lightened) addLayers(out *pdf.Assembler, placement pdf.Placement) error {
	size := l.Layered.BackgroundSize
	back := jpegImage(l.Layered.JPEG, size.X, size.Y, l.Layered.Gray)
	back.Smooth = true
	inks := make([]pdf.Ink, len(l.Layered.Inks))
	for i, ink := range l.Layered.Inks {
		inks[i] = pdf.Ink{Image: l.inked(ink), Red: ink.Colour.R, Green: ink.Colour.G, Blue: ink.Colour.B}
	}
	return out.AddLayers(back, inks, placement)
}

// inked is where an ink is, as an image of one bit.
func (l *lightened) inked(ink shrink.Ink) pdf.Image {
	return pdf.Image{
		Width: l.Layered.Width, Height: l.Layered.Height, BitsPerComponent: 1, Colour: pdf.Gray, Filter: pdf.JBIG2,
		Shared: l.Shared, Data: bytes.NewReader(ink.Data), Length: int64(len(ink.Data)),
	}
}

func jpegImage(data []byte, width, height int, gray bool) pdf.Image {
	img := pdf.Image{
		Width: width, Height: height, BitsPerComponent: 8, Colour: pdf.RGB, Filter: pdf.DCT,
		Data: bytes.NewReader(data), Length: int64(len(data)),
	}
	if gray {
		img.Colour = pdf.Gray
	}
	return img
}
