package export

import (
	"context"
	"encoding/json"
	"fmt"

	"dorbin/core/finish"
	"dorbin/core/packet"
	"dorbin/internal/store"
)

// Snapshot is a packet as it stood when a document was made of it.
type Snapshot struct {
	Packet      packet.Packet // without what was set aside
	IsSelection bool          // the document has some of its pages alone, and so has the packet here
	Facts       finish.Facts  // that its texts tell
}

// Snapshot gives what a document was made of.
func (s *Service) Snapshot(ctx context.Context, id string) (Snapshot, error) {
	e, err := s.store.Export(ctx, id)
	if err != nil {
		return Snapshot{}, err
	}
	return snapshotOf(e)
}

func snapshotOf(e store.Export) (Snapshot, error) {
	var request exportRequest
	if err := json.Unmarshal([]byte(e.Request), &request); err != nil {
		return Snapshot{}, fmt.Errorf("decode export: %w", err)
	}
	p := packet.Packet{Name: request.Title, Parts: request.Parts, Finish: request.Finish, Receiver: request.Receiver}
	return Snapshot{p, len(request.Numbers) > 0, request.Facts}, nil
}

// Since is what changed in a packet since a document was made of it.
type Since struct {
	Pages  []packet.PageID `json:"pages" nullable:"false" doc:"That are not as they were, or are new."`
	Gone   int             `json:"gone,omitempty" doc:"Pages of the document that the packet has no longer."`
	Order  bool            `json:"order,omitempty" doc:"Pages follow each other otherwise."`
	Titles bool            `json:"titles,omitempty" doc:"Parts have other titles, or other pages."`
	Finish bool            `json:"finish,omitempty" doc:"Something else is added to the document."`
}

// ChangedSince tells what changed in a packet since a document was made of it; nil is nothing.
func (s *Service) ChangedSince(ctx context.Context, id string) (*Since, error) {
	e, err := s.store.Export(ctx, id)
	if err != nil {
		return nil, err
	}
	made, err := snapshotOf(e)
	if err != nil {
		return nil, err
	}
	p, err := s.store.Packet(ctx, e.Packet)
	if err != nil {
		return nil, err
	}
	c := p.State.Since(made.Packet, made.IsSelection)
	if !c.Any() {
		return nil, nil
	}
	return &Since{append([]packet.PageID{}, c.Pages...), c.Gone, c.Order, c.Titles, c.Finish}, nil
}
