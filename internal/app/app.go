package app

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"image"
	"log/slog"
	"path/filepath"
	"strings"
	"sync"

	"dorbin/core/check"
	"dorbin/internal/intake"
	"dorbin/internal/render"
	"dorbin/internal/store"
)

// ErrNotFound is returned for a packet, source, page or export that is not
// there.
var ErrNotFound = store.ErrNotFound

// App is the running application.
type App struct {
	store    *store.Store
	engine   *render.Engine
	pictures *render.Pictures
	inspect  intake.Inspector
	log      *slog.Logger
	events   hub

	commands  sync.Mutex // commands on packets are carried out one after another
	parsing   sync.Mutex // held while a parsed PDF, which may be large, is in memory
	weigh     chan string
	export    chan string
	look      chan string // sources whose pages are to be looked at
	seen      seenPages
	content   knownContent
	urgent    urgency     // what somebody waits for; looking at pages waits for it
	numbers   chan string // scanned pages whose printed number is to be read
	reread    chan string // documents whose pages are to be read
	measure   chan string // packets whose pages are to be measured
	measuring measurings
	proofs    *proofs
	running   runningExports
	scans     scans
	batches   sync.Mutex      // changes of batches are made one after another
	life      context.Context //nolint:containedctx // ends when the application does, for scans that outlive a request
	jobs      sync.WaitGroup
	stop      context.CancelFunc
}

// Options configure an App.
type Options struct {
	Folder string // all data
	Limits intake.Limits
	Log    *slog.Logger
}

// queueLength is more than one user has waiting; adding to a full queue waits.
const queueLength = 10_000

// Open opens the data folder, takes up the jobs that were under way, and starts
// PDFium.
func Open(ctx context.Context, o Options) (*App, error) {
	db, err := store.Open(o.Folder)
	if err != nil {
		return nil, err
	}
	engine, err := render.NewEngine(filepath.Join(db.Files.Cache(), "pdfium"))
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	pictures, err := render.NewPictures(engine, filepath.Join(db.Files.Cache(), "pictures"), decodeImage)
	if err != nil {
		return nil, errors.Join(err, engine.Close(), db.Close())
	}
	proofs, err := openProofs(filepath.Join(db.Files.Cache(), "proofs"))
	if err != nil {
		return nil, errors.Join(err, engine.Close(), db.Close())
	}
	ctx, stop := context.WithCancel(ctx)
	a := &App{
		store: db, engine: engine, pictures: pictures, log: o.Log, stop: stop,
		inspect: intake.Inspector{Limits: o.Limits, Engine: engine},
		events:  newHub(),
		weigh:   make(chan string, queueLength),
		export:  make(chan string, queueLength),
		look:    make(chan string, queueLength),
		seen:    seenPages{bySource: map[string][]*check.Signs{}, byPacket: map[string]knownTwins{}},
		numbers: make(chan string, queueLength),
		reread:  make(chan string, queueLength), measure: make(chan string, queueLength), measuring: measurings{packets: map[string]bool{}},
		running: runningExports{cancel: map[string]context.CancelFunc{}},
		scans:   scans{cancel: map[string]context.CancelFunc{}},
		proofs:  proofs,
		life:    ctx,
	}
	if err := a.resumeJobs(ctx); err != nil {
		return nil, errors.Join(err, a.Close())
	}
	a.startJob(ctx, a.weigh, a.weighSource)
	a.startJob(ctx, a.export, a.runExport)
	a.startJob(ctx, a.numbers, a.readNumber)
	a.startJob(ctx, a.look, a.lookAtSource)
	a.startJob(ctx, a.measure, a.measurePacket)
	a.startJob(ctx, a.reread, a.readExport)
	return a, nil
}

// Close stops the jobs, which go on at the next start, and closes the data.
func (a *App) Close() error {
	a.stop()
	a.jobs.Wait()
	a.events.close()
	return errors.Join(a.engine.Close(), a.store.Close())
}

// Limits are the limits on what is taken in.
func (a *App) Limits() intake.Limits { return a.inspect.Limits }

func (a *App) startJob(ctx context.Context, queue <-chan string, work func(context.Context, string)) {
	a.jobs.Add(1)
	go func() {
		defer a.jobs.Done()
		for {
			select {
			case <-ctx.Done():
				return
			case id := <-queue:
				work(ctx, id)
			}
		}
	}()
}

func (a *App) resumeJobs(ctx context.Context) error {
	sources, err := a.store.UnweighedSources(ctx)
	if err != nil {
		return err
	}
	for _, source := range sources {
		a.weigh <- source.ID
	}
	unseen, err := a.store.UnseenSources(ctx)
	if err != nil {
		return err
	}
	for _, id := range unseen {
		a.look <- id
	}
	exports, err := a.store.UnfinishedExports(ctx)
	if err != nil {
		return err
	}
	for _, e := range exports {
		a.log.Info("export taken up again", "export", e.ID, "packet", e.Packet)
		a.export <- e.ID
	}
	unread, err := a.store.UnreadExports(ctx)
	if err != nil {
		return err
	}
	for _, id := range unread {
		a.reread <- id
	}
	return nil
}

// newID makes an identifier that cannot be guessed.
func newID(prefix string) string { return prefix + strings.ToLower(rand.Text()[:16]) }

func decodeImage(path string, page, maxEdge int) (image.Image, error) {
	kind, err := intake.KindOf(path)
	if err != nil {
		return nil, err
	}
	images, err := intake.OpenImages(path, kind)
	if err != nil {
		return nil, err
	}
	defer images.Close() //nolint:errcheck // only read from
	if page < 1 || page > len(images.Pages) {
		return nil, fmt.Errorf("%w: page %d of an image file", ErrNotFound, page)
	}
	return images.Pages[page-1].Shrunk(maxEdge)
}
