package workertest

import (
	"fmt"
	"log/slog"
	"os"
	"testing"

	"dorbin/internal/worker"
)

// Argument is the first argument of a test's binary that is to be a worker.
const Argument = "worker"

// Main runs the tests, or does tasks where the binary was started as a worker. Its caller is
// TestMain; it gives what the process exits with. Work is what a worker does, by its arguments
// behind Argument.
func Main(m *testing.M, work func(args []string) error) int {
	if len(os.Args) < 2 || os.Args[1] != Argument {
		return m.Run()
	}
	if err := work(os.Args[2:]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	return 0
}

// Serve is the work of a worker that does these tasks.
func Serve(handle ...func(*worker.Tasks)) func([]string) error {
	return func([]string) error {
		var tasks worker.Tasks
		for _, h := range handle {
			h(&tasks)
		}
		return worker.Serve(&tasks, os.Stdin, os.Stdout)
	}
}

// NewPool is a pool of workers that are the test's own binary.
func NewPool(t testing.TB) *worker.Pool {
	t.Helper()
	p := worker.NewPool(slog.New(slog.DiscardHandler), t.TempDir(), os.Args[0], Argument)
	t.Cleanup(p.Close)
	return p
}
