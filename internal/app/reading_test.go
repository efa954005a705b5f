package app_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"image"
	"image/png"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/go-pdf/fpdf"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/intake"
	"dorbin/internal/ocr"
	"dorbin/internal/office"
	"dorbin/internal/reading"
	"dorbin/internal/sampling"
)

// readAll has the pages of a packet read, and waits until they are.
func readAll(t *testing.T, a *app.App, id string, order reading.TextOrder) reading.TextStatus {
	t.Helper()
	_, err := a.Reading.Ask(t.Context(), id, order)
	require.NoError(t, err)
	return allRead(t, a, id)
}

func allRead(t *testing.T, a *app.App, id string) (status reading.TextStatus) {
	t.Helper()
	await.Until(t, func() bool {
		var err error
		status, err = a.Reading.Status(t.Context(), id)
		require.NoError(t, err)
		return len(status.Waiting) == 0
	})
	return status
}

// ownTextsKnown waits until the text of a packet's PDFs is known.
func ownTextsKnown(t *testing.T, a *app.App, id string, pages int) {
	t.Helper()
	await.Until(t, func() bool {
		status, err := a.Reading.Status(t.Context(), id)
		require.NoError(t, err)
		return len(status.Own) == pages
	})
}

// found are the pages of a packet on which something is, by their numbers, with how often.
func found(t *testing.T, a *app.App, id, query string) map[int]int {
	t.Helper()
	result, err := a.Reading.Find(t.Context(), id, query)
	require.NoError(t, err)
	numbers := map[packet.PageID]int{}
	for _, part := range get(t, a, id).Parts {
		for _, page := range part.Pages {
			numbers[page.ID] = page.Number
		}
	}
	pages := map[int]int{}
	for _, page := range result.Pages {
		pages[numbers[page.Page]] = page.Matches
	}
	return pages
}

// TestScansAreMadeSearchable reads scans, one of which lies on its side, beside a PDF with its own
// text; finds words in all of them; changes the pages; and searches the export with another reader.
func TestScansAreMadeSearchable(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	add(t, a, id, "application-form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "quotes.tif", scans(t, 2, 1)) // what it costs; the same of another, on its side
	ownTextsKnown(t, a, id, 4)
	status := readAll(t, a, id, reading.TextOrder{})
	assert.Len(t, status.Read, 2)
	assert.Equal(t, []string{"eng"}, status.Languages)
	assert.Empty(t, status.Problems)
	assert.Equal(t, map[int]int{1: 1}, found(t, a, id, "the boathouse, SHORE lane"))
	assert.Equal(t, map[int]int{3: 1, 5: 1, 6: 1}, found(t, a, id, "Value added tax"))
	assert.Equal(t, map[int]int{5: 1}, found(t, a, id, "Slate & Lead"))

	// Turning and cropping need no other reading; what is cropped away is not there.
	apply(t, a, id, packet.Turn{Selected: packet.InRange("6"), By: 90},
		packet.Crop{Selected: packet.InRange("5"), Box: &geometry.Box{X0: 0, Y0: 200, X1: 595, Y1: 842}})
	assert.Equal(t, map[int]int{3: 1, 5: 1, 6: 1}, found(t, a, id, "Value added tax"))
	assert.Empty(t, found(t, a, id, "Slate & Lead"))
	assert.Equal(t, map[int]int{3: 1, 5: 1}, found(t, a, id, "Insulation"))
	apply(t, a, id, packet.RenamePart{Part: get(t, a, id).Parts[0].ID, Title: "The façade"},
		packet.Note{Selected: packet.InRange("5"), Title: "Ask for the FACADE"})
	byName, err := a.Reading.Find(t.Context(), id, "facade")
	require.NoError(t, err)
	assert.Len(t, byName.Parts, 1)
	assert.Len(t, byName.Notes, 1)

	path, e := exportAsItIs(t, a, id)
	require.NotNil(t, e.Receipt.Text)
	assert.Equal(t, 2, e.Receipt.Text.Pages)
	said := run(t, "pdftotext", "-f", "5", path, "-")
	assert.Contains(t, said, "Insulation, 200 mm")
	assert.Contains(t, said, "Fellside Roofing")
	assert.NotContains(t, said, "Slate & Lead")
	assert.Contains(t, run(t, "qpdf", "--json=2", path), `"/Lang": "u:en"`)
	layer := compared(t, a, e.ID).Receipt.Text
	assert.Equal(t, 2, layer.Read)
	assert.Equal(t, layer.Words, layer.Found, "every word is found again")
	assert.Greater(t, layer.Words, 60)
}

// TestReadingAgainstKnownText reads pictures of the pages of a PDF whose words and their places are
// known, and compares.
func TestReadingAgainstKnownText(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	folder := t.TempDir()
	source := filepath.Join(folder, "form.pdf")
	require.NoError(t, os.WriteFile(source, paper(t, "application-form.pdf"), 0o600))
	run(t, "pdftoppm", "-r", "300", "-png", "-l", "2", source, filepath.Join(folder, "page"))
	for n := 1; n <= 2; n++ {
		picture, err := os.ReadFile(filepath.Join(folder, fmt.Sprintf("page-%d.png", n)))
		require.NoError(t, err)
		add(t, a, id, fmt.Sprintf("page %d.png", n), picture)
	}
	without, _ := exportAsItIs(t, a, id)
	readAll(t, a, id, reading.TextOrder{})
	path, _ := exportAsItIs(t, a, id)
	assert.Less(t, sizeOf(t, path)-sizeOf(t, without), layerOfTesseract(t, folder), "bytes of the layer")
	words, right, placed := 0, 0, 0
	for n := 1; n <= 2; n++ {
		got := wordBoxes(t, path, n)
		for _, word := range wordBoxes(t, source, n) {
			if !strings.ContainsFunc(word.text, isLetterOrDigit) {
				continue
			}
			words++
			at := nearestBox(got, word)
			if at != nil && at.text == word.text {
				right++
			}
			if at != nil && overlap(at.box, word.box) >= 0.8 {
				placed++
			}
		}
	}
	t.Logf("of %d words %d are right, %d in their places", words, right, placed)
	assert.GreaterOrEqual(t, float64(right), 0.99*float64(words), "words that are right")
	assert.GreaterOrEqual(t, float64(placed), 0.98*float64(words), "words in their places")
}

// layerOfTesseract are the bytes that the text of two pages in a folder takes up in PDFs that tesseract writes.
func layerOfTesseract(t *testing.T, folder string) (bytes int64) {
	t.Helper()
	for n := 1; n <= 2; n++ {
		layer := filepath.Join(folder, fmt.Sprintf("layer-%d", n))
		run(t, "tesseract", filepath.Join(folder, fmt.Sprintf("page-%d.png", n)), layer, "--dpi", "300", "-c", "textonly_pdf=1", "pdf")
		bytes += sizeOf(t, layer+".pdf")
	}
	return bytes
}

// TestAPhotographOfAPageIsReadAsWell reads a page that lies on a table, in the light of a window.
func TestAPhotographOfAPageIsReadAsWell(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	source := filepath.Join(t.TempDir(), "form.pdf")
	require.NoError(t, os.WriteFile(source, paper(t, "application-form.pdf"), 0o600))
	photograph, outline := photographed(t, popplerAt(t, source, 2, 300), 2)
	add(t, a, id, "photograph.jpg", photograph)
	apply(t, a, id, packet.Outline{Selected: packet.InRange("1"), Outline: &outline})
	readAll(t, a, id, reading.TextOrder{})
	path, _ := exportAsItIs(t, a, id)

	words := slices.DeleteFunc(strings.Fields(run(t, "pdftotext", "-f", "2", "-l", "2", source, "-")), func(word string) bool {
		return !strings.ContainsFunc(word, isLetterOrDigit)
	})
	right := foundAgain(words, strings.Fields(run(t, "pdftotext", path, "-")))
	t.Logf("of %d words %d are right", len(words), right)
	assert.GreaterOrEqual(t, float64(right), 0.97*float64(len(words)))
}

// lineSheet is a picture, at 100 dpi, of a sheet of a size in points with lines of a text.
func lineSheet(t *testing.T, width, height float64, lines ...string) *image.Gray {
	t.Helper()
	document := fpdf.NewCustom(&fpdf.InitType{UnitStr: "pt", Size: fpdf.SizeType{Wd: width, Ht: height}})
	document.AddPage()
	document.SetFont("Helvetica", "", 18)
	for i, line := range lines {
		document.Text(40, 60+float64(i)*(height-80)/float64(len(lines)), line)
	}
	path := filepath.Join(t.TempDir(), "sheet.pdf")
	require.NoError(t, document.OutputFileAndClose(path))
	return popplerAt(t, path, 1, 100)
}

func TestAwkwardPagesAreRead(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	const line = "The boathouse roof has let in water since the storms of last winter"
	inverted := lineSheet(t, 700, 300, line, line, line)
	for i, level := range inverted.Pix {
		inverted.Pix[i] = 255 - level
	}
	pages := map[string]struct {
		picture image.Image
		words   int
	}{
		"white on black":     {inverted, 3 * 13},
		"running upwards":    {raster.Turn(lineSheet(t, 700, 900, slices.Repeat([]string{line}, 8)...), 270), 8 * 13},
		"20,000 pixels high": {lineSheet(t, 700, 14_380, slices.Repeat([]string{line}, 60)...), 60 * 13},
		"500 words a line":   {lineSheet(t, 14_380, 200, strings.Repeat("ice ", 500)), 500},
		"blank":              {lineSheet(t, 700, 300), 0},
	}
	a := newReadingApp(t)
	id := newPacket(t, a)
	names := slices.Sorted(maps.Keys(pages))
	for _, name := range names {
		var file bytes.Buffer
		require.NoError(t, png.Encode(&file, pages[name].picture))
		add(t, a, id, name+".png", file.Bytes())
	}
	status := readAll(t, a, id, reading.TextOrder{})
	assert.Empty(t, status.Problems)
	for i, part := range get(t, a, id).Parts {
		found, err := a.Reading.PageWords(t.Context(), id, part.Pages[0].ID, "")
		require.NoError(t, err)
		want := pages[names[i]].words
		assert.InDelta(t, want, len(found.Words), 0.03*float64(want), names[i])
	}
}

func isLetterOrDigit(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }

type wordBox struct {
	text string
	box  geometry.Box
}

var wordElement = regexp.MustCompile(`<word xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">(.*)</word>`)

// wordBoxes are the words of a page as poppler finds them.
func wordBoxes(t *testing.T, path string, page int) (words []wordBox) {
	t.Helper()
	n := strconv.Itoa(page)
	for _, m := range wordElement.FindAllStringSubmatch(run(t, "pdftotext", "-bbox", "-f", n, "-l", n, path, "-"), -1) {
		var sides [4]float64
		for i := range sides {
			v, err := strconv.ParseFloat(m[i+1], 64)
			require.NoError(t, err)
			sides[i] = v
		}
		words = append(words, wordBox{m[5], geometry.Box{X0: sides[0], Y0: sides[1], X1: sides[2], Y1: sides[3]}})
	}
	return words
}

func overlap(a, b geometry.Box) float64 {
	both, all := a.Intersect(b), a.Union(b)
	if both.X1 <= both.X0 || both.Y1 <= both.Y0 {
		return 0
	}
	return both.Size().Width * both.Size().Height / (all.Size().Width * all.Size().Height)
}

func nearestBox(words []wordBox, to wordBox) (best *wordBox) {
	most := 0.0
	for i := range words {
		if share := overlap(words[i].box, to.box); share > most {
			best, most = &words[i], share
		}
	}
	return best
}

// TestPagesThatComeInAreRead has every page read that comes into a packet.
func TestPagesThatComeInAreRead(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newReadingApp(t)
	id := newPacket(t, a)
	every := true
	readAll(t, a, id, reading.TextOrder{Every: &every})
	add(t, a, id, "quotes.tif", scans(t, 2))
	await.Until(t, func() bool {
		status, err := a.Reading.Status(t.Context(), id)
		require.NoError(t, err)
		return len(status.Read) == 1
	})
	copied, err := a.Packets.Copy(t.Context(), id, "Another")
	require.NoError(t, err)
	assert.Equal(t, map[int]int{1: 1}, found(t, a, copied.ID, "what it costs"), "a copy has what was read")
}

// TestReadingIsStoppedAndTakenUp stops the reading of a packet, and has it go on after a restart.
func TestReadingIsStoppedAndTakenUp(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	folder := t.TempDir()
	a := openReading(t, folder, intake.DefaultLimits, ocr.Reader{})
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", scans(t, 0, 2, 3))
	_, err := a.Reading.Ask(t.Context(), id, reading.TextOrder{})
	require.NoError(t, err)
	status, err := a.Reading.Stop(t.Context(), id)
	require.NoError(t, err)
	assert.Empty(t, status.Waiting)
	_, err = a.Reading.Ask(t.Context(), id, reading.TextOrder{})
	require.NoError(t, err)
	require.NoError(t, a.Close())

	a = openReading(t, folder, intake.DefaultLimits, ocr.Reader{})
	defer func() { require.NoError(t, a.Close()) }()
	assert.Len(t, allRead(t, a, id).Read, 3)
	assert.NotEmpty(t, found(t, a, id, "insulation"))
	require.NoError(t, a.Packets.Delete(t.Context(), id))
	assert.Empty(t, filesWith(t, folder, "nsulation"), "what was read is gone with the packet")
}

// program writes a script in the place of the program that reads: it lists English, and does with
// pictures what is said.
func program(t *testing.T, does string) ocr.Reader {
	t.Helper()
	path := filepath.Join(t.TempDir(), "reader")
	script := "#!/bin/sh\nif [ \"$1\" = --list-langs ]; then echo eng; exit; fi\n" + does + "\n"
	require.NoError(t, os.WriteFile(path, []byte(script), 0o700)) //nolint:gosec // a program
	return ocr.Reader{Program: path}
}

// TestAPageThatCannotBeReadIsTold has programs that crash and answer nonsense.
func TestAPageThatCannotBeReadIsTold(t *testing.T) {
	t.Parallel()
	for name, does := range map[string]string{
		"crashes":  "cat >/dev/null; kill -SEGV $$",
		"nonsense": "cat >/dev/null; echo '<html><span'",
	} {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			a := openReading(t, t.TempDir(), intake.DefaultLimits, program(t, does))
			defer func() { require.NoError(t, a.Close()) }()
			id := newPacket(t, a)
			add(t, a, id, "quotes.tif", scans(t, 2))
			status := readAll(t, a, id, reading.TextOrder{})
			require.Len(t, status.Problems, 1)
			assert.Contains(t, status.Problems[0].Problem.English, "broke off, twice")
			assert.Len(t, status.Without, 1)
			_, e := exportAsItIs(t, a, id)
			assert.Nil(t, e.Receipt.Text)
			status, err := a.Reading.Ask(t.Context(), id, reading.TextOrder{})
			require.NoError(t, err)
			assert.Len(t, status.Waiting, 1, "it is tried again when somebody asks for it")
		})
	}
}

// TestPagesWithTheirOwnTextAreNotRead asks for pages before it is known that they have their text.
func TestPagesWithTheirOwnTextAreNotRead(t *testing.T) {
	t.Parallel()
	a := openReading(t, t.TempDir(), intake.DefaultLimits, program(t, "exit 1"))
	defer func() { require.NoError(t, a.Close()) }()
	id := newPacket(t, a)
	add(t, a, id, "application-form.pdf", paper(t, "application-form.pdf"))
	status := readAll(t, a, id, reading.TextOrder{})
	assert.Len(t, status.Own, 4)
	assert.Empty(t, status.Problems)
}

// TestReadingThatHangsIsStopped has a program that never ends: stopping kills it at once.
func TestReadingThatHangsIsStopped(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := openReading(t, t.TempDir(), intake.DefaultLimits, program(t, "cat >/dev/null; sleep 1000"))
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", scans(t, 2))
	_, err := a.Reading.Ask(t.Context(), id, reading.TextOrder{})
	require.NoError(t, err)
	status, err := a.Reading.Stop(t.Context(), id)
	require.NoError(t, err)
	assert.Empty(t, status.Waiting)
	assert.Len(t, status.Without, 1)
	require.NoError(t, a.Packets.Delete(t.Context(), id))
	require.NoError(t, a.Close())
}

func TestWhatIsMissingForReadingIsSaidBefore(t *testing.T) {
	t.Parallel()
	var told *problem.Error
	without := newApp(t)
	id := newPacket(t, without)
	_, err := without.Reading.Ask(t.Context(), id, reading.TextOrder{})
	require.ErrorAs(t, err, &told)
	assert.Contains(t, told.Sentence.English, "apt install tesseract-ocr")
	status, err := without.Reading.Status(t.Context(), id)
	require.NoError(t, err)
	assert.False(t, status.Installed)
	assert.Equal(t, told.Sentence, status.Advice)

	a := newReadingApp(t)
	id = newPacket(t, a)
	_, err = a.Reading.Ask(t.Context(), id, reading.TextOrder{Languages: []string{"eng", "tlh"}})
	require.ErrorAs(t, err, &told)
	assert.Contains(t, told.Sentence.English, "tlh is not installed")
}

// TestEditableTextIsReadByAWordProcessor makes text documents of a PDF with text and a photograph, and
// has LibreOffice open them.
func TestEditableTextIsReadByAWordProcessor(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "application-form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	ownTextsKnown(t, a, id, 4)
	for _, format := range []reading.Format{reading.DOCX, reading.ODT} {
		made, err := a.Reading.MakeDocument(t.Context(), id, reading.DocumentOrder{Format: format, WithoutRunning: true})
		require.NoError(t, err)
		assert.Equal(t, "test-packet."+string(format), made.Name)
		path := filepath.Join(t.TempDir(), made.Name)
		require.NoError(t, os.WriteFile(path, made.Data, 0o600))
		var said bytes.Buffer
		require.NoError(t, office.Converter{}.Convert(t.Context(), path, made.Name, office.Kind{Extension: "txt", Writes: "Text (encoded):UTF8"}, &said))
		assert.Contains(t, said.String(), "The roof of the boathouse, built in 1931, has let in water since the storms of last winter. We ask for help with stripping")
		assert.NotContains(t, said.String(), "page 2 of 4", "its page numbers are its own")
		packed, err := zip.NewReader(bytes.NewReader(made.Data), int64(len(made.Data)))
		require.NoError(t, err)
		assert.True(t, slices.ContainsFunc(packed.File, func(f *zip.File) bool { return strings.HasSuffix(f.Name, ".jpg") || strings.HasSuffix(f.Name, ".jpeg") }),
			"the photograph is in it")
	}
	plain, err := a.Reading.MakeDocument(t.Context(), id, reading.DocumentOrder{Format: reading.Plain, Pages: []packet.PageID{get(t, a, id).Parts[0].Pages[2].ID}})
	require.NoError(t, err)
	assert.Contains(t, string(plain.Data), "\t")
	assert.NotContains(t, string(plain.Data), "built in 1931", "it is of the third page alone")
}

func TestEditableTextKeepsWhatIsBoldAndItalic(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	document := fpdf.New("P", "pt", "A4", "")
	document.AddPage()
	for style, words := range map[string]string{"": "We can pay", "B": "14,800 pounds", "I": "before the winter", "BI": "at most"} {
		document.SetFont("Helvetica", style, 11)
		document.Text(80, map[string]float64{"": 100, "B": 140, "I": 180, "BI": 220}[style], words)
	}
	var file bytes.Buffer
	require.NoError(t, document.Output(&file))
	add(t, a, id, "grant.pdf", file.Bytes())
	ownTextsKnown(t, a, id, 1)
	made, err := a.Reading.MakeDocument(t.Context(), id, reading.DocumentOrder{Format: reading.DOCX})
	require.NoError(t, err)
	path := filepath.Join(t.TempDir(), made.Name)
	require.NoError(t, os.WriteFile(path, made.Data, 0o600))
	var said bytes.Buffer
	require.NoError(t, office.Converter{}.Convert(t.Context(), path, made.Name, office.Kind{Extension: "html", Writes: "HTML (StarWriter)"}, &said))
	lines := regexp.MustCompile(`\s+`).ReplaceAllString(said.String(), " ")
	assert.Regexp(t, `<b>14,800 pounds</b>`, lines)
	assert.Regexp(t, `<i>before the winter</i>`, lines)
	assert.Regexp(t, `<i><b>at most</b></i>|<b><i>at most</i></b>`, lines)
	assert.NotRegexp(t, `<[bi]>We can pay`, lines)
}
