package app

import (
	"context"
	"errors"
	"fmt"

	"dorbin/core/geometry"
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
	state, _, err := packet.Apply(packet.New(""), []packet.Command{{Do: "rename", Title: name}}, nil)
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
	return viewPacket(p, sources), nil
}

// Packets lists all packets, the last changed first.
func (a *App) Packets(ctx context.Context) ([]PacketCard, error) {
	packets, err := a.store.Packets(ctx)
	if err != nil {
		return nil, err
	}
	cards := make([]PacketCard, len(packets))
	for i, p := range packets {
		sources, err := a.store.Sources(ctx, p.ID)
		if err != nil {
			return nil, err
		}
		cards[i] = viewCard(p, sources)
	}
	return cards, nil
}

// DeletePacket deletes a packet and everything that belongs to it alone.
func (a *App) DeletePacket(ctx context.Context, id string) error {
	a.commands.Lock()
	defer a.commands.Unlock()
	exports, err := a.store.Exports(ctx, id)
	if err != nil {
		return err
	}
	for _, e := range exports {
		a.running.stop(e.ID)
	}
	if err := a.store.DeletePacket(ctx, id); err != nil {
		return err
	}
	a.log.Info("packet deleted", "packet", id)
	a.events.send(Event{Kind: "deleted", Packet: id})
	return nil
}

// Apply carries out a list of commands made for a revision, as one step of
// undo. A wrong revision is a *ConflictError; a command that cannot be carried
// out wraps packet.ErrInvalid, and nothing is changed.
func (a *App) Apply(ctx context.Context, id string, revision int, commands []packet.Command) (Packet, error) {
	a.commands.Lock()
	defer a.commands.Unlock()
	p, sources, err := a.load(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	if p.Revision != revision {
		return Packet{}, &ConflictError{viewPacket(p, sources)}
	}
	return a.apply(ctx, p, sources, commands)
}

// applyNow carries out commands on whatever revision the packet has.
func (a *App) applyNow(ctx context.Context, id string, commands []packet.Command) (Packet, error) {
	a.commands.Lock()
	defer a.commands.Unlock()
	p, sources, err := a.load(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	return a.apply(ctx, p, sources, commands)
}

// apply is called with a.commands held.
func (a *App) apply(ctx context.Context, p store.Packet, sources []store.Source, commands []packet.Command) (Packet, error) {
	next, words, err := packet.Apply(p.State, commands, sizesOf(sources))
	if err != nil {
		return Packet{}, err
	}
	delta := packet.Diff(p.State, next)
	if delta.Empty() {
		return viewPacket(p, sources), nil
	}
	step := store.Step{Words: words, Commands: commands, Delta: delta}
	p, err = a.store.Append(ctx, p, next, step)
	if err != nil {
		return Packet{}, err
	}
	return a.changed(p, sources), nil
}

// Undo takes the last step back.
func (a *App) Undo(ctx context.Context, id string) (Packet, error) {
	return a.travel(ctx, id, ErrNothingToUndo, a.store.UndoStep, packet.Delta.Back, a.store.MarkUndone)
}

// Redo does the step again that was undone last.
func (a *App) Redo(ctx context.Context, id string) (Packet, error) {
	return a.travel(ctx, id, ErrNothingToRedo, a.store.RedoStep, packet.Delta.Forward, a.store.MarkRedone)
}

func (a *App) travel(
	ctx context.Context, id string, atTheEnd error,
	step func(context.Context, store.Packet) (store.Step, error),
	apply func(packet.Delta, packet.Packet) (packet.Packet, error),
	mark func(context.Context, store.Packet, packet.Packet) error,
) (Packet, error) {
	a.commands.Lock()
	defer a.commands.Unlock()
	p, sources, err := a.load(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	taken, err := step(ctx, p)
	if errors.Is(err, store.ErrNotFound) {
		return Packet{}, atTheEnd
	}
	if err != nil {
		return Packet{}, err
	}
	next, err := apply(taken.Delta, p.State)
	if err != nil {
		return Packet{}, err
	}
	if err := mark(ctx, p, next); err != nil {
		return Packet{}, err
	}
	p, err = a.store.Packet(ctx, id)
	if err != nil {
		return Packet{}, err
	}
	return a.changed(p, sources), nil
}

// changed tells the listeners and shows the packet.
func (a *App) changed(p store.Packet, sources []store.Source) Packet {
	a.events.send(Event{Kind: "packet", Packet: p.ID, Revision: p.Revision})
	return viewPacket(p, sources)
}

func (a *App) load(ctx context.Context, id string) (store.Packet, []store.Source, error) {
	p, err := a.store.Packet(ctx, id)
	if err != nil {
		return p, nil, err
	}
	sources, err := a.store.Sources(ctx, id)
	return p, sources, err
}

func sizesOf(sources []store.Source) packet.SourcePages {
	return func(id packet.SourceID) ([]geometry.Size, bool) {
		for _, source := range sources {
			if source.ID == string(id) && source.State == store.SourceReady {
				sizes := make([]geometry.Size, len(source.Pages))
				for i, page := range source.Pages {
					sizes[i] = page.Size
				}
				return sizes, true
			}
		}
		return nil, false
	}
}
