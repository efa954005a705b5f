package app_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"image"
	"io"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/sampling"
	"dorbin/internal/store"
)

// unzip unpacks what was exported, and gives the paths of its files in their order.
func unzip(t *testing.T, path string) []string {
	t.Helper()
	packed, err := zip.OpenReader(path)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, packed.Close()) })
	folder := t.TempDir()
	var paths []string
	for _, entry := range packed.File {
		in, err := entry.Open()
		require.NoError(t, err)
		data, err := io.ReadAll(in)
		require.NoError(t, err)
		out := filepath.Join(folder, entry.Name)
		require.NoError(t, os.WriteFile(out, data, 0o600))
		paths = append(paths, out)
	}
	return paths
}

func pageCount(t *testing.T, path string) int {
	t.Helper()
	for line := range strings.Lines(run(t, "pdfinfo", path)) {
		if count, ok := strings.CutPrefix(line, "Pages:"); ok {
			n, err := strconv.Atoi(strings.TrimSpace(count))
			require.NoError(t, err)
			return n
		}
	}
	return 0
}

// requireForetold compares the files that were made with what was said of them before.
func requireForetold(t *testing.T, a *app.App, id string, order export.ExportOrder, made []export.MadeFile) {
	t.Helper()
	foretold, err := a.Export.Preview(t.Context(), id, order)
	require.NoError(t, err)
	require.Len(t, foretold, len(made))
	for i, file := range foretold {
		assert.Equal(t, made[i].Name, file.Name)
		assert.Equal(t, made[i].First, file.First)
		assert.Equal(t, made[i].Pages, file.Pages)
		assert.InDelta(t, made[i].Bytes, file.Bytes, max(0.03*float64(made[i].Bytes), float64(file.Uncertainty)), file.Name)
		assert.Less(t, float64(file.Uncertainty), 0.3*float64(file.Bytes), "the range says something")
	}
}

func TestAPDFForEachPart(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := mixed(t, a)
	p := get(t, a, id)
	apply(t, a, id, packet.RenamePart{Part: p.Parts[1].ID, Title: "Quotes: slate/lead"},
		packet.RenamePart{Part: p.Parts[3].ID, Title: "Form"})
	order := export.ExportOrder{Name: "roof.pdf", Make: export.PDFPerPart}
	path, e := exportSized(t, a, id, order)
	requireForetold(t, a, id, order, e.Receipt.Files)
	assert.Equal(t, "roof.zip", e.Name)
	assert.Equal(t, "application/zip", export.ContentType(e.Name))
	files := unzip(t, path)
	require.Len(t, files, 4)
	for i, want := range []struct {
		name  string
		pages int
	}{{"1 Form.pdf", 4}, {"2 Quotes- slate-lead.pdf", 2}, {"3 Insurance.pdf", 1}, {"4 Form.pdf", 1}} {
		assert.Equal(t, want.name, filepath.Base(files[i]))
		assert.Equal(t, want.pages, pageCount(t, files[i]))
		made := e.Receipt.Files[i]
		assert.Equal(t, want.name, made.Name)
		assert.Equal(t, want.pages, made.Pages)
		info, err := os.Stat(files[i])
		require.NoError(t, err)
		assert.Equal(t, info.Size(), made.Bytes)
	}
	assert.Equal(t, 5, e.Receipt.Files[1].First)
	assert.Equal(t, 8, e.Receipt.Pages)
	assert.Empty(t, e.Receipt.Differences)
	whole, _ := exportAsItIs(t, a, id)
	assert.Equal(t, run(t, "pdftotext", "-l", "4", whole, "-"), run(t, "pdftotext", files[0], "-"))
}

func TestFilesThatAreEachUnderALimit(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := mixed(t, a)
	order := export.ExportOrder{Name: "roof", Make: export.PDFsBySize, Limit: 1_400_000}
	path, e := exportSized(t, a, id, order)
	requireForetold(t, a, id, order, e.Receipt.Files)
	files := unzip(t, path)
	require.Greater(t, len(files), 1)
	pages := 0
	for i, file := range files {
		info, err := os.Stat(file)
		require.NoError(t, err)
		assert.LessOrEqual(t, info.Size(), int64(1_400_000))
		assert.Equal(t, fmt.Sprintf("roof %d.pdf", i+1), filepath.Base(file))
		pages += pageCount(t, file)
	}
	assert.Equal(t, 8, pages)
	assert.Empty(t, e.Receipt.Differences)
	requireSingleFile(t, a, e, files[1])

	plan, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Limit: 1_400_000, PerFile: true})
	require.NoError(t, err)
	assert.True(t, plan.Fits, "though all together are larger")
	assert.Equal(t, len(files), plan.Files)
	plan, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Limit: 300_000, PerFile: true})
	require.NoError(t, err)
	assert.False(t, plan.Fits, "a page alone is larger")

	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.PDFsBySize, Limit: 300_000})
	require.NoError(t, err)
	done := waitFor(t, a, started.ID)
	assert.Equal(t, "failed", done.State)
	assert.Contains(t, done.Problem.English, "by itself, and no file is to be over 300 KB. Choose Smaller")
	_, e = exportSized(t, a, id, export.ExportOrder{Make: export.PDFsBySize, Size: planning.Smaller, Limit: 10_000_000})
	assert.Len(t, e.Receipt.Files, 1, "what fits into one file is one")
	_, err = a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.PDFsBySize})
	require.ErrorIs(t, err, problem.Invalid)
}

// requireSingleFile takes the second of several files out, without the zip.
func requireSingleFile(t *testing.T, a *app.App, e export.Export, want string) {
	t.Helper()
	file, name, err := a.Export.FileIn(t.Context(), e.ID, 2)
	require.NoError(t, err)
	assert.Equal(t, filepath.Base(want), name)
	data, err := io.ReadAll(file)
	require.NoError(t, err)
	require.NoError(t, file.Close())
	known, err := os.ReadFile(want)
	require.NoError(t, err)
	assert.Equal(t, known, data)
	_, _, err = a.Export.FileIn(t.Context(), e.ID, len(e.Receipt.Files)+1)
	require.ErrorIs(t, err, store.ErrNotFound)
}

func TestPicturesOfPages(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	apply(t, a, id, packet.Turn{Selected: packet.InRange("2"), By: 90})
	document, _ := exportAsItIs(t, a, id)
	for make, format := range map[export.Make]string{export.JPEGs: "jpeg", export.PNGs: "png"} {
		path, e := exportSized(t, a, id, export.ExportOrder{Name: "roof.pdf", Make: make, DPI: 100, Range: "2-4"})
		assert.Equal(t, "roof.zip", e.Name)
		files := unzip(t, path)
		require.Len(t, files, 3)
		for i, file := range files {
			data, err := os.ReadFile(file)
			require.NoError(t, err)
			img, is, err := image.Decode(bytes.NewReader(data))
			require.NoError(t, err)
			assert.Equal(t, format, is)
			want := popplerAt(t, document, i+2, 100)
			assert.InDelta(t, want.Rect.Dx(), img.Bounds().Dx(), 1)
			assert.InDelta(t, want.Rect.Dy(), img.Bounds().Dy(), 1)
			assert.Less(t, difference(want, raster.ToGray(raster.Resize(img, want.Rect.Dx(), want.Rect.Dy()))), 6.0, "page %d", i+2)
		}
	}
	path, e := exportSized(t, a, id, export.ExportOrder{Name: "roof", Make: export.PNGs, Range: "1", DPI: 50})
	assert.Equal(t, "roof.png", e.Name, "one picture needs no zip")
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.True(t, bytes.HasPrefix(data, []byte("\x89PNG")))

	for make, compression := range map[export.Make]string{export.TIFF: "LZW", export.BlackTIFF: "CCITT Group 4"} {
		path, e := exportSized(t, a, id, export.ExportOrder{Make: make})
		assert.Equal(t, "test-packet.tif", e.Name)
		info := run(t, "tiffinfo", path)
		assert.Equal(t, 4, strings.Count(info, "Compression Scheme: "+compression), info)
		assert.Equal(t, 4, strings.Count(info, "Resolution: 200, 200"))
		if make == export.BlackTIFF {
			again := filepath.Join(t.TempDir(), "again.tif")
			run(t, "tiffcp", "-c", "g4", "-r", "100000", path, again)
			byLibtiff, err := os.Stat(again)
			require.NoError(t, err)
			assert.InEpsilon(t, byLibtiff.Size(), e.Receipt.Bytes, 0.02, "G4 is as small as libtiff's")
		}
	}
	_, coarse := exportSized(t, a, id, export.ExportOrder{Make: export.JPEGs, Range: "1", Quality: 40})
	_, fine := exportSized(t, a, id, export.ExportOrder{Make: export.JPEGs, Range: "1"})
	assert.Less(t, coarse.Receipt.Bytes, fine.Receipt.Bytes*8/10)
	_, err = a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.JPEGs, Quality: 20})
	require.ErrorIs(t, err, problem.Invalid)
	_, err = a.Export.Start(t.Context(), id, export.ExportOrder{Make: export.JPEGs, DPI: 601})
	require.ErrorIs(t, err, problem.Invalid)
	_, err = a.Export.Start(t.Context(), id, export.ExportOrder{Range: "2-99"})
	var problem *packet.RangeError
	require.ErrorAs(t, err, &problem)
}

func TestAnExportIsMadeAgain(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	order := export.ExportOrder{Name: "fund", Make: export.PNGs, DPI: 50, Range: "odd"}
	_, first := exportSized(t, a, id, order)
	assert.Equal(t, order, first.Order)
	apply(t, a, id, packet.SetAside{Selected: packet.InRange("1")})
	again, err := a.Export.Again(t.Context(), first.ID, nil)
	require.NoError(t, err)
	done := waitFor(t, a, again.ID)
	assert.Equal(t, "done", done.State, done.Problem)
	assert.Equal(t, order, done.Order)
	assert.Equal(t, 2, done.Receipt.Pages, "of the packet as it now stands")
	assert.NotEqual(t, first.ID, done.ID)
	all, err := a.Export.List(t.Context(), id)
	require.NoError(t, err)
	assert.Len(t, all, 2, "the first is still there")
}
