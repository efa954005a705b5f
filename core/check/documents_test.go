package check

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/text"
)

// mixedLetter is a document of the tests, whose pages look as letters, quotes and contracts do.
type mixedLetter struct {
	house, motto, place, reference string
	style                          func(number, of int) string
	pages                          int
	headOnFirstOnly                bool
	firstBare                      bool // no number on its first page
}

var (
	houses = []string{"Slate & Lead", "Fellside Roofing", "Upper Tarn Joinery", "Mere Mutual Insurance", "Larkmere Town Council", "Beck Surveyors", "Harbour Scaffolding"}
	mottos = []string{"Roofers since 1974", "Carpenters and joiners", "For people by the water", "Surveys and valuations", "Hire and sale"}
	places = []string{"Lark Bridge", "Upper Tarn", "Shore Lane 4, Larkmere", "Fellside", "The Quay, Merehead"}
	vocab  = strings.Fields("the work takes seven weeks in dry weather and begins when the price has been agreed with your committee we offer to strip the slope keep what slates are sound and lay new ones of the same size a third is due when the scaffold stands the rest when you are content insurance covers harm to people and things on request rafters can only be seen when the slope is open water valleys insulation training room boats")
	styles = []func(n, of int) string{
		func(n, _ int) string { return fmt.Sprintf("Page %d", n) },
		func(n, of int) string { return fmt.Sprintf("Page %d of %d", n, of) },
		func(n, _ int) string { return fmt.Sprintf("- %d -", n) },
		func(n, of int) string { return fmt.Sprintf("%d/%d", n, of) },
		func(n, _ int) string { return fmt.Sprintf("Seite %d", n) },
	}
)

func pick[T any](r *rand.Rand, from []T) T { return from[r.IntN(len(from))] }

// mixed are letters for one stack: of different houses.
func mixed(r *rand.Rand, documents int) []mixedLetter {
	letters := make([]mixedLetter, documents)
	for i, at := range r.Perm(len(houses))[:documents] {
		letters[i] = mixedLetter{
			house: houses[at], motto: pick(r, mottos), place: pick(r, places), style: pick(r, styles), pages: 2 + r.IntN(4),
			reference:       fmt.Sprintf("%s-%d-%d", strings.ToUpper(houses[at][:2]), 2020+r.IntN(7), 100+r.IntN(900)),
			headOnFirstOnly: r.IntN(3) == 0, firstBare: r.IntN(4) == 0,
		}
	}
	return letters
}

func (l mixedLetter) page(r *rand.Rand, number int) text.Sheet {
	leaf := text.Sheet{Size: geometry.A4}
	line := func(x, y, size float64, words string) {
		at := text.Line{At: geometry.Point{X: x, Y: y}, Size: size}
		pos := 0.0
		for word := range strings.FieldsSeq(words) {
			width := 0.5 * size * float64(utf8.RuneCountInString(word))
			at.Words = append(at.Words, text.Word{Text: misread(r, word), X: pos, Width: width, Sure: 90})
			pos += width + 0.3*size
		}
		leaf.Text.Lines = append(leaf.Text.Lines, at)
	}
	if number == 1 || !l.headOnFirstOnly {
		line(70, 70, 16, l.house)
		line(70, 88, 9, l.motto+" · "+l.place)
	}
	line(470, 70, 9, l.reference)
	if !l.firstBare || number > 1 {
		if strings.HasPrefix(l.style(1, 2), "Page") {
			line(480, 90, 9, l.style(number, l.pages))
		} else {
			line(280, 800, 9, l.style(number, l.pages))
		}
	}
	if number == 1 {
		line(70, 150, 11, "Larkmere Rowing Club")
		line(70, 166, 11, "The Boathouse, Shore Lane, Larkmere")
	}
	for y := 220.0; y < 640; y += 15 {
		var words []string
		for range 10 + r.IntN(4) {
			words = append(words, pick(r, vocab))
		}
		line(70, y, 11, strings.Join(words, " "))
	}
	return leaf
}

// misread reads one word in fifty otherwise than it is, as recognition does.
func misread(r *rand.Rand, word string) string {
	if r.IntN(50) > 0 || len(word) < 3 {
		return word
	}
	at := 1 + r.IntN(len(word)-2)
	return word[:at] + pick(r, []string{"l", "rn", "o", "c"}) + word[at+1:]
}

// TestMixedDocumentsAreToldApart mixes the pages of two or three documents, sixty times.
func TestMixedDocumentsAreToldApart(t *testing.T) {
	const cases = 60
	right := 0
	for n := range cases {
		r := rand.New(rand.NewPCG(7, uint64(n))) //nolint:gosec // the same cases each time
		letters := mixed(r, 2+n%2)
		var stack []text.Sheet
		var truth [][2]int // document and number of each page
		for d, l := range letters {
			for number := 1; number <= l.pages; number++ {
				stack, truth = append(stack, l.page(r, number)), append(truth, [2]int{d, number})
			}
		}
		r.Shuffle(len(stack), func(i, j int) {
			stack[i], stack[j], truth[i], truth[j] = stack[j], stack[i], truth[j], truth[i]
		})
		found := FindDocuments(stack)
		if isRight(found, truth, letters) {
			right++
		} else {
			t.Logf("case %d: %+v", n, letters)
			for _, d := range found {
				for _, p := range d.Pages {
					t.Logf("  %q %v: %s", d.Title, truth[p.Leaf], p.Reason)
				}
			}
		}
		for _, d := range found {
			for _, p := range d.Pages {
				assert.NotEmpty(t, p.Reason)
			}
		}
	}
	t.Logf("%d of %d right", right, cases)
	assert.GreaterOrEqual(t, right, cases*95/100)
}

func isRight(found []Document, truth [][2]int, letters []mixedLetter) bool {
	if len(found) != len(letters) {
		return false
	}
	for _, d := range found {
		of := truth[d.Pages[0].Leaf][0]
		if len(d.Pages) != letters[of].pages || len(d.Missing) > 0 {
			return false
		}
		for i, p := range d.Pages {
			if truth[p.Leaf] != [2]int{of, i + 1} {
				return false
			}
		}
	}
	return true
}

func TestWhatIsMissingOrThereTwiceIsTold(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2)) //nolint:gosec // the same each time
	l := mixedLetter{house: "Slate & Lead", motto: mottos[0], place: places[0], reference: "SL-2026-118", style: styles[1], pages: 4}
	second := l.page(r, 2)
	found := FindDocuments([]text.Sheet{l.page(r, 4), second, l.page(r, 1), second})
	require.Len(t, found, 1)
	var order []int
	var twice []bool
	for _, p := range found[0].Pages {
		order, twice = append(order, p.Leaf), append(twice, p.Twice)
	}
	assert.Equal(t, []int{2, 1, 3, 0}, order)
	assert.Equal(t, []bool{false, true, true, false}, twice)
	assert.Equal(t, []int{3}, found[0].Missing)
	assert.Equal(t, "Slate & Lead", found[0].Title)
	assert.Contains(t, found[0].Pages[0].Reason.English, "It bears the number 1 of 4, “SL-2026-118”")
}

func TestPagesWithNothingInCommonStayAlone(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 4)) //nolint:gosec // the same each time
	stack := []text.Sheet{{Size: geometry.A4}, mixed(r, 1)[0].page(r, 1), {Size: geometry.A4}}
	found := FindDocuments(stack)
	require.Len(t, found, 3)
	assert.Equal(t, "Nothing on it is on another page.", found[0].Pages[0].Reason.English)
	assert.Empty(t, FindDocuments(nil))
}

func TestReferences(t *testing.T) {
	var found []string
	for _, word := range strings.Fields("SL-2026-118 FE/2026/7, 12/03/2026 2026-02-19 1,250.00 47.760 AB1234 page roof-repair 3/6 (Q-77-1) 192.168") {
		if isReference(word) {
			found = append(found, word)
		}
	}
	assert.Equal(t, []string{"SL-2026-118", "FE/2026/7,", "AB1234", "(Q-77-1)"}, found)
}

// FuzzDocuments has every page of a stack be in exactly one document.
func FuzzDocuments(f *testing.F) {
	f.Add("Slate Page 1 of 3|Slate Page 2 of 3|Fellside Page 2|Page 9999")
	f.Add("||SL-2026-118 - 1 -|SL-2026-118 - 1 -|1/2|2/2")
	f.Fuzz(func(t *testing.T, pages string) {
		var stack []text.Sheet
		for words := range strings.SplitSeq(pages, "|") {
			leaf := text.Sheet{Size: geometry.A4}
			for i, word := range strings.Fields(words) {
				leaf.Text.Lines = append(leaf.Text.Lines, text.Line{
					At: geometry.Point{Y: 60 + 20*float64(i)}, Size: 11, Words: []text.Word{{Text: word, Width: 20}},
				})
			}
			if stack = append(stack, leaf); len(stack) > 30 {
				break
			}
		}
		var placed []int
		for _, d := range FindDocuments(stack) {
			assert.True(t, slices.IsSorted(d.Missing))
			for _, p := range d.Pages {
				placed = append(placed, p.Leaf)
				assert.NotEmpty(t, p.Reason)
			}
		}
		slices.Sort(placed)
		for i, at := range placed {
			require.Equal(t, i, at)
		}
		require.Len(t, placed, len(stack))
	})
}
