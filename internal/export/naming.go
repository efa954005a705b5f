package export

import (
	"cmp"
	"context"
	"fmt"
	"path/filepath"
	"strings"
	"time"

	"dorbin/core/finish"
	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/store"
)

// naming fills in the fields of file names: those of texts on pages that are the same on all, and
// {date}, {time} and {counter}, which counts the packet's exports.
type naming struct {
	packet packet.Packet
	facts  finish.Facts
	at     time.Time
	number int
}

// naming is that of the next export of a packet.
func (s *Service) naming(ctx context.Context, p store.Packet, at time.Time) (naming, error) {
	earlier, err := s.store.CountExports(ctx, p.ID)
	facts := finish.Facts{Packet: p.State.Name, Receiver: p.State.ReceiverName(), Date: at.Format(time.DateOnly)}
	return naming{p.State, facts, at, earlier + 1}, err
}

func (n naming) fill(pattern string) string {
	pattern = strings.NewReplacer("{time}", n.at.Format("1504"), "{counter}", fmt.Sprintf("%03d", n.number)).Replace(pattern)
	return n.packet.Finish.Fill(pattern, n.facts)
}

// fileName is the name of what an order makes, whatever extension was typed, as the receiver wants it.
func (n naming) fileName(order ExportOrder) string {
	name := cmp.Or(order.Name, n.packet.ProposeFileName(""))
	if typed := filepath.Ext(name); contentTypes[strings.ToLower(typed)] != "" {
		name = strings.TrimSuffix(name, typed)
	}
	return n.asAsked(n.fill(name), extensions[order.Make])
}

// asAsked is a name of a file with its extension, as the receiver wants it.
func (n naming) asAsked(name, extension string) string {
	return joinedFor(n.packet.Receiver)(strings.TrimSuffix(packet.SafeFileName(name, extension), extension), extension)
}

// joinedFor puts a name and its ending together as a receiver wants it, if there is one.
func joinedFor(receiver *requirements.Receiver) func(name, ending string) string {
	if receiver == nil {
		return requirements.Rules{}.NameFor
	}
	return receiver.Rules.NameFor
}

// FileName is the name that the next export of a packet would have by a pattern.
func (s *Service) FileName(ctx context.Context, packetID string, order ExportOrder) (string, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return "", err
	}
	if err := order.check(); err != nil {
		return "", err
	}
	n, err := s.naming(ctx, p, time.Now())
	return n.fileName(order), err
}
