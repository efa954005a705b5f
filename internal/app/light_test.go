package app_test

import (
	"os"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/raster"
	"dorbin/core/shrink"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/sampling"
)

func exportLighter(t *testing.T, a *app.App, id string) (string, export.Export) {
	t.Helper()
	return exportSized(t, a, id, export.ExportOrder{Size: planning.Smaller})
}

func exportSized(t *testing.T, a *app.App, id string, order export.ExportOrder) (string, export.Export) {
	t.Helper()
	started, err := a.Export.Start(t.Context(), id, order)
	require.NoError(t, err)
	done := waitFor(t, a, started.ID)
	require.Equal(t, "done", done.State, done.Problem)
	path, _, err := a.Export.File(t.Context(), started.ID)
	require.NoError(t, err)
	return path, done
}

func TestLighterPagesAreSmallAndReadAsWell(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "quotes.tif", scans(t, 0, 3, 4))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	apply(t, a, id, packet.Straighten{Selected: packet.InRange("6"), Angle: -2.4},
		packet.Tone{Selected: packet.InRange("7"), Tone: raster.Tone{Mode: raster.BlackWhite}})
	asItIs, plain := exportAsItIs(t, a, id)
	path, e := exportLighter(t, a, id)
	assert.Empty(t, e.Receipt.Differences)
	assert.Equal(t, run(t, "pdftotext", "-l", "4", asItIs, "-"), run(t, "pdftotext", "-l", "4", path, "-"), "text stays text")

	ways := map[int]shrink.Encoding{}
	before, after := int64(0), int64(0)
	for _, page := range e.Receipt.Became {
		ways[page.Number] = page.Encoding
		before, after = before+page.Before, after+page.After
		assert.Less(t, page.After, page.Before, "page %d", page.Number)
	}
	assert.Equal(t, shrink.Layers, ways[5])
	assert.Equal(t, shrink.Layers, ways[6])
	assert.Equal(t, plain.Receipt.Bytes-e.Receipt.Bytes > (before-after)/2, true, "the file is smaller by what its pages are")
	assert.Less(t, e.Receipt.Bytes, plain.Receipt.Bytes/2)

	written, err := os.ReadFile(path)
	require.NoError(t, err)
	again := newPacket(t, a)
	add(t, a, again, "lighter.pdf", written)
	reread := get(t, a, again).Parts[0].Pages
	for page := 5; page <= 7; page++ {
		byPDFium := pagePicture(t, a, again, reread[page-1].ID, comparedWidth)
		assert.Less(t, difference(byPDFium, popplerAt(t, path, page, 100)), 5.0, "page %d, by two readers", page)
		was, is := popplerAt(t, asItIs, page, 100), popplerAt(t, path, page, 100)
		assert.Less(t, difference(was, is), 6.0, "page %d", page)
	}
	words := func(path string) []string { return recognised(t, path, 5) }
	all := words(asItIs)
	same := foundAgain(all, words(path))
	require.Greater(t, len(all), 20)
	assert.GreaterOrEqual(t, float64(same), 0.98*float64(len(all)), "of %d words %d are read as before", len(all), same)
}

// foundAgain counts the words that are among others, each as often as it is there.
func foundAgain(words, others []string) (found int) {
	have := map[string]int{}
	for _, word := range others {
		have[word]++
	}
	for _, word := range words {
		if have[word] > 0 {
			have[word]--
			found++
		}
	}
	return found
}

// recognised are the words and numbers that tesseract reads on a page: letters and
// digits, two at least. How far apart they are, and what it makes of rules, is not told.
func recognised(t *testing.T, path string, page int) []string {
	t.Helper()
	folder := t.TempDir()
	run(t, "pdftoppm", "-r", "200", "-f", strconv.Itoa(page), "-l", strconv.Itoa(page), "-singlefile", path, folder+"/page")
	// One thread: several that wait for each other take minutes on a busy machine.
	var words []string
	for _, field := range strings.Fields(run(t, "env", "OMP_THREAD_LIMIT=1", "tesseract", folder+"/page.ppm", "-")) {
		word := strings.Map(func(r rune) rune {
			if r < 128 && (unicode.IsLetter(r) || unicode.IsDigit(r)) {
				return r
			}
			return -1
		}, field)
		if len(word) > 1 {
			words = append(words, word)
		}
	}
	return words
}
