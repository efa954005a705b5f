package export

import (
	"context"
	"errors"
	"fmt"
	"image"
	"math"
	"slices"
	"strings"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/core/problem"
	"dorbin/internal/assembly"
	"dorbin/internal/guard"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// damaged is why a document cannot be made of a source.
func damaged(cause error, format string, values ...any) *problem.Error {
	return &problem.Error{Kind: problem.Invalid, Reason: "damaged", Sentence: message.Of(format, values...), Cause: cause}
}

// progressEvery keeps progress from costing more than the work.
const progressEvery = 200 * time.Millisecond

// write writes a document of a run of pages into a file that is there.
func (s *Service) write(ctx context.Context, m *making, run segment, path string) (err error) {
	pages := packet.Packet{Parts: run.parts}.Pages()
	builder, err := assembly.New(s.pool, len(pages))
	if err != nil {
		return err
	}
	d := &document{Builder: builder, making: m, segment: run}
	defer func() { err = errors.Join(err, d.close()) }()
	if m.request.KeepPictures {
		d.KeepPictures()
	}
	if m.request.repacks() {
		d.Repack()
	}
	if len(m.marks) >= run.to {
		marks := m.marksOf(run)
		if err := d.SetMarks(marks); err != nil {
			return err
		}
		if err := s.addOverlays(ctx, d, marks); err != nil {
			return err
		}
	}
	if protection := m.protection(); protection != nil {
		d.Protect(*protection)
	}
	for position, page := range pages {
		if page.IsBlank() {
			d.AddBlank(position, page.Size())
			d.took(owner{pages: 1})
			continue
		}
		if err := d.addText(ctx, position, page); err != nil {
			return err
		}
	}
	if err := s.addPages(ctx, d, pages); err != nil {
		return err
	}
	return s.writeBuilt(ctx, d, path)
}

// addPages adds the pages that are from sources: those that are written in fewer bytes together, as the pages of a
// document that was scanned into a file each are in the same type.
func (s *Service) addPages(ctx context.Context, d *document, pages []packet.Page) error {
	var otherwise []placedPage
	for _, group := range groupBySource(pages) {
		source, err := s.store.Source(ctx, string(group.source))
		if err != nil {
			return err
		}
		var asTheyAre []placedPage
		for _, page := range group.pages {
			if d.isRecoded(page) {
				otherwise = append(otherwise, page)
			} else {
				asTheyAre = append(asTheyAre, page)
			}
		}
		if err := ofSource(ctx, source, func() error { return s.addPagesOf(ctx, d, source, asTheyAre) }); err != nil {
			return err
		}
	}
	return s.addRecoded(ctx, d, otherwise)
}

// writeBuilt has a worker write what was taken down.
func (s *Service) writeBuilt(ctx context.Context, d *document, path string) error {
	ctx, cancel := context.WithCancelCause(ctx)
	defer cancel(nil)
	told := 0
	written, err := d.Write(ctx, d.properties(), path, func(pages int) {
		for uncounted := d.uncounted(pages); told < uncounted; told++ {
			if err := d.progress(); err != nil {
				cancel(err)
				return
			}
		}
	})
	if cause := context.Cause(ctx); cause != nil {
		return cause
	}
	var failed *assembly.StepError
	if errors.As(err, &failed) && failed.Step < len(d.owners) {
		return d.owners[failed.Step].named(failed.Err)
	}
	if err != nil {
		return err
	}
	for all := d.uncounted(d.to - d.from); told < all; told++ {
		if err := d.progress(); err != nil {
			return err
		}
	}
	d.leftOut.Add(written.LeftOut)
	for position, saved := range written.Saved {
		d.noteRepacked(position, saved)
	}
	return nil
}

// progress returns a function to be called after every page.
func (s *Service) progress(ctx context.Context, e *store.Export) func() error {
	last := time.Now()
	return func() error {
		e.Done++
		if time.Since(last) > progressEvery {
			last = time.Now()
			if err := s.record(ctx, e); err != nil {
				return err
			}
		}
		return ctx.Err()
	}
}

// sourceGroup is the pages of one source that are placed, with their positions.
type sourceGroup struct {
	source packet.SourceID
	pages  []placedPage
}

type placedPage struct {
	packet.Page
	position int
}

func groupBySource(pages []packet.Page) []*sourceGroup {
	var groups []*sourceGroup
	bySource := map[packet.SourceID]*sourceGroup{}
	for position, page := range pages {
		if page.IsBlank() {
			continue
		}
		group := bySource[page.Source]
		if group == nil {
			group = &sourceGroup{source: page.Source}
			bySource[page.Source] = group
			groups = append(groups, group)
		}
		group.pages = append(group.pages, placedPage{page, position})
	}
	return groups
}

// ofSource has whatever goes wrong with a source be told with its name, but for a disk that is full, workers that cannot be
// started, and an export that is cancelled.
func ofSource(ctx context.Context, source store.Source, do func() error) error {
	err := guard.Run(do)
	var told *problem.Error
	var panicked *guard.PanicError
	switch {
	case err == nil || ctx.Err() != nil || errors.As(err, &panicked) || isDiskFull(err) || worker.IsUnavailable(err):
		return err
	case errors.As(err, &told) && strings.Contains(told.Sentence.English, source.Name):
		return err
	}
	return unwritable(source, err)
}

// unwritable says that a source cannot be written.
func unwritable(source store.Source, err error) error {
	var told *problem.Error
	if errors.As(err, &told) {
		return damaged(err, "%s cannot be written. %s", source.Name, told.Sentence)
	}
	return damaged(err, "%s cannot be written: it is damaged, or made in a way that is not understood. Print it to a new PDF and add that instead.", source.Name)
}

// addPagesOf adds pages of a source that are not recoded.
func (s *Service) addPagesOf(ctx context.Context, d *document, source store.Source, pages []placedPage) error {
	ofPDF := sources.IsPDF(source)
	var placements []pdf.Placement
	for _, page := range pages {
		if !page.IsMadeAnew(ofPDF) {
			placements = append(placements, pdf.Placement{
				Position: page.position, Page: page.SourcePage - 1, Framing: page.Framing(), Annotations: page.Annotations,
				NoLinks: d.request.Finish.Bookmarks.NoLinks,
			})
			continue
		}
		if err := s.addMadePage(ctx, d, source, page); err != nil {
			return err
		}
	}
	switch {
	case len(placements) == 0:
		return nil
	case !ofPDF:
		return s.addImages(ctx, d, source, placements)
	}
	return s.addDocument(ctx, d, source, pages, placements)
}

// addDocument adds pages of a PDF that keep their content.
func (s *Service) addDocument(ctx context.Context, d *document, source store.Source, pages []placedPage, placements []pdf.Placement) error {
	_, file, err := s.sources.Measure(ctx, source)
	if stopped := worker.NotTried(ctx, err); stopped != nil {
		return stopped
	}
	if err != nil {
		return damaged(err, "%s is damaged: it can be shown but not written. Print it to a new PDF and add that instead.", source.Name)
	}
	d.pin(file)
	for _, round := range rounds(placements) {
		cut, err := s.cutAway(ctx, d, file, round)
		if err != nil {
			return fmt.Errorf("cut pages of source %s: %w", source.ID, err)
		}
		instead, err := s.rewritePictures(ctx, d, cut.SHA256, pagesOfRound(pages, round))
		if err != nil {
			return err
		}
		isFirst := !d.counted[source.ID]
		d.counted[source.ID] = true
		if err := d.AddDocument(s.store.FilePath(cut.SHA256), round, instead, isFirst); err != nil {
			return err
		}
		d.took(owner{source: source, pages: len(round)})
	}
	return nil
}

// pagesOfRound are the pages that placements are of.
func pagesOfRound(pages []placedPage, round []pdf.Placement) []placedPage {
	in := make(map[int]bool, len(round))
	for _, placement := range round {
		in[placement.Position] = true
	}
	return slices.DeleteFunc(slices.Clone(pages), func(page placedPage) bool { return !in[page.position] })
}

// rounds parts the placements of a document so that of a page that is cut for one of its
// placements no round has two: each is cut on its own.
func rounds(placements []pdf.Placement) [][]pdf.Placement {
	all := make([][]pdf.Placement, 1)
	for _, group := range byPage(placements) {
		isCut := slices.ContainsFunc(group, func(p pdf.Placement) bool { return !p.Framing.Cut().Crop.IsZero() })
		for i, placement := range group {
			round := 0
			if isCut {
				round = i
				placement.Again = i > 0
			}
			if round == len(all) {
				all = append(all, nil)
			}
			all[round] = append(all[round], placement)
		}
	}
	return all
}

// madeDPI is for PDF pages of which a picture is made: so many dots an inch on the sheet.
const madeDPI = 300

// DrawnDPI is how many dots an inch a page of a PDF has on its sheet if a picture is made of it.
func DrawnDPI(page packet.Page) int {
	larger := page.Framing().Enlargement()
	return int(math.Round(render.DrawnDPI(page.Framing().Flat, madeDPI*larger) / larger))
}

func (s *Service) addMadePage(ctx context.Context, d *document, source store.Source, page placedPage) error {
	cropped, ok, err := s.sources.Cropped(ctx, source, page.Page)
	if err != nil {
		return err
	}
	if ok {
		d.hiddenMargins[page.ID] = beyond(cropped, page.Framing().Seen().Size())
		return d.addEncoded(source, page, pdf.Replacement{Image: cropped})
	}
	pixels, err := s.madePixels(ctx, source, page)
	if err != nil {
		return err
	}
	release, err := s.room.take(ctx, pixels)
	if err != nil {
		return err
	}
	defer release()
	encoded, err := encodeMade(pixels, page.Tone.Mode)
	if err != nil {
		return fmt.Errorf("encode page %d of source %s: %w", page.SourcePage, source.ID, err)
	}
	return d.addEncoded(source, page, pdf.Replacement{Image: encoded})
}

// beyond is how far, in points, a picture goes on at most beside the part of it that is seen, on a page of a size.
func beyond(picture pdf.Image, size geometry.Size) float64 {
	seen := picture.Seen.Size()
	pixel := max(size.Width, size.Height) / max(seen.Width, seen.Height)
	return pixel * max(picture.Seen.X0, picture.Seen.Y0, float64(picture.Width)-picture.Seen.X1, float64(picture.Height)-picture.Seen.Y1)
}

// madePixels are the pixels of what is seen of a page, before its mirror and turn.
func (s *Service) madePixels(ctx context.Context, source store.Source, page placedPage) (image.Image, error) {
	pixels, err := s.pictures.Pixels(ctx, s.sources.Page(source, page.SourcePage, page.Adjustments, 0), madeDPI*page.Framing().Enlargement())
	if stopped := worker.NotTried(ctx, err); stopped != nil {
		return nil, stopped
	}
	if err != nil {
		return nil, damaged(err, "Page %d of %s is damaged and cannot be written.", page.SourcePage, source.Name)
	}
	return pixels, nil
}

// addImages writes pages of image files as they are, or with every pixel the same.
func (s *Service) addImages(ctx context.Context, d *document, source store.Source, all []pdf.Placement) error {
	path, saved := s.store.FilePath(source.Working), int64(0)
	if d.request.repacks() && sources.CanBeRepacked(source) {
		var err error
		if path, saved, err = s.sources.Repacked(ctx, source); err != nil {
			return err
		}
	}
	for _, placements := range byPage(all) {
		page := placements[0].Page
		d.AddFile(path, page, placements)
		d.took(owner{source: source, page: page + 1, pages: len(placements)})
		if saved <= 0 {
			continue
		}
		for _, p := range placements {
			d.noteRepacked(p.Position, saved)
		}
	}
	return nil
}

// byPage gathers the placements of the same page, in the order of their first.
func byPage(placements []pdf.Placement) [][]pdf.Placement {
	return inGroups(placements, func(p pdf.Placement) int { return p.Page })
}

// inGroups gathers what has the same key, in the order of the first of each.
func inGroups[T any, K comparable](all []T, key func(T) K) (groups [][]T) {
	index := map[K]int{}
	for _, one := range all {
		i, ok := index[key(one)]
		if !ok {
			i = len(groups)
			index[key(one)] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], one)
	}
	return groups
}
