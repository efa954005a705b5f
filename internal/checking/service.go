package checking

import (
	"log/slog"

	"dorbin/core/check"
	"dorbin/core/packet"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Engine   *render.Engine
	Pictures *render.Pictures
	Sources  *sources.Opener
	Runner   *jobs.Runner
	Reader   ocr.Reader // of the text in pictures
	Log      *slog.Logger
	// Changed is told that the findings of a packet have changed.
	Changed func(packetID string)
	// Marked is told that pages were checked, or that this was taken back.
	Marked func(Marking)
}

// Marking says that pages of a packet were checked as they stood at a revision, or that this was
// taken back.
type Marking struct {
	Packet   string
	Revision int
	Pages    []packet.PageID
	Checked  bool
}

// Service analyses pages and keeps what was found. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	engine   *render.Engine
	pictures *render.Pictures
	sources  *sources.Opener
	runner   *jobs.Runner
	reader   ocr.Reader
	log      *slog.Logger
	changed  func(packetID string)
	marked   func(Marking)
	cache    analysisCache
}

// New returns a service, and has the runner do its jobs.
func New(d Deps) *Service {
	s := &Service{
		store: d.Store, engine: d.Engine, pictures: d.Pictures, sources: d.Sources, runner: d.Runner, reader: d.Reader, log: d.Log,
		changed: d.Changed, marked: d.Marked,
		cache: analysisCache{bySource: map[string][]*check.PageAnalysis{}, byPacket: map[string]knownTwins{}},
	}
	d.Runner.Handle(jobs.Kind{Name: store.JobAnalyze, Do: s.analyzeSource, GiveUp: s.giveUpAnalyzing})
	d.Runner.Handle(jobs.Kind{Name: store.JobCompareInk, Do: s.compareInk, GiveUp: s.giveUpComparingInk})
	return s
}
