package app

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"image"
	"log/slog"
	"os"
	"path/filepath"
	"strings"
	"time"

	"golang.org/x/sync/semaphore"

	"dorbin/core/check"
	"dorbin/internal/intake"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
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
	reader   ocr.Reader
	log      *slog.Logger
	events   hub
	runner   *jobs.Runner

	packets locks               // commands on one packet are carried out one after another
	batches locks               // changes of one packet's batch are made one after another
	parsing *semaphore.Weighted // PDFs that are parsed, which may be large, and held in memory
	seen    seenPages
	content knownContent
	proofs  proofs
	scans   scans
	life    context.Context //nolint:containedctx // ends when the application does, for scans that outlive a request
	stop    context.CancelFunc
}

// Options configure an App.
type Options struct {
	Folder string // all data
	Limits intake.Limits
	Reader ocr.Reader // of the text in pictures
	Log    *slog.Logger
}

// mostParsed is how many parsed PDFs are in memory at once: one that is exported, and one
// that is looked at meanwhile.
const mostParsed = 2

// Open opens the data folder, starts PDFium, and takes up the jobs that were under way.
func Open(ctx context.Context, o Options) (_ *App, err error) {
	db, err := store.Open(o.Folder)
	if err != nil {
		return nil, err
	}
	if err := clearCaches(db.CacheFolder()); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	engine, err := render.NewEngine(filepath.Join(db.CacheFolder(), "pdfium"))
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	a := &App{
		store: db, engine: engine, log: o.Log,
		inspect: intake.Inspector{Limits: o.Limits, Engine: engine},
		reader:  o.Reader,
		events:  newHub(),
		parsing: semaphore.NewWeighted(mostParsed),
		seen:    seenPages{bySource: map[string][]*check.Signs{}, byPacket: map[string]knownTwins{}},
		scans:   scans{cancel: map[string]context.CancelFunc{}},
	}
	a.runner = jobs.New(db, o.Log, a.kinds()...)
	a.life, a.stop = context.WithCancel(ctx)
	a.pictures, err = render.NewPictures(engine, db, decodeImage, a.runner.Foreground)
	if err != nil {
		return nil, errors.Join(err, a.Close())
	}
	if err := errors.Join(a.readOlderExports(ctx), a.runner.Start(ctx)); err != nil {
		return nil, errors.Join(err, a.Close())
	}
	a.runner.Go(a.life, "sweep", a.sweep)
	return a, nil
}

// clearCaches removes what this version of the program may make otherwise: proofs, and the
// caches of versions that did not keep in them what belongs to which file.
func clearCaches(folder string) error {
	old, err := filepath.Glob(filepath.Join(folder, "derived", "*", "*", proofPrefix+"*"))
	if err != nil {
		return fmt.Errorf("look for old proofs: %w", err)
	}
	for _, path := range append(old, filepath.Join(folder, "pictures"), filepath.Join(folder, "proofs")) {
		if err := os.RemoveAll(path); err != nil {
			return fmt.Errorf("clear the cache: %w", err)
		}
	}
	return nil
}

// Kinds of jobs. Their keys are in parentheses.
const (
	jobPageBytes    = "pageBytes"    // (source) measures how many bytes the pages of a PDF are
	jobAnalyze      = "analyze"      // (source) looks at its pages for findings
	jobPageNumber   = "pageNumber"   // (packet and page of its batch) reads a scanned page's printed number
	jobMeasure      = "measure"      // (packet) measures how its pages can be encoded
	jobExport       = "export"       // (export) makes a document
	jobCompareWords = "compareWords" // (export) compares the words of a finished document
)

func (a *App) kinds() []jobs.Kind {
	return []jobs.Kind{
		{Name: jobExport, Do: a.runExport, GiveUp: a.giveUpExport, Foreground: true},
		{Name: jobPageBytes, Do: a.weighSource, GiveUp: a.giveUpWeighing},
		{Name: jobAnalyze, Do: a.lookAtSource, GiveUp: a.giveUpLooking},
		{Name: jobPageNumber, Do: a.readNumber},
		{Name: jobMeasure, Do: a.measurePacket, GiveUp: a.giveUpMeasuring},
		{Name: jobCompareWords, Do: a.readExport, GiveUp: a.giveUpReading},
	}
}

// Close stops the jobs, which go on at the next start, and closes the data.
func (a *App) Close() error {
	a.stop()
	a.runner.Close()
	a.events.close()
	return errors.Join(a.engine.Close(), a.store.Close())
}

// sweepEvery is how often files are looked for that nobody owns.
const sweepEvery = 24 * time.Hour

// sweep removes files that nobody owns: now, and once a day.
func (a *App) sweep(ctx context.Context) {
	ticker := time.NewTicker(sweepEvery)
	defer ticker.Stop()
	for ctx.Err() == nil {
		if err := a.store.Sweep(ctx); err != nil && ctx.Err() == nil {
			a.log.Error("files not swept", "error", err)
		}
		select {
		case <-ctx.Done():
		case <-ticker.C:
		}
	}
}

// Limits are the limits on what is taken in.
func (a *App) Limits() intake.Limits { return a.inspect.Limits }

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
