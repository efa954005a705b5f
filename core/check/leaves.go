package check

import (
	"fmt"
	"maps"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"dorbin/core/text"
)

// leaf is what is known of a page of a stack.
type leaf struct {
	text.Sheet
	printed    Printed
	marks      map[string]float64 // what it has in common with pages of its document, with how much it tells
	references map[string]bool    // of the marks
	written    map[string]string  // the marks as they are written
	words      map[string]bool
	title      string
}

// What is at the head and the foot of a page, in shares of its height.
const (
	headOfPage = 0.20
	footOfPage = 0.90
)

// Weights of what pages have in common.
const (
	headTells      = 1.0
	footTells      = 0.7
	referenceTells = 4.0
	totalTells     = 2.0 // that there are so many pages
)

func leavesOf(stack []text.Sheet) []*leaf {
	pages := make([]*leaf, len(stack))
	for i, of := range stack {
		pages[i] = leafOf(of)
	}
	unifyReferences(pages)
	weighMarks(pages)
	return pages
}

func leafOf(of text.Sheet) *leaf {
	l := &leaf{Sheet: of, marks: map[string]float64{}, references: map[string]bool{}, written: map[string]string{}, words: map[string]bool{}}
	l.printed, _ = PrintedOn(of)
	if l.printed.Of > 0 {
		l.marks[fmt.Sprintf("of %d pages", l.printed.Of)] = totalTells
	}
	for _, line := range of.Text.Lines {
		tells := 0.0
		switch y := line.At.Y / math.Max(1, of.Size.Height); {
		case y < headOfPage:
			tells = headTells
		case y > footOfPage:
			tells = footTells
		}
		for _, word := range line.Words {
			written := strings.TrimFunc(word.Text, func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
			folded := text.Fold(written)
			l.words[folded], l.written[folded] = true, written
			switch {
			case isReference(word.Text):
				l.marks[folded], l.references[folded] = referenceTells, true
			case tells > 0 && utf8.RuneCountInString(folded) > 2 && !strings.ContainsFunc(folded, unicode.IsDigit) && !isPageWord(folded):
				l.marks[folded] = max(l.marks[folded], tells)
			}
		}
	}
	l.title = titleOf(of)
	return l
}

// PrintedOn finds the number that a page bears at its head or foot.
func PrintedOn(page text.Sheet) (Printed, bool) { return PrintedNumber(headAndFoot(page)) }

// headAndFoot are the lines at the head and at the foot, one line each. What stands beside each other
// in one line is looked at by itself, as a number may stand beside a name.
func headAndFoot(page text.Sheet) string {
	var lines []string
	for _, line := range page.Text.Lines {
		if y := line.At.Y / math.Max(1, page.Size.Height); y >= headOfPage && y <= footOfPage {
			continue
		}
		for _, run := range line.Runs(besideEachOther) {
			lines = append(lines, run.String())
		}
	}
	return strings.Join(lines, "\n")
}

// besideEachOther is the gap, in shares of a line's size, from which on words stand beside each other.
const besideEachOther = 1.5

// reference is what letters and files are told apart by, such as SL-2026-118: figures with letters,
// or in groups. Dates and sums of money are none.
var (
	reference = regexp.MustCompile(`^[\p{L}\d]+(?:[-/.][\p{L}\d]+)+$|^\p{L}{1,4}\d{3,}$`)
	notOne    = regexp.MustCompile(`^\d{1,2}[-/.]\d{1,2}[-/.]\d{2,4}$|^\d{4}-\d{2}-\d{2}$|^[\d.]+$|^\d+/\d+$`)
)

func isReference(word string) bool {
	word = strings.Trim(word, ".,:;()[]")
	return len(word) >= 5 && strings.ContainsFunc(word, unicode.IsDigit) && reference.MatchString(word) && !notOne.MatchString(word)
}

func isPageWord(folded string) bool {
	return slices.Contains([]string{"page", "sheet", "seite", "blatt", "von"}, folded)
}

// unifyReferences has a reference that differs in one character from one that more pages have be that
// one: it was misread.
func unifyReferences(pages []*leaf) {
	having := map[string]int{}
	for _, page := range pages {
		for r := range page.references {
			having[r]++
		}
	}
	all := slices.Sorted(maps.Keys(having))
	slices.SortStableFunc(all, func(a, b string) int { return having[b] - having[a] })
	for i, usual := range all {
		for _, odd := range all[i+1:] {
			if having[odd] == 1 && having[usual] > 1 && differInOne(usual, odd) {
				for _, page := range pages {
					page.replaceReference(odd, usual)
				}
			}
		}
	}
}

func (l *leaf) replaceReference(from, to string) {
	if l.references[from] {
		delete(l.references, from)
		delete(l.marks, from)
		l.references[to], l.marks[to] = true, referenceTells
	}
}

// differInOne tells whether two words of the same length differ in one character.
func differInOne(a, b string) bool {
	if len(a) != len(b) {
		return false
	}
	differences := 0
	for i := range a {
		if a[i] != b[i] {
			differences++
		}
	}
	return differences == 1
}

// weighMarks has marks tell less that many pages have, and nothing that only one has.
func weighMarks(pages []*leaf) {
	having := map[string]int{}
	for _, page := range pages {
		for mark := range page.marks {
			having[mark]++
		}
	}
	for _, page := range pages {
		for mark, tells := range page.marks {
			n := having[mark]
			if n < 2 {
				delete(page.marks, mark)
				continue
			}
			page.marks[mark] = tells * math.Log(1+float64(len(pages))/float64(n)-0.9)
		}
	}
}

// likeness is how much of what two pages have in marks is the same: 0 to 1.
func (l *leaf) likeness(o *leaf) float64 {
	shared, mine, theirs := 0.0, 0.0, 0.0
	for mark, tells := range l.marks {
		mine += tells * tells
		if other, ok := o.marks[mark]; ok {
			shared += tells * other
		}
	}
	for _, tells := range o.marks {
		theirs += tells * tells
	}
	if mine == 0 || theirs == 0 {
		return 0
	}
	like := shared / math.Sqrt(mine*theirs)
	if len(l.references) > 0 && len(o.references) > 0 && !shareAny(l.references, o.references) {
		like *= otherReference
	}
	return like
}

// otherReference is what is left of the likeness of pages that each have a reference, and none the
// same.
const otherReference = 0.4

func shareAny(a, b map[string]bool) bool {
	for key := range a {
		if b[key] {
			return true
		}
	}
	return false
}

// isSame tells whether two pages have nearly the same words.
func (l *leaf) isSame(o *leaf) bool {
	shared := 0
	for word := range l.words {
		if o.words[word] {
			shared++
		}
	}
	return float64(shared) > 0.9*float64(max(len(l.words), len(o.words)))
}

// mayBeOf tells whether two pages can be of one document: they say the same total, and bear different
// numbers, or are the same page.
func (l *leaf) mayBeOf(o *leaf) bool {
	if l.printed.Of > 0 && o.printed.Of > 0 && l.printed.Of != o.printed.Of {
		return false
	}
	return l.printed.Number == 0 || l.printed.Number != o.printed.Number || l.isSame(o)
}

const longestTitle = 60 // characters

// titleOf is the line of the largest letters in the upper half of a page.
func titleOf(page text.Sheet) string {
	best, size := "", 0.0
	for _, line := range page.Text.Lines {
		if line.At.Y > page.Size.Height/2 {
			continue
		}
		for _, run := range largeRuns(line) {
			if run.size > size*1.1 {
				best, size = run.words, run.size
			}
		}
	}
	if utf8.RuneCountInString(best) > longestTitle {
		return ""
	}
	return best
}

type sizedRun struct {
	words string
	size  float64
}

// largeRuns parts a line where words are far from each other, or of another size.
func largeRuns(line text.Line) (runs []sizedRun) {
	end := math.Inf(-1)
	for _, word := range line.Words {
		size := line.SizeOf(word)
		last := len(runs) - 1
		isNext := last >= 0 && word.X < end+besideEachOther*size && size > 0.75*runs[last].size && size < 1.33*runs[last].size
		if isNext || last >= 0 && !strings.ContainsFunc(word.Text, unicode.IsLetter) && word.X < end+besideEachOther*size {
			runs[last].words += " " + word.Text
		} else if strings.ContainsFunc(word.Text, unicode.IsLetter) {
			runs = append(runs, sizedRun{word.Text, size})
		}
		end = word.X + word.Width
	}
	return runs
}
