package gather

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"dorbin/core/annotation"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/intake"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Placement says where and how a file is to be placed.
type Placement struct {
	// Place is where, as packet.ParsePlace reads it, or "intake": nowhere yet.
	Place       string            `json:"place,omitempty"`
	Pages       string            `json:"pages,omitempty"` // which of its pages, as packet.ParsePages reads them; all when empty
	Annotations annotation.Policy `json:"bare,omitzero"`   // what becomes of form fields and comments
	Title       string            `json:"title,omitempty"` // of the part that they become; the file's name when empty
	Password    string            `json:"-"`
}

const intakeOnly = "intake"

// names tells whether a place was asked for, other than where files go anyway.
func (w Placement) names() bool { return w.Place != "" && w.Place != "end" && w.Place != intakeOnly }

// Check tells whether there can be such a place. The error is a problem.Invalid.
func (w Placement) Check() error {
	if n := utf8.RuneCountInString(w.Title); n > packet.MaxTitle {
		return problem.New(problem.Invalid, "the title of a part has at most %d characters, this one has %d", packet.MaxTitle, n)
	}
	if err := w.Annotations.Check(); err != nil {
		return problem.Because(problem.Invalid, err)
	}
	if w.Place == intakeOnly {
		return nil
	}
	_, err := packet.ParsePlace(w.Place)
	return err
}

// take is the wanted page numbers of a source with count pages; nil is all. An
// error is a *packet.RangeError.
func (w Placement) take(count int) ([]int, error) {
	if strings.TrimSpace(w.Pages) == "" {
		return nil, nil
	}
	return packet.ParsePages(w.Pages, count)
}

// command is the command that the placement comes to. Where the page or part that it
// names is gone meanwhile, the source becomes a part at the end, and lost says
// so.
func (w Placement) command(source store.Source, state packet.Packet) (c packet.Place, lost bool, err error) {
	if c, err = packet.ParsePlace(w.Place); err != nil {
		return c, false, err
	}
	if !state.CanPlace(c) {
		c, lost = packet.Place{}, true
	}
	c.Source, c.Title, c.Annotations = packet.SourceID(source.ID), cmp.Or(w.Title, sources.PartTitle(source.Name)), w.Annotations
	c.Take, err = w.take(len(source.Pages))
	return c, lost, err
}

// place carries out a placement for a source that is ready. Papers that were found in
// photographs are laid flat in a step of its own, so that this alone can be
// undone.
func (s *Service) place(ctx context.Context, source store.Source, placement Placement) (Outcome, error) {
	outcome := outcomeOf(source, "added", "", message.Of("Added %s.", source.Name))
	if placement.Place == intakeOnly {
		outcome.Sentence = message.Of("%s is in the intake. None of its pages is placed.", source.Name)
		s.changed(source.Packet)
		return outcome, s.takeInAgain(ctx, source)
	}
	var before packet.Packet
	var lost bool
	p, err := s.packets.Do(ctx, source.Packet, func(p store.Packet) (_ []packet.Command, err error) {
		before = p.State
		var command packet.Place
		command, lost, err = placement.command(source, p.State)
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
		outcome.Sentence = message.Of("Added %s at the end: the place it was meant for is gone.", source.Name)
	}
	outcome.Pages, outcome.Photos = p.State.AddedSince(before), sources.IsPhotograph(source, 1)
	return outcome, s.layPapersFlat(ctx, source, outcome.Pages)
}

// takeInAgain has a source in the intake again that was taken out.
func (s *Service) takeInAgain(ctx context.Context, source store.Source) error {
	id := packet.SourceID(source.ID)
	_, err := s.packets.Do(ctx, source.Packet, func(p store.Packet) ([]packet.Command, error) {
		if !slices.Contains(p.State.Removed, id) {
			return nil, nil
		}
		return []packet.Command{packet.ReturnSource{Source: id}}, nil
	})
	return err
}

// PlaceSource places pages of a source that is in the packet already. A range
// that cannot be read is a *problem.Error.
func (s *Service) PlaceSource(ctx context.Context, packetID, sourceID string, placement Placement) (Outcome, error) {
	if err := placement.Check(); err != nil {
		return Outcome{}, err
	}
	source, err := s.store.Source(ctx, sourceID)
	if err != nil {
		return Outcome{}, err
	}
	if source.Packet != packetID || source.State != store.SourceReady {
		return Outcome{}, fmt.Errorf("%w: source %s", store.ErrNotFound, sourceID)
	}
	if _, err := placement.take(len(source.Pages)); err != nil {
		return Outcome{}, &problem.Error{Kind: problem.Invalid, Reason: intake.BadRange, Sentence: message.OfError(err), Cause: err}
	}
	return s.place(ctx, source, placement)
}

// Next is the placement for a file that follows one that was placed by this placement: it
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
