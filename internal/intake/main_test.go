package intake

import (
	"log/slog"
	"os"
	"testing"

	"dorbin/internal/office"
	"dorbin/internal/worker"
	"dorbin/internal/worker/workertest"
)

// workers are started from the test's own binary.
var workers = worker.NewPool(slog.Default(), os.TempDir(), os.Args[0], workertest.Argument)

func TestMain(m *testing.M) {
	code := workertest.Main(m, func(args []string) error {
		if len(args) > 0 && args[0] == office.Run {
			return office.Be(args[1:])
		}
		return workertest.Serve(HandleTasks)(args)
	})
	workers.Close()
	os.Exit(code)
}
