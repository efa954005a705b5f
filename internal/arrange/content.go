package arrange

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"math"
	"sync"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/guard"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// cropWidth is the width, in pixels, of the pictures in which content is searched
// for and that are laid on each other.
const cropWidth = 960

const overlayQuality = 85

// PageContent is where on a page there is anything, and what is kept of it, in
// points of the page as it would stand uncropped.
type PageContent struct {
	Page    packet.PageID         `json:"page"`
	Width   float64               `json:"width" doc:"Of the page as it would stand uncropped, in points."`
	Height  float64               `json:"height"`
	Crop    *geometry.Box         `json:"crop,omitempty" doc:"What is kept of it now."`
	Content *geometry.Box         `json:"content,omitempty" doc:"Around all that is on it; none on an empty page."`
	Paper   *geometry.Box         `json:"paper,omitempty" doc:"Where the paper lies on the darker lid of its scanner; none where no lid is seen."`
	Level   *float64              `json:"level,omitempty" doc:"Degrees clockwise by which it would be straightened to be level, as it stands; none where that cannot be measured."`
	Painted []geometry.Box        `json:"painted,omitempty" doc:"Around what is painted over."`
	Fit     *geometry.SheetLayout `json:"fit,omitempty" doc:"The sheet that what is kept of it is laid on now, as it stands."`
	Unread  bool                  `json:"unread,omitempty" doc:"The page is damaged: nothing is known of its content."`
}

// found is what is found on a page, on the page as it would stand uncropped.
type found struct {
	content, paper geometry.Box
	level          float64 // as it stands
	isSure         bool    // of the level
}

// knownContent remembers what was found, by the page's adjustments.
type knownContent struct {
	mutex sync.Mutex
	found map[string]found
}

const mostContents = 50_000

func (k *knownContent) find(name string, find func() (found, error)) (found, error) {
	k.mutex.Lock()
	known, ok := k.found[name]
	k.mutex.Unlock()
	if ok {
		return known, nil
	}
	known, err := find()
	if err != nil {
		return known, err
	}
	k.mutex.Lock()
	defer k.mutex.Unlock()
	if k.found == nil || len(k.found) >= mostContents {
		k.found = map[string]found{}
	}
	k.found[name] = known
	return known, nil
}

// Contents tells of pages where there is anything on them.
func (s *Service) Contents(ctx context.Context, packetID string, ids []packet.PageID) ([]PageContent, error) {
	defer s.runner.Foreground()()
	pages, err := s.uncropped(ctx, packetID, ids)
	if err != nil {
		return nil, err
	}
	out := make([]PageContent, len(pages))
	err = guard.Each(ctx, pages, func(ctx context.Context, i int, page uncroppedPage) error {
		out[i] = PageContent{Page: page.ID, Width: page.size.Width, Height: page.size.Height}
		if crop := page.Framing().DisplayedCrop(); !crop.IsZero() {
			out[i].Crop = &crop
		}
		out[i].Fit = geometry.NonZero(page.Framing().DisplayedLayout())
		if page.IsBlank() {
			return nil
		}
		on, err := s.findOn(ctx, page)
		if err != nil {
			out[i].Unread = true
			return ctx.Err()
		}
		out[i].Content, out[i].Paper, out[i].Painted = geometry.NonZero(on.content), geometry.NonZero(on.paper), page.DisplayedPatches()
		if on.isSure {
			out[i].Level = &on.level
		}
		return nil
	})
	return out, err
}

// Overlay draws pages seen through each other, as they would stand uncropped and at
// the size of the first, as a JPEG: the darkest of all of them, or their average.
// What cannot be drawn is left out.
func (s *Service) Overlay(ctx context.Context, packetID string, ids []packet.PageID, average bool) ([]byte, error) {
	defer s.runner.Foreground()()
	pages, err := s.uncropped(ctx, packetID, ids)
	if err != nil {
		return nil, err
	}
	if len(pages) == 0 {
		return nil, problem.New(problem.Invalid, "no page is named")
	}
	size := pages[0].size
	stack := raster.NewStack(cropWidth, max(1, int(math.Round(cropWidth*size.Height/size.Width))))
	var adding sync.Mutex
	err = guard.Each(ctx, pages, func(ctx context.Context, _ int, page uncroppedPage) error {
		if page.IsBlank() {
			return nil
		}
		picture, err := s.pictures.Image(ctx, page.render, cropWidth)
		if err != nil {
			return ctx.Err()
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
		return nil, fmt.Errorf("encode overlaid pages: %w", err)
	}
	return out.Bytes(), nil
}

// uncroppedPage is a page with its size and, unless it is blank, its picture without
// its crop.
type uncroppedPage struct {
	packet.Page
	size   geometry.Size
	render render.Page
	signs  *check.PageAnalysis // of its source's page; nil while they are not known
}

// uncropped finds pages by their ids, in the order in which they are named.
func (s *Service) uncropped(ctx context.Context, packetID string, ids []packet.PageID) ([]uncroppedPage, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return nil, err
	}
	all, err := s.store.Sources(ctx, packetID)
	if err != nil {
		return nil, err
	}
	bySource := map[packet.SourceID]store.Source{}
	signs := map[packet.SourceID][]*check.PageAnalysis{}
	for _, source := range all {
		id := packet.SourceID(source.ID)
		bySource[id] = source
		if signs[id], err = s.checking.Analyses(ctx, source); err != nil {
			return nil, err
		}
	}
	byID := map[packet.PageID]packet.Page{}
	for _, page := range p.State.Pages() {
		byID[page.ID] = page
	}
	out := make([]uncroppedPage, len(ids))
	for i, id := range ids {
		page, ok := byID[id]
		if !ok {
			return nil, fmt.Errorf("%w: page %s", store.ErrNotFound, id)
		}
		out[i] = uncroppedPage{Page: page, size: page.Framing().Uncropped().Size()}
		if page.IsBlank() {
			continue
		}
		adjustments := page.Adjustments
		adjustments.Crop, adjustments.Sheet = geometry.Box{}, geometry.SheetLayout{}
		if known := signs[page.Source]; page.SourcePage <= len(known) {
			out[i].signs = known[page.SourcePage-1]
		}
		out[i].render = s.sources.Page(bySource[page.Source], page.SourcePage, adjustments, page.Turn)
	}
	return out, nil
}

// findOn finds what is on a page: by its signs, where it stands as these were seen,
// else in its picture.
func (s *Service) findOn(ctx context.Context, page uncroppedPage) (found, error) {
	if page.signs != nil && !page.signs.Content.IsZero() && page.isAsSeen() {
		return page.fromSigns(), nil
	}
	name := fmt.Sprintf("%s %d %+v %d", page.Source, page.SourcePage, page.render.Adjustments, page.Turn)
	return s.content.find(name, func() (found, error) {
		picture, err := s.pictures.Image(ctx, page.render, cropWidth)
		if err != nil {
			return found{}, err
		}
		on := found{content: raster.FindContent(picture, page.size), paper: raster.FindPaperEdge(picture, page.size)}
		on.level, on.isSure = page.level(picture)
		return on, nil
	})
}

// level is the angle, as the page stands, by which it would be straightened to be level:
// that of its source's page, where that is known, else measured in its picture.
func (p uncroppedPage) level(picture image.Image) (angle float64, ok bool) {
	if p.signs != nil && p.Paper.IsZero() {
		angle, ok = check.Levelling(p.signs.Tilt)
		return p.standing(angle), ok
	}
	tilt := raster.MeasureTilt(picture)
	tilt.Angle -= p.standing(p.Straighten) // what it leans by now
	return check.Levelling(tilt)
}

// isAsSeen tells whether nothing but mirror, turn, crop and tone sets a page apart from
// its source's page.
func (p uncroppedPage) isAsSeen() bool {
	return p.Paper.IsZero() && p.Straighten == 0 && p.Clean.IsZero() && p.Patches == ""
}

func (p uncroppedPage) fromSigns() found {
	m := p.Framing().Uncropped().Transform()
	on := found{content: p.signs.Content.Mapped(m)}
	if !p.signs.Paper.IsZero() {
		on.paper = p.signs.Paper.Mapped(m)
	}
	on.level, on.isSure = p.level(nil)
	return on
}

// standing is an angle of the flat page as that of the page as it stands.
func (p uncroppedPage) standing(angle float64) float64 {
	if p.Mirror {
		return -angle
	}
	return angle
}
