package app

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/internal/intake"
	"dorbin/internal/store"
)

// exportProblem is a failure that the user can do something about.
type exportProblem struct {
	sentence string
	cause    error
}

func (p *exportProblem) Error() string { return p.sentence }
func (p *exportProblem) Unwrap() error { return p.cause }

// progressEvery keeps progress from costing more than the work.
const progressEvery = 200 * time.Millisecond

// assemble writes the document source by source, so that at most one source is
// in memory at a time.
func (a *App) assemble(ctx context.Context, e *store.Export, request exportRequest) (store.Blob, error) {
	pages := packet.Packet{Parts: request.Parts}.Pages()
	progress := a.progress(ctx, e)
	return a.store.Files.Write(func(w io.Writer) error {
		out := bufio.NewWriterSize(w, 1<<20)
		assembler := pdf.NewAssembler(out, len(pages))
		for _, group := range groupBySource(pages) {
			source, err := a.store.Source(ctx, string(group.source))
			if err != nil {
				return err
			}
			if err := a.addSource(ctx, assembler, source, group, progress); err != nil {
				return err
			}
		}
		properties := pdf.Properties{
			Title: request.Title, Producer: "Dorbin", Created: time.Now(), Bookmarks: bookmarks(request.Parts),
		}
		if err := assembler.Finish(properties); err != nil {
			return err
		}
		return out.Flush()
	})
}

// progress returns a function to be called after every page.
func (a *App) progress(ctx context.Context, e *store.Export) func() error {
	last := time.Now()
	return func() error {
		e.Done++
		if time.Since(last) > progressEvery {
			last = time.Now()
			a.record(ctx, e)
		}
		return ctx.Err()
	}
}

// sourceGroup is the pages of one source that are placed, with their positions.
type sourceGroup struct {
	source     packet.SourceID
	placements []pdf.Placement
	sizes      map[int]geometry.Size // by page, upright
}

func groupBySource(pages []packet.Page) []*sourceGroup {
	var groups []*sourceGroup
	bySource := map[packet.SourceID]*sourceGroup{}
	for position, page := range pages {
		group := bySource[page.Source]
		if group == nil {
			group = &sourceGroup{source: page.Source, sizes: map[int]geometry.Size{}}
			bySource[page.Source] = group
			groups = append(groups, group)
		}
		index := page.SourcePage - 1
		group.placements = append(group.placements, pdf.Placement{Position: position, Page: index, Turn: page.Turn})
		group.sizes[index] = page.Upright
	}
	return groups
}

func (a *App) addSource(ctx context.Context, out *pdf.Assembler, source store.Source, group *sourceGroup, progress func() error) error {
	if source.Kind != string(intake.PDF) {
		return a.addImages(out, source, group, progress)
	}
	a.parsing.Lock()
	defer a.parsing.Unlock()
	doc, _, err := a.readablePDF(ctx, source)
	if err != nil {
		return &exportProblem{
			fmt.Sprintf("%s is damaged: it can be shown but not written. Print it to a new PDF and add that instead.", source.Name), err,
		}
	}
	if err := out.AddDocument(doc, group.placements, progress); err != nil {
		return fmt.Errorf("add pages of source %s: %w", source.ID, err)
	}
	return nil
}

func (a *App) addImages(out *pdf.Assembler, source store.Source, group *sourceGroup, progress func() error) error {
	images, err := intake.OpenImages(a.store.Files.Path(source.Blob), intake.Kind(source.Kind))
	if err != nil {
		return fmt.Errorf("open source %s: %w", source.ID, err)
	}
	defer images.Close() //nolint:errcheck // only read from
	for _, placements := range byPage(group.placements) {
		page := placements[0].Page
		image, err := images.Pages[page].Embed()
		if err != nil {
			return &exportProblem{fmt.Sprintf("Page %d of %s is damaged and cannot be written.", page+1, source.Name), err}
		}
		if err := out.AddImage(image, group.sizes[page], placements); err != nil {
			return fmt.Errorf("add page %d of source %s: %w", page+1, source.ID, err)
		}
		for range placements {
			if err := progress(); err != nil {
				return err
			}
		}
	}
	return nil
}

// byPage gathers the placements of the same page, in the order of their first.
func byPage(placements []pdf.Placement) [][]pdf.Placement {
	var groups [][]pdf.Placement
	index := map[int]int{}
	for _, p := range placements {
		i, ok := index[p.Page]
		if !ok {
			i = len(groups)
			index[p.Page] = i
			groups = append(groups, nil)
		}
		groups[i] = append(groups[i], p)
	}
	return groups
}

func bookmarks(parts []packet.Part) []pdf.Bookmark {
	var marks []pdf.Bookmark
	first := 0
	for _, part := range parts {
		marks = append(marks, pdf.Bookmark{Title: part.Title, First: first, Count: len(part.Pages)})
		first += len(part.Pages)
	}
	return marks
}
