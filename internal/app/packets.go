package app

import (
	"context"
	"errors"
	"fmt"
	"time"

	"dorbin/core/packet"
	"dorbin/internal/store"
)

// ConflictError says that a command was made for another revision than the
// packet now has.
type ConflictError struct{ Current Packet }

func (e *ConflictError) Error() string {
	return fmt.Sprintf("the packet has changed: it is at revision %d", e.Current.Revision)
}

// ErrNothingToUndo and ErrNothingToRedo are returned by Undo and Redo at the
// ends of the history.
var (
	ErrNothingToUndo = errors.New("there is nothing to undo")
	ErrNothingToRedo = errors.New("there is nothing to redo")
)

// CreatePacket makes an empty packet.
func (a *App) CreatePacket(ctx context.Context, name string) (Packet, error) {
	// Naming a packet follows the same rules as renaming one.
	state, _, err := packet.Apply(packet.New(""), []packet.Command{{Do: "rename", Title: name}}, packet.Known{})
	if err != nil {
		return Packet{}, err
	}
	id := newID("k")
	if err := a.store.CreatePacket(ctx, id, state); err != nil {
		return Packet{}, err
	}
	a.log.Info("packet created", "packet", id)
	return a.Packet(ctx, id)
}

// Packet shows one packet.
func (a *App) Packet(ctx context.Context, id string) (Packet, error) {
	p, sources, err := a.load(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	v, err := a.viewer(ctx, id, sources)
	if err != nil {
		return Packet{}, err
	}
	return v.packet(p), nil
}

func (a *App) viewer(ctx context.Context, packetID string, sources []store.Source) (viewer, error) {
	looked, err := a.store.Looked(ctx, packetID)
	return newViewer(sources, looked), err
}

// Packets lists all packets, the last changed first.
func (a *App) Packets(ctx context.Context) ([]PacketCard, error) {
	packets, err := a.store.Packets(ctx)
	if err != nil {
		return nil, err
	}
	sources, err := a.store.AllSources(ctx)
	if err != nil {
		return nil, err
	}
	cards := make([]PacketCard, len(packets))
	for i, p := range packets {
		cards[i] = viewCard(p, sources[p.ID])
	}
	return cards, nil
}

// stopTime is how long the jobs of a packet that is deleted have to end.
const stopTime = 10 * time.Second

// DeletePacket deletes a packet and everything that belongs to it alone. Its jobs end
// first.
func (a *App) DeletePacket(ctx context.Context, id string) error {
	defer a.packets.lock(id)()
	sources, err := a.store.Sources(ctx, id)
	if err != nil {
		return err
	}
	a.scans.stop(id)
	stopping, cancel := context.WithTimeout(ctx, stopTime)
	defer cancel()
	a.runner.CancelPacket(stopping, id)
	if err := a.store.DeletePacket(ctx, id); err != nil {
		return err
	}
	a.seen.forget(id, sources)
	a.engine.CloseRemoved()
	a.log.Info("packet deleted", "packet", id)
	a.events.send(Event{Kind: "deleted", Packet: id})
	return nil
}

// Apply carries out a list of commands made for a revision, as one step of
// undo. A wrong revision is a *ConflictError; a command that cannot be carried
// out wraps packet.ErrInvalid, and nothing is changed.
func (a *App) Apply(ctx context.Context, id string, revision int, commands []packet.Command) (Change, error) {
	defer a.runner.Foreground()()
	defer a.packets.lock(id)()
	before, sources, err := a.load(ctx, id)
	if err != nil {
		return Change{}, err
	}
	v, err := a.viewer(ctx, id, sources)
	if err != nil {
		return Change{}, err
	}
	if before.Revision != revision {
		return Change{}, &ConflictError{v.packet(before)}
	}
	facts, err := a.facts(ctx, before, sources, commands)
	if err != nil {
		return Change{}, err
	}
	rules := known(sources)
	rules.Facts = facts
	after, delta, err := a.carryOut(ctx, before, rules, commands)
	if err != nil {
		return Change{}, err
	}
	return v.change(before, after, delta), nil
}

// apply carries out commands as one step. It is called with the packet locked.
func (a *App) apply(ctx context.Context, p store.Packet, sources []store.Source, commands []packet.Command) (store.Packet, error) {
	p, _, err := a.carryOut(ctx, p, known(sources), commands)
	return p, err
}

// carryOut carries out commands as one step, which it records and tells the
// listeners of, unless they change nothing.
func (a *App) carryOut(ctx context.Context, p store.Packet, rules packet.Known, commands []packet.Command) (store.Packet, packet.Delta, error) {
	next, words, err := packet.Apply(p.State, commands, rules)
	if err != nil {
		return p, packet.Delta{}, err
	}
	delta := packet.Diff(p.State, next)
	if delta.Empty() {
		return p, delta, nil
	}
	p, err = a.store.Append(ctx, p, next, store.Step{Words: words, Commands: commands, Delta: delta})
	if err != nil {
		return p, delta, err
	}
	a.announce(p)
	return p, delta, nil
}

// Undo takes the last step back of the packet at a revision. A wrong revision is a
// *ConflictError.
func (a *App) Undo(ctx context.Context, id string, revision int) (Change, error) {
	return a.travel(ctx, id, revision, func(p store.Packet) (int, error) {
		if p.Cursor == 0 {
			return 0, ErrNothingToUndo
		}
		return p.Cursor - 1, nil
	})
}

// Redo does the step again that was undone last. A wrong revision is a *ConflictError.
func (a *App) Redo(ctx context.Context, id string, revision int) (Change, error) {
	return a.travel(ctx, id, revision, func(p store.Packet) (int, error) {
		if p.Redo == "" {
			return 0, ErrNothingToRedo
		}
		return p.Cursor + 1, nil
	})
}

// GoToStep takes steps back, or does them again, until the given number of steps are done.
// A wrong revision is a *ConflictError.
func (a *App) GoToStep(ctx context.Context, id string, revision, step int) (Change, error) {
	return a.travel(ctx, id, revision, func(store.Packet) (int, error) { return step, nil })
}

// Step is an act in a packet's history.
type Step struct {
	Number int       `json:"number" doc:"From 1, in the order of time."`
	Words  string    `json:"words" doc:"What was done."`
	At     time.Time `json:"at"`
	Done   bool      `json:"done" doc:"Whether it is in effect, or was taken back."`
}

// History lists a packet's steps, the first first.
func (a *App) History(ctx context.Context, id string) ([]Step, error) {
	p, err := a.store.Packet(ctx, id)
	if err != nil {
		return nil, err
	}
	kept, err := a.store.Steps(ctx, id)
	if err != nil {
		return nil, err
	}
	steps := make([]Step, len(kept))
	for i, step := range kept {
		steps[i] = Step{Number: step.Number, Words: step.Words, At: step.At, Done: step.Number <= p.Cursor}
	}
	return steps, nil
}

// travel goes to where as many steps are done as goal says.
func (a *App) travel(ctx context.Context, id string, revision int, goal func(store.Packet) (int, error)) (Change, error) {
	defer a.packets.lock(id)()
	before, sources, err := a.load(ctx, id)
	if err != nil {
		return Change{}, err
	}
	v, err := a.viewer(ctx, id, sources)
	if err != nil {
		return Change{}, err
	}
	if before.Revision != revision {
		return Change{}, &ConflictError{v.packet(before)}
	}
	step, err := goal(before)
	if err != nil {
		return Change{}, err
	}
	next, err := a.stateAt(ctx, before, step)
	if err != nil {
		return Change{}, err
	}
	if err := a.store.MarkAt(ctx, before, next, step); err != nil {
		return Change{}, err
	}
	after, err := a.store.Packet(ctx, id)
	if err != nil {
		return Change{}, err
	}
	a.announce(after)
	return v.change(before, after, packet.Diff(before.State, next)), nil
}

// stateAt is a packet's state where this many of its steps are done.
func (a *App) stateAt(ctx context.Context, p store.Packet, step int) (packet.Packet, error) {
	state := p.State
	for at := p.Cursor; at > step; at-- {
		taken, err := a.store.Step(ctx, p.ID, at)
		if err != nil {
			return state, err
		}
		if state, err = taken.Delta.Back(state); err != nil {
			return state, err
		}
	}
	for at := p.Cursor; at < step; at++ {
		taken, err := a.store.Step(ctx, p.ID, at+1)
		if err != nil {
			return state, err
		}
		if state, err = taken.Delta.Forward(state); err != nil {
			return state, err
		}
	}
	return state, nil
}

// announce tells the listeners that a packet changed.
func (a *App) announce(p store.Packet) {
	a.events.send(Event{Kind: "packet", Packet: p.ID, Revision: p.Revision})
}

func (a *App) load(ctx context.Context, id string) (store.Packet, []store.Source, error) {
	p, err := a.store.Packet(ctx, id)
	if err != nil {
		return p, nil, err
	}
	sources, err := a.store.Sources(ctx, id)
	return p, sources, err
}

// known is what the rules of the packet need to know of its sources.
// A source is looked up for every page, so it is made ready once.
func known(sources []store.Source) packet.Known {
	ready := make(map[packet.SourceID]packet.Source, len(sources))
	return packet.Known{Source: func(id packet.SourceID) (packet.Source, bool) {
		if source, ok := ready[id]; ok {
			return source, true
		}
		for _, source := range sources {
			if source.ID == string(id) && source.State == store.SourceReady {
				ready[id] = knownSource(source)
				return ready[id], true
			}
		}
		return packet.Source{}, false
	}}
}

func knownSource(source store.Source) packet.Source {
	pages := make([]packet.SourcePage, len(source.Pages))
	for i, page := range source.Pages {
		pages[i] = packet.SourcePage{Size: page.Size, Scanned: page.Scanned}
	}
	return packet.Source{Name: source.Name, Title: partTitle(source.Name), Pages: pages}
}
