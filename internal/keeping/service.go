package keeping

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/filing"
	"dorbin/internal/packets"
	"dorbin/internal/store"
)

// Deps are what a Service works with.
type Deps struct {
	Store   *store.Store
	Packets *packets.Service
	Filing  *filing.Service
	Log     *slog.Logger
}

// Service keeps and deletes packets. It is safe for concurrent use.
type Service struct {
	store   *store.Store
	packets *packets.Service
	filing  *filing.Service
	log     *slog.Logger
}

// New returns a service.
func New(d Deps) *Service {
	return &Service{store: d.Store, packets: d.Packets, filing: d.Filing, log: d.Log}
}

// Keeping is how long a packet is kept, and what belongs to it.
type Keeping struct {
	Until    string   `json:"until,omitempty" doc:"The last day that it is kept, as 2026-03-31; missing where it is kept for good."`
	Lines    bool     `json:"lines" doc:"Whether a line stays of what was handed in when it is deleted."`
	Holdings Holdings `json:"holdings" doc:"What is deleted with it."`
}

// Holdings are what belongs to a packet.
type Holdings struct {
	Sources  int   `json:"sources" doc:"Files, scans and photographs that came in."`
	Pages    int   `json:"pages" doc:"With those that were set aside."`
	Texts    int   `json:"texts" doc:"Pages whose text is kept."`
	Exports  int   `json:"exports"`
	HandedIn int   `json:"handedIn" doc:"Documents that were handed in."`
	Earlier  int   `json:"earlier" doc:"Earlier versions in the folder that it was opened from: they stay there, unless its last day comes."`
	Bytes    int64 `json:"bytes" doc:"Of its files; other packets may have some of them too."`
}

// Get tells how long a packet is kept.
func (s *Service) Get(ctx context.Context, packetID string) (Keeping, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return Keeping{}, err
	}
	h, err := s.store.Holdings(ctx, packetID)
	return Keeping{
		Until: p.Until, Lines: p.Lines,
		Holdings: Holdings{h.Sources, p.State.PageCount() + len(p.State.SetAside), h.Texts, h.Exports, h.HandedIn, h.Earlier, h.Bytes},
	}, err
}

// KeepOrder says how long a packet is to be kept.
type KeepOrder struct {
	Until string `json:"until,omitempty" doc:"The last day, as 2026-03-31; without it, for good."`
	Lines bool   `json:"lines" doc:"Whether a line stays of what was handed in when it is deleted."`
}

// Set says how long a packet is kept.
func (s *Service) Set(ctx context.Context, packetID string, order KeepOrder) (Keeping, error) {
	if order.Until != "" {
		day, err := time.Parse(time.DateOnly, order.Until)
		if err != nil {
			return Keeping{}, problem.New(problem.Invalid, "“%s” is no day: one is like 2026-03-31", order.Until)
		}
		if order.Until < time.Now().Format(time.DateOnly) {
			return Keeping{}, problem.New(problem.Invalid, "%s is over: the packet would be deleted at once. Delete it, if that is meant", day.Format("2 January 2006"))
		}
	}
	if err := s.store.SetKeeping(ctx, packetID, store.Keeping{Until: order.Until, Lines: order.Lines}); err != nil {
		return Keeping{}, err
	}
	return s.Get(ctx, packetID)
}

// Delete deletes a packet now, and tells what went.
func (s *Service) Delete(ctx context.Context, packetID string) (Holdings, error) {
	keeping, err := s.Get(ctx, packetID)
	if err != nil {
		return Holdings{}, err
	}
	return keeping.Holdings, s.packets.Delete(ctx, packetID)
}

// restsFor is how long nobody has changed a packet before it is deleted: it does not go while somebody
// works on it past midnight.
const restsFor = time.Hour

// DeleteDue deletes the packets whose last day is over.
func (s *Service) DeleteDue(ctx context.Context, now time.Time) error {
	ids, err := s.store.PacketsKeptUntilBefore(ctx, now.Format(time.DateOnly), now.Add(-restsFor))
	if err != nil {
		return err
	}
	var problems []error
	for _, id := range ids {
		if err := s.filing.RemoveEarlier(ctx, id); err != nil {
			// Its folder may be away for good: the packet's content goes all the same.
			s.log.Warn("earlier versions in a folder stay", "packet", id, "error", err)
		}
		err := s.packets.Delete(ctx, id)
		if err != nil && !errors.Is(err, store.ErrNotFound) {
			problems = append(problems, fmt.Errorf("delete packet %s, whose day has come: %w", id, err))
			continue
		}
		s.log.Info("packet kept no longer", "packet", id)
	}
	return errors.Join(problems...)
}

// DeliveryLine is what stays of a document that was handed in.
type DeliveryLine struct {
	ID       string                `json:"id"`
	Packet   string                `json:"packet" doc:"The name of the packet."`
	Receiver string                `json:"receiver,omitempty"`
	Name     string                `json:"name" doc:"The file's name."`
	Bytes    int64                 `json:"bytes"`
	Pages    int                   `json:"pages"`
	SHA256   string                `json:"sha256"`
	Delivery requirements.Delivery `json:"delivery"`
	Answer   message.Text          `json:"answer,omitzero"`
	Ended    time.Time             `json:"ended"`
}

// Lines lists what was handed in of packets that are deleted, the newest first.
func (s *Service) Lines(ctx context.Context) ([]DeliveryLine, error) {
	all, err := s.store.HandedIn(ctx)
	if err != nil {
		return nil, err
	}
	lines := make([]DeliveryLine, len(all))
	for i, h := range all {
		lines[i] = DeliveryLine(h)
	}
	return lines, nil
}

// ForgetLine removes a line for good.
func (s *Service) ForgetLine(ctx context.Context, id string) error {
	return s.store.ForgetHandedIn(ctx, id)
}
