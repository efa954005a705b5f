package app

import (
	"errors"
	"fmt"
	"os"

	"dorbin/internal/assembly"
	"dorbin/internal/confine"
	"dorbin/internal/intake"
	"dorbin/internal/ocr"
	"dorbin/internal/office"
	"dorbin/internal/render/pdfium"
	"dorbin/internal/sources"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// WorkerArgument is the first argument of the program where it is to be a worker.
const WorkerArgument = "worker"

// workerCommand starts a program, this one if none is given, as a worker that reads stored files
// and what is derived from them, and writes into the scratch folder and the caches.
func workerCommand(program, codeCache string, db *store.Store) ([]string, error) {
	if program == "" {
		own, err := os.Executable()
		if err != nil {
			return nil, fmt.Errorf("find the program, to start workers: %w", err)
		}
		program = own
	}
	return []string{program, WorkerArgument, codeCache, db.FilesFolder(), db.CacheFolder(), db.ScratchFolder()}, nil
}

// officeOf has LibreOffice started as workers are, with its documents in the scratch folder: nothing of them is
// left where the program is killed meanwhile.
func officeOf(workers []string, db *store.Store) office.Converter {
	return office.Converter{Scratch: db.ScratchFolder(), Confined: []string{workers[0], workers[1], office.Run}}
}

// Work is what a worker does: tasks, until its input ends. The arguments are those after
// WorkerArgument.
func Work(args []string) error {
	if len(args) > 0 && args[0] == office.Run {
		return office.Be(args[1:])
	}
	if len(args) > 0 && args[0] == ocr.Run {
		return ocr.Be(args[1:])
	}
	if len(args) != 4 {
		return errors.New("a worker is started by the program, with its folders")
	}
	codeCache, files, cache, scratch := args[0], args[1], args[2], args[3]
	tasks := worker.Tasks{Folders: &confine.Folders{Read: []string{files}, Write: []string{codeCache, cache, scratch}}}
	pdfium.Handle(&tasks, codeCache)
	intake.HandleTasks(&tasks)
	sources.HandleTasks(&tasks)
	assembly.HandleTasks(&tasks)
	return worker.Serve(&tasks, os.Stdin, os.Stdout)
}
