package scanning

import (
	"context"
	"log/slog"

	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/packets"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Pictures *render.Pictures
	Sources  *sources.Opener
	Packets  *packets.Service
	Gather   *gather.Service
	Runner   *jobs.Runner
	Reader   ocr.Reader
	Log      *slog.Logger
	Limits   intake.Limits
	Life     context.Context //nolint:containedctx // ends when the application does: scans outlive a request
	// Changed is told that the batch of a packet has changed.
	Changed func(packetID string)
}

// Service scans. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	pictures *render.Pictures
	sources  *sources.Opener
	packets  *packets.Service
	gather   *gather.Service
	runner   *jobs.Runner
	reader   ocr.Reader
	log      *slog.Logger
	limits   intake.Limits
	life     context.Context //nolint:containedctx // as in Deps
	changed  func(packetID string)
	batches  packets.Locks // changes of one packet's batch are made one after another
	scans    scans
}

// New returns a service, and has the runner do its jobs.
func New(d Deps) *Service {
	s := &Service{
		store: d.Store, pictures: d.Pictures, sources: d.Sources, packets: d.Packets, gather: d.Gather, runner: d.Runner,
		reader: d.Reader, log: d.Log, limits: d.Limits, life: d.Life, changed: d.Changed,
		scans: scans{under: map[string]*underWay{}},
	}
	d.Runner.Handle(jobs.Kind{Name: store.JobPageNumber, Do: s.readNumber})
	return s
}

// Stop stops the scan of a packet, if there is one.
func (s *Service) Stop(packetID string) { s.scans.stop(packetID) }
