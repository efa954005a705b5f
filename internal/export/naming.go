package export

import (
	"context"
	"fmt"
	"path/filepath"
	"strings"
	"time"

	"dorbin/core/finish"
	"dorbin/core/packet"
	"dorbin/internal/store"
)

// naming fills in the fields of file names: those of texts on pages that are the same on all, and
// {date}, {time} and {counter}, which counts the packet's exports.
type naming struct {
	finish finish.Finish
	facts  finish.Facts
	at     time.Time
	number int
}

// naming is that of the next export of a packet.
func (s *Service) naming(ctx context.Context, p store.Packet, receiver string, at time.Time) (naming, error) {
	earlier, err := s.store.CountExports(ctx, p.ID)
	facts := finish.Facts{Packet: p.State.Name, Receiver: receiver, Date: at.Format(time.DateOnly)}
	return naming{p.State.Finish, facts, at, earlier + 1}, err
}

func (n naming) fill(pattern string) string {
	pattern = strings.NewReplacer("{time}", n.at.Format("1504"), "{counter}", fmt.Sprintf("%03d", n.number)).Replace(pattern)
	return n.finish.Fill(pattern, n.facts)
}

// fileName is the name of what an order makes, whatever extension was typed.
func (n naming) fileName(order ExportOrder) string {
	extension := extensions[order.Make]
	if order.Name == "" {
		return packet.ProposeFileName(n.facts.Packet, extension)
	}
	name := order.Name
	if typed := filepath.Ext(name); contentTypes[strings.ToLower(typed)] != "" {
		name = strings.TrimSuffix(name, typed)
	}
	return packet.SafeFileName(n.fill(name), extension)
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
	sizing, err := s.sizing(ctx, packetID)
	if err != nil {
		return "", err
	}
	n, err := s.naming(ctx, p, sizing.Receiver, time.Now())
	return n.fileName(order), err
}
