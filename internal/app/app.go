package app

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"path/filepath"
	"time"

	"dorbin/core/finish"
	"dorbin/internal/arrange"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/filing"
	"dorbin/internal/gather"
	"dorbin/internal/handin"
	"dorbin/internal/intake"
	"dorbin/internal/jobs"
	"dorbin/internal/keeping"
	"dorbin/internal/ocr"
	"dorbin/internal/packets"
	"dorbin/internal/reading"
	"dorbin/internal/receivers"
	"dorbin/internal/render"
	"dorbin/internal/scanning"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// App is the running application: its rooms, wired together.
type App struct {
	Packets   *packets.Service
	Checking  *checking.Service
	Reading   *reading.Service
	Receivers *receivers.Service
	Arrange   *arrange.Service
	Gather    *gather.Service
	Scanning  *scanning.Service
	Export    *export.Service
	HandIn    *handin.Service
	Filing    *filing.Service
	Keeping   *keeping.Service

	store    *store.Store
	pool     *worker.Pool
	engine   *render.Engine
	pictures *render.Pictures
	runner   *jobs.Runner
	log      *slog.Logger
	events   hub
	stop     context.CancelFunc
}

// Options configure an App.
type Options struct {
	Folder string // all data
	Limits intake.Limits
	Reader ocr.Reader // of the text in pictures
	// Languages are those that text is read in where nothing else was said, by tesseract's names.
	Languages []string
	Log       *slog.Logger
	// CodeCache is where compiled PDFium is kept; in the data folder when it is empty.
	CodeCache string
	// WorkerProgram is started as workers; this program itself when it is empty.
	WorkerProgram string
	// HandIn is what the installation allows for handing in. The key file is in the data folder when it
	// is empty.
	HandIn handin.Settings
	// KeepDays is how many days new packets are kept, if nothing else is said; 0 is for good.
	KeepDays int
	// Finish is what new packets begin with.
	Finish finish.Finish
}

// Open opens the data folder and takes up the jobs that were under way. It does not wait for
// PDFium, which workers start.
func Open(ctx context.Context, o Options) (_ *App, err error) {
	db, err := store.Open(o.Folder)
	if err != nil {
		return nil, err
	}
	if err := clearCaches(db.CacheFolder()); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	if o.CodeCache == "" {
		o.CodeCache = filepath.Join(db.CacheFolder(), "pdfium")
	}
	command, err := workerCommand(o.WorkerProgram, o.CodeCache, db)
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	pool := worker.NewPool(o.Log, db.ScratchFolder(), command...)
	engine := render.NewEngine(pool)
	opener := sources.NewOpener(db, engine, pool, o.Log)
	runner := jobs.New(db, o.Log)
	pictures, err := render.NewPictures(engine, db, opener.DecodeImage, runner.Foreground)
	if err != nil {
		pool.Close()
		return nil, errors.Join(err, db.Close())
	}
	a := &App{store: db, pool: pool, engine: engine, pictures: pictures, runner: runner, log: o.Log, events: newHub()}
	life, stop := context.WithCancel(ctx)
	a.stop = stop
	a.wire(life, o, command, pictures, opener)
	if err := errors.Join(a.Export.ReadOlder(ctx), runner.Start(ctx)); err != nil {
		return nil, errors.Join(err, a.Close())
	}
	pool.Start()
	runner.Go(life, "sweep", a.sweep)
	runner.Go(life, "keeping", a.deleteDue)
	return a, nil
}

// IsReady tells whether pages can be drawn. At its first start the program prepares for that in
// the background.
func (a *App) IsReady() bool { return a.pool.IsReady() }

// wire makes the rooms, from those that need nobody to those that need the others. Workers is the
// command that starts one.
func (a *App) wire(life context.Context, o Options, workers []string, pictures *render.Pictures, opener *sources.Opener) {
	o.Reader.Confined = []string{workers[0], workers[1], ocr.Run}
	tell := func(kind string) func(string) {
		return func(packetID string) { a.events.send(Event{Kind: kind, Packet: packetID}) }
	}
	a.Checking = checking.New(checking.Deps{
		Store: a.store, Engine: a.engine, Pictures: pictures, Sources: opener, Runner: a.runner, Reader: o.Reader, Log: o.Log,
		Changed: tell("findings"),
		Marked: func(m checking.Marking) {
			a.events.send(Event{Kind: "reviewed", Packet: m.Packet, Revision: m.Revision, Pages: m.Pages, Reviewed: m.Checked})
		},
	})
	unhurried := o.Reader
	unhurried.Yields = true
	a.Reading = reading.New(reading.Deps{
		Store: a.store, Engine: a.engine, Pictures: pictures, Sources: opener, Runner: a.runner, Reader: unhurried,
		Office: officeOf(workers, a.store), Log: o.Log, Languages: o.Languages, Changed: tell("text"),
	})
	a.Packets = packets.New(packets.Deps{
		Store: a.store, Checking: a.Checking, Pictures: pictures, Sources: opener, Runner: a.runner, Log: o.Log, KeepDays: o.KeepDays, Finish: o.Finish,
		Changed: func(c packets.Change) {
			a.events.send(Event{Kind: "packet", Packet: c.ID, Change: &c})
			if err := a.Reading.PagesCame(life, c.ID); err != nil && life.Err() == nil {
				o.Log.Error("pages that came in are not read", "packet", c.ID, "error", err)
			}
		},
		Deleting: func(id string) { a.Scanning.Stop(id) },
		Deleted: func(id string) {
			if err := a.engine.CloseRemoved(); err != nil {
				o.Log.Error("documents of a deleted packet stay open", "packet", id, "error", err)
			}
			a.events.send(Event{Kind: "deleted", Packet: id})
		},
	})
	a.Arrange = arrange.New(arrange.Deps{
		Store: a.store, Engine: a.engine, Pictures: pictures, Sources: opener, Checking: a.Checking, Runner: a.runner,
	})
	a.Gather = gather.New(gather.Deps{
		Store: a.store, Engine: a.engine, Pool: a.pool, Pictures: pictures, Sources: opener, Packets: a.Packets, Runner: a.runner, Log: o.Log,
		Limits: o.Limits, Office: officeOf(workers, a.store), Changed: tell("sources"),
	})
	a.Scanning = scanning.New(scanning.Deps{
		Store: a.store, Pictures: pictures, Sources: opener, Packets: a.Packets, Gather: a.Gather, Runner: a.runner,
		Reader: o.Reader, Log: o.Log, Limits: o.Limits, Life: life, Changed: tell("batch"),
	})
	a.Export = export.New(export.Deps{
		Store: a.store, Engine: a.engine, Pool: a.pool, Pictures: pictures, Sources: opener, Packets: a.Packets, Runner: a.runner,
		Reader: o.Reader, Reading: a.Reading, Log: o.Log, Planned: tell("plan"),
		Changed: func(e export.Export) { a.events.send(Event{Kind: "export", Packet: e.Packet, Export: &e}) },
	})
	o.HandIn.KeyFile = cmp.Or(o.HandIn.KeyFile, filepath.Join(o.Folder, "passwords.key"))
	a.HandIn = handin.New(handin.Deps{
		Store: a.store, Export: a.Export, Runner: a.runner, Log: o.Log, Settings: o.HandIn, Changed: tell("delivery"),
	})
	a.Filing = filing.New(filing.Deps{
		Store: a.store, Engine: a.engine, Pictures: pictures, Pool: a.pool, Packets: a.Packets, Gather: a.Gather, Export: a.Export, Log: o.Log,
		Folders: o.HandIn.Folders, MaxBytes: o.Limits.FileBytes, Changed: tell("origin"),
	})
	a.Keeping = keeping.New(keeping.Deps{Store: a.store, Packets: a.Packets, Filing: a.Filing, Log: o.Log})
	a.Receivers = receivers.New(receivers.Deps{Store: a.store, Packets: a.Packets, Checking: a.Checking, Reading: a.Reading, Export: a.Export})
}

// clearCaches removes what this version of the program may make otherwise: proofs, pages as they were written, and the
// caches of versions that did not keep in them what belongs to which file.
func clearCaches(folder string) error {
	old := []string{filepath.Join(folder, "pictures"), filepath.Join(folder, "proofs")}
	for _, prefix := range []string{export.ProofPrefix, export.WrittenPrefix} {
		derived, err := filepath.Glob(filepath.Join(folder, "derived", "*", "*", prefix+"*"))
		if err != nil {
			return fmt.Errorf("search what was derived: %w", err)
		}
		old = append(old, derived...)
	}
	for _, path := range old {
		if err := os.RemoveAll(path); err != nil {
			return fmt.Errorf("clear the cache: %w", err)
		}
	}
	return nil
}

// Close stops the jobs, which go on at the next start, and closes the data.
func (a *App) Close() error {
	a.stop()
	a.runner.Close()
	a.events.close()
	a.pool.Close()
	return a.store.Close()
}

// sweepEvery is how often files are searched for that nobody owns.
const sweepEvery = 24 * time.Hour

// sweep removes files that nobody owns: now, and once a day.
func (a *App) sweep(ctx context.Context) {
	every(ctx, sweepEvery, func() {
		if err := a.store.Sweep(ctx); err != nil && ctx.Err() == nil {
			a.log.Error("files not swept", "error", err)
		}
	})
}

// deleteDueEvery is how often packets are searched for that are kept no longer.
const deleteDueEvery = time.Hour

// deleteDue deletes packets that are kept no longer: now, and every hour.
func (a *App) deleteDue(ctx context.Context) {
	every(ctx, deleteDueEvery, func() {
		if err := a.Keeping.DeleteDue(ctx, time.Now()); err != nil && ctx.Err() == nil {
			a.log.Error("packets not deleted", "error", err)
		}
	})
}

// every does something now, and again and again until the context ends.
func every(ctx context.Context, interval time.Duration, do func()) {
	ticker := time.NewTicker(interval)
	defer ticker.Stop()
	for ctx.Err() == nil {
		do()
		select {
		case <-ctx.Done():
		case <-ticker.C:
		}
	}
}
