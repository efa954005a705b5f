package app_test

import (
	"context"
	"io"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"dorbin/internal/app"
	"dorbin/internal/intake"
)

// pdfiumCache is shared by all tests of a run, so that PDFium is compiled once.
var pdfiumCache = filepath.Join(os.TempDir(), "dorbin-test-pdfium")

func openApp(t testing.TB, folder string, limits intake.Limits) *app.App {
	t.Helper()
	require.NoError(t, os.MkdirAll(filepath.Join(folder, "cache"), 0o700))
	require.NoError(t, os.MkdirAll(pdfiumCache, 0o700))
	link := filepath.Join(folder, "cache", "pdfium")
	if _, err := os.Lstat(link); err != nil {
		require.NoError(t, os.Symlink(pdfiumCache, link))
	}
	a, err := app.Open(context.Background(), app.Options{
		Folder: folder, Limits: limits, Log: slog.New(slog.NewTextHandler(io.Discard, nil)),
	})
	require.NoError(t, err)
	return a
}

func newApp(t testing.TB) *app.App {
	t.Helper()
	a := openApp(t, t.TempDir(), intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	return a
}

// export makes the packet's document and returns its path and receipt.
func export(t testing.TB, a *app.App, packet string) (string, app.Export) {
	t.Helper()
	started, err := a.StartExport(t.Context(), packet, "")
	require.NoError(t, err)
	finished := waitFor(t, a, started.ID)
	if finished.State != "done" {
		return "", finished
	}
	path, _, err := a.ExportFile(t.Context(), started.ID)
	require.NoError(t, err)
	return path, finished
}

func waitFor(t testing.TB, a *app.App, export string) app.Export {
	t.Helper()
	var e app.Export
	require.Eventually(t, func() bool {
		var err error
		e, err = a.Export(t.Context(), export)
		require.NoError(t, err)
		return e.State != "waiting" && e.State != "running"
	}, time.Minute, 5*time.Millisecond)
	return e
}

// run runs an independent reader and returns what it printed.
func run(t testing.TB, command string, args ...string) string {
	t.Helper()
	out, err := exec.Command(command, args...).Output()
	require.NoError(t, err, "%s %v", command, args)
	return string(out)
}
