package app_test

import (
	"archive/zip"
	"bytes"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/planning"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/gather"
	"dorbin/internal/hostile"
	"dorbin/internal/sampling"
)

// tellTale is a paper of the demo as a picture file that tells where, when, by whom and with
// what it was made, as exiftool writes it, and has something behind its end.
func tellTale(t *testing.T, name string) []byte {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, paper(t, name), 0o600))
	run(t, "exiftool", "-q", "-overwrite_original",
		"-EXIF:Artist="+hostile.Secret, "-EXIF:GPSLatitude=51.5", "-EXIF:GPSLatitudeRef=N", "-EXIF:UserComment="+hostile.Secret,
		"-XMP-dc:Creator="+hostile.Secret, "-IPTC:City="+hostile.Secret, "-Comment="+hostile.Secret, path)
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	return append(data, hostile.Secret...)
}

// unseenPacket has a document and a photograph that carry what nobody sees.
func unseenPacket(t *testing.T, a *app.App) string {
	t.Helper()
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", hostile.Unseen())
	add(t, a, id, "roof.jpg", tellTale(t, "roof-1.jpg"))
	return id
}

// TestNothingUnseenGoesOut exports what carries unseen things in every way, and has exiftool
// and qpdf look for them.
func TestNothingUnseenGoesOut(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := unseenPacket(t, a)
	for name, order := range map[string]export.ExportOrder{
		"one PDF":             {},
		"lighter":             {Size: planning.Smaller},
		"a PDF for each part": {Make: export.PDFPerPart},
		"PDFs by size":        {Make: export.PDFsBySize, Limit: 50_000_000},
		"JPEG":                {Make: export.JPEGs},
		"PNG":                 {Make: export.PNGs},
		"TIFF":                {Make: export.TIFF},
	} {
		t.Run(name, func(t *testing.T) {
			started, err := a.Export.Start(t.Context(), id, order)
			require.NoError(t, err)
			e := waitFor(t, a, started.ID)
			require.Equal(t, "done", e.State, e.Problem)
			path, _, err := a.Export.File(t.Context(), started.ID)
			require.NoError(t, err)
			for _, file := range unpackedFiles(t, path) {
				assertTellsNothing(t, file)
			}
			if order.Make != export.OnePDF && order.Make != export.PDFPerPart && order.Make != export.PDFsBySize {
				return
			}
			left := map[string]int{}
			for _, kind := range e.Receipt.LeftOut {
				left[string(kind.What)] = kind.Count
			}
			assert.Equal(t, 6, left["scripts"])
			assert.Equal(t, 4, left["actions"])
			assert.Equal(t, 2, left["attachments"])
			assert.Equal(t, 1, left["media"])
			assert.Equal(t, 1, left["layers"])
			assert.Equal(t, 1, left["hiddenNotes"])
			assert.Positive(t, left["metadata"])
		})
	}
}

// TestPictureFilesAreKept has the files of pictures go in byte for byte where that is asked for.
func TestPictureFilesAreKept(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	whole := tellTale(t, "roof-1.jpg")
	add(t, a, id, "roof.jpg", whole)
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{KeepPictures: true})
	require.NoError(t, err)
	require.Equal(t, "done", waitFor(t, a, started.ID).State)
	path, _, err := a.Export.File(t.Context(), started.ID)
	require.NoError(t, err)
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.True(t, bytes.Contains(data, whole))
}

// TestThePictureIsTheSame has poppler draw a photograph with and without what its file tells.
func TestThePictureIsTheSame(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	_, err := a.Gather.AddFile(t.Context(), id, "roof.jpg", gather.Placement{}, bytes.NewReader(tellTale(t, "roof-1.jpg")))
	require.NoError(t, err)
	path, _ := exportAsItIs(t, a, id)
	folder := t.TempDir()
	run(t, "pdfimages", "-j", path, filepath.Join(folder, "out"))
	bare := filepath.Join(folder, "out-000.jpg")
	original := filepath.Join(folder, "original.jpg")
	require.NoError(t, os.WriteFile(original, paper(t, "roof-1.jpg"), 0o600))
	assert.Equal(t, run(t, "djpeg", "-ppm", original), run(t, "djpeg", "-ppm", bare))
}

// unpackedFiles are the files that an export made.
func unpackedFiles(t *testing.T, path string) []string {
	t.Helper()
	packed, err := zip.OpenReader(path)
	if err != nil {
		return []string{path}
	}
	defer packed.Close() //nolint:errcheck // only read from
	folder := t.TempDir()
	var files []string
	for _, entry := range packed.File {
		in, err := entry.Open()
		require.NoError(t, err)
		data, err := io.ReadAll(in)
		require.NoError(t, err)
		files = append(files, filepath.Join(folder, entry.Name))
		require.NoError(t, os.WriteFile(files[len(files)-1], data, 0o600))
	}
	return files
}

func assertTellsNothing(t *testing.T, path string) {
	t.Helper()
	told := run(t, "exiftool", "-ee3", "-a", "-u", "-U", "-G1", path)
	assert.NotContains(t, told, hostile.Secret)
	for _, group := range []string{"[GPS]", "[XMP", "[IPTC]", "[ExifIFD]", "[Photoshop]"} {
		assert.NotContains(t, told, group)
	}
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.False(t, bytes.Contains(data, []byte(hostile.Secret)), "in the file itself")
	if !bytes.HasPrefix(data, []byte("%PDF")) {
		return
	}
	assert.Contains(t, run(t, "qpdf", "--list-attachments", path), "has no embedded files")
	plain := run(t, "qpdf", "--qdf", "--object-streams=disable", path, "-")
	assert.NotContains(t, plain, hostile.Secret)
	for _, entry := range []string{"/JavaScript", "/JS ", "/Launch", "/GoToR", "/SubmitForm", "/ImportData", "/EmbeddedFile", "/Metadata", "/Sound", "/XFA"} {
		assert.NotContains(t, plain, entry)
	}
	folder := t.TempDir()
	run(t, "pdfimages", "-all", path, filepath.Join(folder, "picture"))
	pictures, err := filepath.Glob(filepath.Join(folder, "*"))
	require.NoError(t, err)
	for _, picture := range pictures {
		out, _ := exec.Command("exiftool", "-a", "-u", "-U", "-G1", picture).Output() // fails for kinds it does not know
		assert.NotContains(t, string(out), hostile.Secret)
		assert.False(t, strings.Contains(string(out), "[GPS]"), picture)
	}
}
