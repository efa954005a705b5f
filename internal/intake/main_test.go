package intake

import (
	"fmt"
	"log/slog"
	"os"
	"testing"

	"dorbin/internal/worker"
)

// workers are started from the test's own binary.
var workers *worker.Pool

func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == "worker" {
		var tasks worker.Tasks
		HandleTasks(&tasks)
		if err := worker.Serve(&tasks, os.Stdin, os.Stdout); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	workers = worker.NewPool(slog.Default(), os.TempDir(), os.Args[0], "worker")
	code := m.Run()
	workers.Close()
	os.Exit(code)
}
