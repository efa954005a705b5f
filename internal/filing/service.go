package filing

import (
	"log/slog"
	"sync"

	"dorbin/internal/export"
	"dorbin/internal/folders"
	"dorbin/internal/gather"
	"dorbin/internal/packets"
	"dorbin/internal/render"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Engine   *render.Engine
	Pictures *render.Pictures
	Pool     *worker.Pool
	Packets  *packets.Service
	Gather   *gather.Service
	Export   *export.Service
	Log      *slog.Logger
	Folders  folders.List
	MaxBytes int64                 // of a file
	Changed  func(packetID string) // the file that it was opened from, by saving it
}

// Service opens files of folders, and saves them back. It is safe for concurrent use.
type Service struct {
	store    *store.Store
	engine   *render.Engine
	pictures *render.Pictures
	pool     *worker.Pool
	packets  *packets.Service
	gather   *gather.Service
	export   *export.Service
	log      *slog.Logger
	folders  folders.List
	maxBytes int64
	changed  func(packetID string)
	locks    packets.Locks // one file is saved by one packet at a time
	same     sync.Map      // of origins' hashes, the last time at which a file had these bytes
}

// New returns a service.
func New(d Deps) *Service {
	return &Service{
		store: d.Store, engine: d.Engine, pictures: d.Pictures, pool: d.Pool, packets: d.Packets, gather: d.Gather, export: d.Export,
		log: d.Log, folders: d.Folders, maxBytes: d.MaxBytes, changed: d.Changed,
	}
}

// Folders names the folders that the installation allows.
func (s *Service) Folders() []string { return s.folders.Names() }
