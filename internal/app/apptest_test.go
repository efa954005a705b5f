package app_test

import (
	"bytes"
	"cmp"
	"context"
	"fmt"
	"image"
	"image/jpeg"
	"log/slog"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/ocr"
	"dorbin/internal/packets"
)

// workerVariable names the program that is started as workers; without it they are the tests'
// own binary, which is slow to start under the race detector.
const workerVariable = "DORBIN_TEST_WORKER"

// pdfiumCache is shared by all tests of a run, so that PDFium is compiled once: by the first
// of them, while others wait.
var (
	pdfiumCache = filepath.Join(os.TempDir(), "dorbin-test-pdfium")
	compiled    sync.Once
)

func openApp(t testing.TB, folder string, limits intake.Limits) *app.App {
	t.Helper()
	return openReading(t, folder, limits, ocr.Reader{Program: "none"})
}

// newReadingApp is an application that reads the text in pictures, which takes long.
func newReadingApp(t testing.TB) *app.App {
	t.Helper()
	a := openReading(t, t.TempDir(), intake.DefaultLimits, ocr.Reader{})
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	return a
}

func openReading(t testing.TB, folder string, limits intake.Limits, reader ocr.Reader) *app.App {
	t.Helper()
	return openWith(t, app.Options{Folder: folder, Limits: limits, Reader: reader})
}

// openWith opens an application with these options, and those of all tests.
func openWith(t testing.TB, options app.Options) *app.App {
	t.Helper()
	require.NoError(t, os.MkdirAll(pdfiumCache, 0o700))
	options.Log, options.CodeCache, options.WorkerProgram = slog.New(slog.DiscardHandler), pdfiumCache, cmp.Or(options.WorkerProgram, os.Getenv(workerVariable))
	compiled.Do(func() {
		first := options
		first.Folder = t.TempDir()
		a, err := app.Open(context.Background(), first)
		require.NoError(t, err)
		await.Until(t, a.IsReady)
		require.NoError(t, a.Close())
	})
	a, err := app.Open(context.Background(), options)
	require.NoError(t, err)
	return a
}

func newApp(t testing.TB) *app.App {
	t.Helper()
	a := openApp(t, t.TempDir(), intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	return a
}

// apply carries out commands and checks that what is said to have changed is all
// that has.
func apply(t testing.TB, a *app.App, id string, commands ...packet.Command) packets.Packet {
	t.Helper()
	before := get(t, a, id)
	change, err := a.Packets.Apply(t.Context(), id, before.Revision, commands)
	require.NoError(t, err)
	after := get(t, a, id)
	requireChange(t, before, change, after)
	return after
}

func undo(t testing.TB, a *app.App, id string) packets.Packet {
	t.Helper()
	before := get(t, a, id)
	change, err := a.Packets.Undo(t.Context(), id, before.Revision)
	require.NoError(t, err)
	after := get(t, a, id)
	requireChange(t, before, change, after)
	return after
}

// requireChange carries a change out on a packet as a client does.
func requireChange(t testing.TB, before packets.Packet, change packets.Change, after packets.Packet) {
	t.Helper()
	rows := rowsOf(before)
	for _, h := range change.Hunks {
		for i := range h.Rows {
			if page := cmp.Or(h.Rows[i].Page, h.Rows[i].Aside); page != nil {
				page.Bytes = 0
			}
		}
		rows = slices.Replace(rows, h.At, h.At+h.Remove, h.Rows...)
	}
	require.Equal(t, rowsOf(after), rows)
	require.Equal(t, []any{before.Revision, after.Revision}, []any{change.From, change.Revision})
	require.Equal(t, []any{after.Name, after.Undo, after.Redo, after.Expected, after.FileName},
		[]any{change.Name, change.Undo, change.Redo, change.Expected, change.FileName})
	require.Equal(t, after.Receiver, change.Receiver)
	sources := slices.DeleteFunc(slices.Clone(before.Sources), func(s packets.Source) bool { return slices.Contains(change.Gone, s.ID) })
	for _, changed := range change.Sources {
		i := slices.IndexFunc(sources, func(s packets.Source) bool { return s.ID == changed.ID })
		if i < 0 {
			sources = append(sources, changed)
		} else {
			sources[i] = changed
		}
	}
	slices.SortFunc(sources, func(a, b packets.Source) int { return a.Ordinal - b.Ordinal })
	require.Equal(t, unweighed(after.Sources), unweighed(sources))
}

// unweighed leaves out what becomes known in the background.
func unweighed(sources []packets.Source) []packets.Source {
	for i := range sources {
		sources[i].Measured = false
	}
	return sources
}

func rowsOf(p packets.Packet) []packets.Row {
	rows := []packets.Row{}
	for _, part := range p.Parts {
		rows = append(rows, packets.Row{Part: &packets.PartHead{ID: part.ID, Title: part.Title, Paper: part.Paper}})
		for _, page := range part.Pages {
			page.Number, page.Bytes = 0, 0
			rows = append(rows, packets.Row{Page: &page})
		}
	}
	for _, page := range p.SetAside {
		page.Bytes = 0
		rows = append(rows, packets.Row{Aside: &page})
	}
	return rows
}

// exportAsItIs makes the packet's document and returns its path and receipt.
func exportAsItIs(t testing.TB, a *app.App, packet string) (string, export.Export) {
	t.Helper()
	started, err := a.Export.Start(t.Context(), packet, export.ExportOrder{})
	require.NoError(t, err)
	finished := waitFor(t, a, started.ID)
	if finished.State != "done" {
		return "", finished
	}
	path, _, err := a.Export.File(t.Context(), started.ID)
	require.NoError(t, err)
	return path, finished
}

func waitFor(t testing.TB, a *app.App, id string) export.Export {
	t.Helper()
	var e export.Export
	await.Until(t, func() bool {
		var err error
		e, err = a.Export.Get(t.Context(), id)
		require.NoError(t, err)
		return e.State != "waiting" && e.State != "running"
	})
	return e
}

// scans is a TIFF of some pages of the demo's quotes, counted from 0.
func scans(t testing.TB, pages ...int) []byte {
	t.Helper()
	all := scansIn(t, paper(t, "quotes-scan.tif"))
	var out bytes.Buffer
	require.NoError(t, tiff.Write(&out, len(pages), func(i int) (tiff.Encoded, error) {
		img := all[pages[i]]
		var data bytes.Buffer
		err := jpeg.Encode(&data, img, &jpeg.Options{Quality: 82})
		return tiff.EncodeJPEG(data.Bytes(), img.Bounds().Dx(), img.Bounds().Dy(), 1, 200), err
	}))
	return out.Bytes()
}

// run runs an independent reader and returns what it printed.
func run(t testing.TB, command string, args ...string) string {
	t.Helper()
	out, err := exec.Command(command, args...).Output()
	require.NoError(t, err, "%s %v", command, args)
	return string(out)
}

// protected is a PDF with a password, as qpdf encrypts it.
func protected(t testing.TB, data []byte, password string) []byte {
	t.Helper()
	folder := t.TempDir()
	in, out := filepath.Join(folder, "in.pdf"), filepath.Join(folder, "out.pdf")
	require.NoError(t, os.WriteFile(in, data, 0o600))
	require.NoError(t, exec.Command("qpdf", "--encrypt", password, "owner", "256", "--", in, out).Run())
	encrypted, err := os.ReadFile(out)
	require.NoError(t, err)
	return encrypted
}

// popplerPage has poppler draw a page in grey, a pixel for each point.
func popplerPage(t testing.TB, path string, page int) *image.Gray {
	t.Helper()
	return popplerAt(t, path, page, geometry.PointsPerInch)
}

// popplerAt has poppler draw a page in grey at a resolution, in dots per inch. It is
// not asked for PNG, which takes it long to compress.
func popplerAt(t testing.TB, path string, page, dpi int) *image.Gray {
	t.Helper()
	out := filepath.Join(t.TempDir(), "page")
	n := strconv.Itoa(page)
	run(t, "pdftoppm", "-gray", "-r", strconv.Itoa(dpi), "-f", n, "-l", n, "-singlefile", path, out)
	pgm, err := os.ReadFile(out + ".pgm")
	require.NoError(t, err)
	var width, height int
	_, err = fmt.Sscanf(string(pgm[:min(40, len(pgm))]), "P5\n%d %d\n", &width, &height)
	require.NoError(t, err)
	img := image.NewGray(image.Rect(0, 0, width, height))
	copy(img.Pix, pgm[len(pgm)-len(img.Pix):])
	return img
}
