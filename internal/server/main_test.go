package server_test

import (
	"fmt"
	"os"
	"testing"

	"dorbin/internal/app"
)

// TestMain has the test's own binary be a worker where the pool starts it as one.
func TestMain(m *testing.M) {
	if len(os.Args) > 1 && os.Args[1] == app.WorkerArgument {
		if err := app.Work(os.Args[2:]); err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		return
	}
	os.Exit(m.Run())
}
