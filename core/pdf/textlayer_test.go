package pdf

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/text"
)

// lineOf lays words on a baseline at a place, as they are read, each so wide as its letters ask for.
func lineOf(x, y, angle, size float64, rightToLeft bool, words ...string) text.Line {
	line := text.Line{At: geometry.Point{X: x, Y: y}, Angle: angle, Size: size, RightToLeft: rightToLeft}
	at := 0.0
	for _, word := range words {
		width := float64(len([]rune(word))) * size / 2
		line.Words = append(line.Words, text.Word{Text: word, X: at, Width: width, Sure: 90})
		at += width + size/3
	}
	if rightToLeft {
		for i := range line.Words {
			line.Words[i].X = at - line.Words[i].X - line.Words[i].Width
		}
	}
	return line
}

// withText writes blank A4 pages with texts under them.
func withText(t *testing.T, pages ...text.Page) string {
	t.Helper()
	var out bytes.Buffer
	a := NewAssembler(&out, len(pages))
	a.SetText(func(position int) (text.Page, error) { return pages[position], nil })
	for i := range pages {
		require.NoError(t, a.AddBlank(i, geometry.A4))
	}
	require.NoError(t, a.Finish(Properties{Title: "Text", Language: "he", RightToLeft: true}))
	path := filepath.Join(t.TempDir(), "text.pdf")
	require.NoError(t, os.WriteFile(path, out.Bytes(), 0o600))
	return path
}

func popplerText(t *testing.T, path string, args ...string) string {
	t.Helper()
	said, err := exec.Command("pdftotext", append(args, path, "-")...).Output()
	require.NoError(t, err)
	return strings.TrimSpace(string(said))
}

func TestUnseenTextIsFoundInAllScripts(t *testing.T) {
	for name, line := range map[string]text.Line{
		"Latin":   lineOf(60, 100, 0, 11, false, "Öffentliche", "Ordnung,", "§", "7"),
		"Greek":   lineOf(60, 100, 0, 11, false, "Η", "στέγη", "του", "λεμβαρχείου"),
		"Hebrew":  lineOf(60, 100, 0, 11, true, "תיקון", "הגג", "של", "בית", "הסירות"),
		"Arabic":  lineOf(60, 100, 0, 11, true, "إصلاح", "سقف", "بيت", "القوارب"),
		"Chinese": lineOf(60, 100, 0, 11, false, "修理", "船屋", "的", "屋顶"),
		"beyond":  lineOf(60, 100, 0, 11, false, "𝒜lpha", "😀"),
	} {
		t.Run(name, func(t *testing.T) {
			page := text.Page{Lines: []text.Line{line}}
			found := strings.Trim(popplerText(t, withText(t, page)), "\u202a\u202b\u202c\n\f ")
			if name == "Chinese" {
				assert.Equal(t, "修理船屋的屋顶", strings.ReplaceAll(found, " ", ""))
			} else {
				assert.Equal(t, page.String(), found)
			}
		})
	}
}

// TestWordsAreInTheirPlaces asks poppler for the boxes of words, on an upright page and where lines
// run upwards and downwards.
func TestWordsAreInTheirPlaces(t *testing.T) {
	page := text.Page{Lines: []text.Line{
		lineOf(60, 100, 0, 11, false, "Repair", "of", "the", "boathouse"),
		lineOf(60, 500, -90, 14, false, "upwards", "goes", "this"),
		lineOf(300, 400, 90, 9, false, "downwards", "runs", "that"),
		lineOf(60, 200, 4, 11, false, "sloped", "words", "stay", "whole"),
	}}
	path := withText(t, page)
	boxes := popplerBoxes(t, path)
	for _, line := range page.Lines {
		for _, word := range line.Words {
			want, got := line.Box(word), boxes[word.Text]
			require.False(t, got.IsZero(), word.Text)
			both := want.Intersect(got).Size()
			all := want.Union(got).Size()
			share := both.Width * both.Height / (all.Width * all.Height)
			assert.Greater(t, share, 0.75, "%s: %v where %v was wanted", word.Text, got, want)
		}
	}
	info, err := exec.Command("qpdf", "--check", path).CombinedOutput()
	require.NoError(t, err, string(info))
	plain, err := exec.Command("qpdf", "--qdf", "--object-streams=disable", path, "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(plain), "/Lang (he)")
	assert.Contains(t, string(plain), "/Direction /R2L")
}

// popplerBoxes are the boxes of the words of the first page, by the words.
func popplerBoxes(t *testing.T, path string) map[string]geometry.Box {
	t.Helper()
	boxes := map[string]geometry.Box{}
	for line := range strings.Lines(popplerText(t, path, "-bbox")) {
		if !strings.Contains(line, "<word ") {
			continue
		}
		value := func(name string) (v float64) {
			_, rest, _ := strings.Cut(line, name+"=\"")
			number, _, _ := strings.Cut(rest, "\"")
			return parseNumber(t, number)
		}
		_, rest, _ := strings.Cut(line, ">")
		word, _, _ := strings.Cut(rest, "<")
		boxes[word] = geometry.Box{X0: value("xMin"), Y0: value("yMin"), X1: value("xMax"), Y1: value("yMax")}
	}
	return boxes
}

func TestWithoutTextThereIsNoFont(t *testing.T) {
	all, err := os.ReadFile(withText(t, text.Page{}))
	require.NoError(t, err)
	assert.NotContains(t, string(all), "/Font")
}

func parseNumber(t *testing.T, word string) float64 {
	t.Helper()
	v, err := strconv.ParseFloat(word, 64)
	require.NoError(t, err)
	return v
}
