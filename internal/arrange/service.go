package arrange

import (
	"dorbin/internal/checking"
	"dorbin/internal/jobs"
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
	Checking *checking.Service
	Runner   *jobs.Runner
}

// Service finds what is on the pages of packets. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	engine   *render.Engine
	pictures *render.Pictures
	sources  *sources.Opener
	checking *checking.Service
	runner   *jobs.Runner
	content  knownContent
}

// New returns a service.
func New(d Deps) *Service {
	return &Service{store: d.Store, engine: d.Engine, pictures: d.Pictures, sources: d.Sources, checking: d.Checking, runner: d.Runner}
}
