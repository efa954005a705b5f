package gather

import (
	"log/slog"

	"dorbin/internal/intake"
	"dorbin/internal/jobs"
	"dorbin/internal/office"
	"dorbin/internal/packets"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Engine   *render.Engine
	Pool     *worker.Pool
	Pictures *render.Pictures
	Sources  *sources.Opener
	Packets  *packets.Service
	Runner   *jobs.Runner
	Log      *slog.Logger
	Limits   intake.Limits
	Office   office.Converter
	// Changed is told that the sources of a packet have changed.
	Changed func(packetID string)
}

// Service takes files in. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	engine   *render.Engine
	pictures *render.Pictures
	sources  *sources.Opener
	packets  *packets.Service
	runner   *jobs.Runner
	log      *slog.Logger
	inspect  intake.Inspector
	changed  func(packetID string)
}

// New returns a service, and has the runner do its jobs.
func New(d Deps) *Service {
	s := &Service{
		store: d.Store, engine: d.Engine, pictures: d.Pictures, sources: d.Sources, packets: d.Packets, runner: d.Runner, log: d.Log,
		inspect: intake.Inspector{Limits: d.Limits, Engine: d.Engine, Pool: d.Pool, Office: d.Office}, changed: d.Changed,
	}
	d.Runner.Handle(jobs.Kind{Name: store.JobFacing, Do: s.searchFolds})
	d.Runner.Handle(jobs.Kind{Name: store.JobPageBytes, Do: s.measureSource, GiveUp: s.giveUpMeasuring})
	return s
}
