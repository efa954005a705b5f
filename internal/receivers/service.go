package receivers

import (
	"context"
	"fmt"
	"io"
	"slices"
	"strings"

	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/packets"
	"dorbin/internal/reading"
	"dorbin/internal/store"
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Packets  *packets.Service
	Checking *checking.Service
	Reading  *reading.Service
	Export   *export.Service
}

// Service keeps receivers, and holds packets against their rules. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	packets  *packets.Service
	checking *checking.Service
	reading  *reading.Service
	export   *export.Service
}

// New returns a service.
func New(d Deps) *Service {
	return &Service{store: d.Store, packets: d.Packets, checking: d.Checking, reading: d.Reading, export: d.Export}
}

// Known is a receiver that can be chosen.
type Known struct {
	ID       string                `json:"id"`
	Shipped  bool                  `json:"shipped" doc:"It came with the program, and is copied to be changed."`
	Receiver requirements.Receiver `json:"receiver"`
}

// shippedPrefix begins the ids of receivers that came with the program.
const shippedPrefix = "shipped-"

// List lists all receivers that can be chosen: those that were made here, then those that came with
// the program.
func (s *Service) List(ctx context.Context) ([]Known, error) {
	own, err := s.store.Receivers(ctx)
	if err != nil {
		return nil, err
	}
	all := []Known{}
	for _, r := range own {
		all = append(all, Known{ID: r.ID, Receiver: r.Receiver})
	}
	for i, r := range requirements.Shipped() {
		all = append(all, Known{ID: fmt.Sprintf("%s%d", shippedPrefix, i+1), Shipped: true, Receiver: r})
	}
	return all, nil
}

// Get gives one of them.
func (s *Service) Get(ctx context.Context, id string) (Known, error) {
	all, err := s.List(ctx)
	if err != nil {
		return Known{}, err
	}
	at := slices.IndexFunc(all, func(k Known) bool { return k.ID == id })
	if at < 0 {
		return Known{}, fmt.Errorf("%w: receiver %s", store.ErrNotFound, id)
	}
	return all[at], nil
}

// Add keeps a new receiver.
func (s *Service) Add(ctx context.Context, r requirements.Receiver) (Known, error) {
	return s.keep(ctx, store.NewID("r"), r)
}

// Change replaces a receiver that was made here. Packets that are for it keep what they were told.
func (s *Service) Change(ctx context.Context, id string, r requirements.Receiver) (Known, error) {
	if strings.HasPrefix(id, shippedPrefix) {
		return Known{}, problem.New(problem.Invalid, "what came with the program stays as it is: copy it, and change the copy")
	}
	if _, err := s.store.Receiver(ctx, id); err != nil {
		return Known{}, err
	}
	return s.keep(ctx, id, r)
}

func (s *Service) keep(ctx context.Context, id string, r requirements.Receiver) (Known, error) {
	r = r.Tidy()
	if err := r.Check(); err != nil {
		return Known{}, err
	}
	return Known{ID: id, Receiver: r}, s.store.KeepReceiver(ctx, store.Receiver{ID: id, Receiver: r})
}

// Remove forgets a receiver that was made here.
func (s *Service) Remove(ctx context.Context, id string) error {
	if strings.HasPrefix(id, shippedPrefix) {
		return problem.New(problem.Invalid, "what came with the program cannot be removed")
	}
	if _, err := s.store.Receiver(ctx, id); err != nil {
		return err
	}
	return s.store.DeleteReceiver(ctx, id)
}

// Import keeps a receiver that was shared as a file.
func (s *Service) Import(ctx context.Context, file io.Reader) (Known, error) {
	r, err := requirements.ReadFile(file)
	if err != nil {
		return Known{}, err
	}
	return s.Add(ctx, r)
}
