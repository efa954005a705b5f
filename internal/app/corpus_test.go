package app_test

import (
	"crypto/sha256"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/app"
	"dorbin/internal/gather"
	"dorbin/internal/sampling"
)

// cannotBeExported lists the files of the corpus that are not taken in or not
// written, with the reason.
var cannotBeExported = map[string]string{
	"Fpdf_SetProtection.pdf": "asks for a password, which nobody knows",
}

// showsLess lists the files of which things are left out that are seen on their pages.
var showsLess = map[string]string{
	"AnnotationDemo.pdf": "attached files, a sound, and frames of links that start programs",
}

// corpusModules are the PDF libraries whose test data is used.
var corpusModules = []string{"github.com/pdfcpu/pdfcpu", "github.com/go-pdf/fpdf", "github.com/klippa-app/go-pdfium"}

// TestCorpus sends every PDF in the test data of the PDF libraries' modules
// through the program, and has poppler compare what comes out with what went
// in: page count, page sizes and rotation, text, and pixels.
func TestCorpus(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	var files []string
	for _, module := range corpusModules {
		files = append(files, corpusFiles(t, strings.TrimSpace(run(t, "go", "list", "-m", "-f", "{{.Dir}}", module)))...)
	}
	require.Greater(t, len(files), 500)
	t.Run("files", func(t *testing.T) {
		for _, path := range sampling.Of(t, files, 16) {
			t.Run(filepath.Base(path), func(t *testing.T) {
				if reason, listed := cannotBeExported[filepath.Base(path)]; listed {
					t.Skip(reason)
				}
				t.Parallel()
				comesOutAsItWentIn(t, a, path)
			})
		}
	})
}

func corpusFiles(t *testing.T, folder string) []string {
	var files []string
	err := filepath.WalkDir(folder, func(path string, entry os.DirEntry, err error) error {
		if err == nil && !entry.IsDir() && strings.EqualFold(filepath.Ext(path), ".pdf") {
			files = append(files, path)
		}
		return err
	})
	require.NoError(t, err)
	slices.Sort(files)
	return files
}

func comesOutAsItWentIn(t *testing.T, a *app.App, path string) {
	file, err := os.Open(path)
	require.NoError(t, err)
	defer file.Close() //nolint:errcheck // only read from
	p, err := a.Packets.Create(t.Context(), "Corpus")
	require.NoError(t, err)
	defer func() { require.NoError(t, a.Packets.Delete(t.Context(), p.ID)) }()
	outcome, err := a.Gather.AddFile(t.Context(), p.ID, filepath.Base(path), gather.Placement{}, file)
	require.NoError(t, err)
	require.Equal(t, "added", outcome.Result, outcome.Sentence)
	exported, e := exportAsItIs(t, a, p.ID)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, e.Receipt.Differences)
	if before := pageBoxes(path); before != "" {
		assert.Equal(t, before, pageBoxes(exported))
		assert.Equal(t, text(path), text(exported))
		if _, listed := showsLess[filepath.Base(path)]; listed {
			assert.NotEmpty(t, e.Receipt.LeftOut)
		} else {
			assert.Equal(t, pixels(path), pixels(exported), "pixels of the first pages")
		}
	}
	check, err := exec.Command("qpdf", "--check", exported).CombinedOutput()
	assert.NoError(t, err, string(check))
}

var boxLine = regexp.MustCompile(`(?m)^Page +\d+ (size|rot):.*$`)

// pageBoxes is what pdfinfo says of the sizes and rotations of all pages; empty
// for a file that poppler cannot open.
func pageBoxes(path string) string {
	out, err := exec.Command("pdfinfo", "-l", "-1", path).Output()
	if err != nil {
		return ""
	}
	return strings.Join(boxLine.FindAllString(string(out), -1), "\n")
}

func text(path string) string {
	out, err := exec.Command("pdftotext", path, "-").Output()
	if err != nil {
		return err.Error()
	}
	return string(out)
}

// pixels are a hash of small pictures of the first pages.
func pixels(path string) string {
	pictures, err := exec.Command("pdftoppm", "-r", "24", "-l", "4", path).Output()
	if err != nil {
		return ""
	}
	return fmt.Sprintf("%x", sha256.Sum256(pictures))
}
