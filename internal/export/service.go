package export

import (
	"log/slog"

	"golang.org/x/sync/singleflight"

	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/packets"
	"dorbin/internal/reading"
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
	Reader   ocr.Reader
	Reading  *reading.Service
	Log      *slog.Logger
	// Changed is told how an export stands now.
	Changed func(Export)
	// Planned is told that the plan for a packet has changed.
	Planned func(packetID string)
}

// Service makes documents. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	engine   *render.Engine
	pool     *worker.Pool
	pictures *render.Pictures
	sources  *sources.Opener
	packets  *packets.Service
	runner   *jobs.Runner
	reader   ocr.Reader
	reading  *reading.Service
	log      *slog.Logger
	changed  func(Export)
	planned  func(packetID string)
	proofs   singleflight.Group // proofs that are being written
	room     pixelRoom
	secrets  secrets
}

// New returns a service, and has the runner do its jobs.
func New(d Deps) *Service {
	s := &Service{
		store: d.Store, engine: d.Engine, pool: d.Pool, pictures: d.Pictures, sources: d.Sources, packets: d.Packets, runner: d.Runner,
		reader: d.Reader, reading: d.Reading, log: d.Log, changed: d.Changed, planned: d.Planned, room: newPixelRoom(),
	}
	d.Runner.Handle(jobs.Kind{
		Name: store.JobExport, Do: s.runExport, GiveUp: s.giveUpExport, Cancelled: s.exportCancelled, Foreground: true,
	})
	d.Runner.Handle(jobs.Kind{Name: store.JobMeasure, Do: s.measurePacket, GiveUp: s.giveUpMeasuring})
	d.Runner.Handle(jobs.Kind{Name: store.JobComparePages, Do: s.compareExport, GiveUp: s.giveUpComparing})
	d.Runner.Handle(jobs.Kind{Name: store.JobCompareWords, Do: s.readExport, GiveUp: s.giveUpReading})
	return s
}
