package app

import (
	"errors"
	"fmt"
	"os"

	"dorbin/internal/assembly"
	"dorbin/internal/intake"
	"dorbin/internal/render/pdfium"
	"dorbin/internal/sources"
	"dorbin/internal/worker"
)

// WorkerArgument is the first argument of the program where it is to be a worker.
const WorkerArgument = "worker"

// workerCommand starts the program again, as a worker.
func workerCommand(codeCache string) ([]string, error) {
	program, err := os.Executable()
	if err != nil {
		return nil, fmt.Errorf("find the program, to start workers: %w", err)
	}
	return []string{program, WorkerArgument, codeCache}, nil
}

// Work is what a worker does: tasks, until its input ends. The arguments are those after
// WorkerArgument.
func Work(args []string) error {
	if len(args) != 1 {
		return errors.New("a worker is started by the program, with the folder of its cache")
	}
	var tasks worker.Tasks
	pdfium.Handle(&tasks, args[0])
	intake.HandleTasks(&tasks)
	sources.HandleTasks(&tasks)
	assembly.HandleTasks(&tasks)
	return worker.Serve(&tasks, os.Stdin, os.Stdout)
}
