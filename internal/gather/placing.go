package gather

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dorbin/core/packet"
	"dorbin/internal/intake"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Placement says where and how a file is to be placed.
type Placement struct {
	// Place is where: "end" or nothing, "start", "intake" (nowhere yet),
	// "after:<page>", "before:<page>", "part:<part>" (at its end), or
	// "replace:<page>,<page>…".
	Place           string `json:"place,omitempty"`
	Pages           string `json:"pages,omitempty"` // which of its pages, as packet.ParsePages reads them; all when empty
	OmitAnnotations bool   `json:"bare,omitempty"`  // without comments and form fields
	Password        string `json:"-"`
}

// places are the commands that the kinds of places come to.
var places = map[string]func(c *packet.Command, what string){
	"end":    func(*packet.Command, string) {},
	"start":  func(c *packet.Command, _ string) { c.At = new(int) },
	"after":  func(c *packet.Command, what string) { c.After = packet.PageID(what) },
	"before": func(c *packet.Command, what string) { c.Before = packet.PageID(what) },
	"part":   func(c *packet.Command, what string) { c.Part = packet.PartID(what) },
	"replace": func(c *packet.Command, what string) {
		for id := range strings.SplitSeq(what, ",") {
			c.Replace = append(c.Replace, packet.PageID(strings.TrimSpace(id)))
		}
	},
}

const intakeOnly = "intake"

// names tells whether a place was asked for, other than where files go anyway.
func (w Placement) names() bool { return w.Place != "" && w.Place != "end" && w.Place != intakeOnly }

// Check tells whether there can be such a place. The error wraps packet.ErrInvalid.
func (w Placement) Check() error {
	kind, what, hasWhat := strings.Cut(w.Place, ":")
	_, known := places[kind]
	alone := kind == "end" || kind == "start" || kind == intakeOnly
	switch {
	case w.Place == "" || w.Place == intakeOnly:
		return nil
	case !known || alone == hasWhat || (hasWhat && what == ""):
		return packet.Invalid("there is no place %q", w.Place)
	}
	return nil
}

// take is the wanted page numbers of a source with count pages; nil is all. An
// error is a *packet.RangeError.
func (w Placement) take(count int) ([]int, error) {
	if strings.TrimSpace(w.Pages) == "" {
		return nil, nil
	}
	return packet.ParsePages(w.Pages, count)
}

// command is the command that the wish comes to. Where the page or part that it
// names is gone meanwhile, the source becomes a part at the end, and lost says
// so.
func (w Placement) command(source store.Source, state packet.Packet) (c packet.Command, lost bool, err error) {
	c = packet.Command{Do: "place", Source: packet.SourceID(source.ID), Title: sources.PartTitle(source.Name), OmitAnnotations: w.OmitAnnotations}
	if c.Take, err = w.take(len(source.Pages)); err != nil {
		return c, false, err
	}
	kind, what, _ := strings.Cut(w.Place, ":")
	if kind == "" {
		kind = "end"
	}
	wanted := c
	places[kind](&wanted, what)
	if !state.CanPlace(wanted) {
		return c, true, nil
	}
	return wanted, false, nil
}

// place carries out a wish for a source that is ready. Papers that were found in
// photographs are laid flat in a step of its own, so that this alone can be
// undone.
func (s *Service) place(ctx context.Context, source store.Source, wish Placement) (Outcome, error) {
	outcome := outcomeOf(source, "added", "", fmt.Sprintf("Added %s.", source.Name))
	if wish.Place == intakeOnly {
		outcome.Sentence = fmt.Sprintf("%s is in the intake. None of its pages is placed.", source.Name)
		s.changed(source.Packet)
		return outcome, s.takeInAgain(ctx, source)
	}
	var before packet.Packet
	var lost bool
	p, err := s.packets.Do(ctx, source.Packet, func(p store.Packet) (_ []packet.Command, err error) {
		before = p.State
		var command packet.Command
		command, lost, err = wish.command(source, p.State)
		return []packet.Command{command}, err
	})
	var wrong *packet.RangeError
	if errors.As(err, &wrong) {
		return s.refused(source.Packet, source.Name, badRange(source.Name, err)), nil
	}
	if err != nil {
		return Outcome{}, err
	}
	if lost {
		outcome.Sentence = fmt.Sprintf("Added %s at the end: the place it was meant for is gone.", source.Name)
	}
	outcome.Pages = p.State.AddedSince(before)
	return outcome, s.layPapersFlat(ctx, source, outcome.Pages)
}

// takeInAgain has a source in the intake again that was taken out.
func (s *Service) takeInAgain(ctx context.Context, source store.Source) error {
	id := packet.SourceID(source.ID)
	_, err := s.packets.Do(ctx, source.Packet, func(p store.Packet) ([]packet.Command, error) {
		if !slices.Contains(p.State.Removed, id) {
			return nil, nil
		}
		return []packet.Command{{Do: "returnSource", Source: id}}, nil
	})
	return err
}

// PlaceSource places pages of a source that is in the packet already. A range
// that cannot be read is an *intake.Problem.
func (s *Service) PlaceSource(ctx context.Context, packetID, sourceID string, wish Placement) (Outcome, error) {
	if err := wish.Check(); err != nil {
		return Outcome{}, err
	}
	source, err := s.store.Source(ctx, sourceID)
	if err != nil {
		return Outcome{}, err
	}
	if source.Packet != packetID || source.State != store.SourceReady {
		return Outcome{}, fmt.Errorf("%w: source %s", store.ErrNotFound, sourceID)
	}
	if _, err := wish.take(len(source.Pages)); err != nil {
		return Outcome{}, &intake.Problem{Reason: intake.BadRange, Sentence: err.Error(), Cause: err}
	}
	return s.place(ctx, source, wish)
}

// Next is the wish for a file that follows one that was placed by this wish: it
// comes after the other's last page.
func (w Placement) Next(o Outcome) Placement {
	kind, _, _ := strings.Cut(w.Place, ":")
	if (kind == "after" || kind == "replace") && len(o.Pages) > 0 {
		w.Place = "after:" + string(o.Pages[len(o.Pages)-1])
	}
	return w
}

// SourcePage is a page of a source as it came in.
type SourcePage struct {
	Number int     `json:"number" doc:"From 1."`
	Width  float64 `json:"width" doc:"Points."`
	Height float64 `json:"height" doc:"Points."`
}

// SourcePages lists the pages of a source.
func (s *Service) SourcePages(ctx context.Context, sourceID string) ([]SourcePage, error) {
	source, err := s.store.Source(ctx, sourceID)
	if err != nil {
		return nil, err
	}
	pages := make([]SourcePage, len(source.Pages))
	for i, page := range source.Pages {
		pages[i] = SourcePage{Number: i + 1, Width: page.Size.Width, Height: page.Size.Height}
	}
	return pages, nil
}
