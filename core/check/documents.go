package check

import (
	"cmp"
	"maps"
	"math"
	"slices"
	"strings"

	"dorbin/core/message"
	"dorbin/core/text"
)

// Document is pages of a stack that belong together, by what is written on them.
type Document struct {
	Title string // from its first page; empty where nothing stands out
	Pages []Placed
	// Missing are numbers that its pages leave out.
	Missing []int
}

// Placed is a page in its document, and why it is there.
type Placed struct {
	Leaf    int // its place in the stack, from 0
	Printed Printed
	Twice   bool // another page of the document bears its number
	Reason  message.Text
}

// FindDocuments tells which pages of a stack make one document, and in which order, by their
// letterheads, references and printed numbers. Documents come in the order of their first pages in the
// stack.
func FindDocuments(stack []text.Sheet) []Document {
	pages := leavesOf(stack)
	groups := groupLeaves(pages)
	documents := make([]Document, len(groups))
	for i, group := range groups {
		documents[i] = documentOf(pages, group)
	}
	return documents
}

// likeEnough is from which likeness on pages are of one document.
const likeEnough = 0.3

// groupLeaves joins the two groups of pages that are the most alike, until none are alike enough. Then
// pages that have nothing in common with others go where their number is missing.
func groupLeaves(pages []*leaf) [][]int {
	groups := make([][]int, len(pages))
	for i := range pages {
		groups[i] = []int{i}
	}
	sums := likenesses(pages)
	for {
		best, a, b := likeEnough, -1, -1
		for i := range groups {
			for j := range i {
				if like := sums[i][j] / float64(len(groups[i])*len(groups[j])); like > best {
					best, a, b = like, j, i
				}
			}
		}
		if a < 0 {
			break
		}
		groups[a] = append(groups[a], groups[b]...)
		groups = slices.Delete(groups, b, b+1)
		sums = joinSums(sums, a, b)
	}
	groups = placeLoose(pages, groups)
	for _, group := range groups {
		slices.Sort(group)
	}
	slices.SortFunc(groups, func(a, b []int) int { return a[0] - b[0] })
	return groups
}

// likenesses are those of all pairs of pages, and minus infinity of two that cannot be of one document:
// it outlasts every sum.
func likenesses(pages []*leaf) [][]float64 {
	all := make([][]float64, len(pages))
	for i := range pages {
		all[i] = make([]float64, len(pages))
		for j := range i {
			like := math.Inf(-1)
			if pages[i].mayBeOf(pages[j]) {
				like = pages[i].likeness(pages[j])
			}
			all[i][j], all[j][i] = like, like
		}
	}
	return all
}

// joinSums has the sums of the likenesses of one group to the others be those of two groups.
func joinSums(sums [][]float64, a, b int) [][]float64 {
	for i := range sums {
		sums[a][i] += sums[b][i]
		sums[i][a] = sums[a][i]
	}
	for i := range sums {
		sums[i] = slices.Delete(sums[i], b, b+1)
	}
	return slices.Delete(sums, b, b+1)
}

// placeLoose has single pages go to the one group that lacks their number. Those that are left are one
// document if they bear the numbers from 1 on.
func placeLoose(pages []*leaf, groups [][]int) [][]int {
	var documents [][]int
	var loose []int
	for _, group := range groups {
		if len(group) == 1 && len(groups) > 1 {
			loose = append(loose, group[0])
		} else {
			documents = append(documents, group)
		}
	}
	if len(documents) == 0 {
		return groups
	}
	var left []int
	for _, i := range loose {
		at := slices.IndexFunc(documents, func(group []int) bool { return lacksNumberOf(pages, group, i) })
		others := at >= 0 && slices.ContainsFunc(documents[at+1:], func(group []int) bool { return lacksNumberOf(pages, group, i) })
		if at >= 0 && !others {
			documents[at] = append(documents[at], i)
			continue
		}
		left = append(left, i)
	}
	if isRun(pages, left) {
		return append(documents, left)
	}
	for _, i := range left {
		documents = append(documents, []int{i})
	}
	return documents
}

// isRun tells whether pages bear the numbers from 1 on, each once.
func isRun(pages []*leaf, group []int) bool {
	numbers := map[int]bool{}
	for _, i := range group {
		numbers[pages[i].printed.Number] = true
	}
	for n := range group {
		if !numbers[n+1] {
			return false
		}
	}
	return len(group) > 1
}

// lacksNumberOf tells whether a group has a gap for a page: a number between its own, or the next, or
// no number for its first page.
func lacksNumberOf(pages []*leaf, group []int, i int) bool {
	highest, of, has := 0, 0, map[int]bool{}
	for _, j := range group {
		if !pages[i].mayBeOf(pages[j]) {
			return false
		}
		n := pages[j].printed
		has[n.Number] = true
		highest, of = max(highest, n.Number), max(of, n.Of)
	}
	number := pages[i].printed.Number
	if number == 0 {
		return highest > 1 && !has[1]
	}
	return !has[number] && number <= max(of, highest+1)
}

// documentOf puts the pages of a group in order.
func documentOf(pages []*leaf, group []int) (d Document) {
	numbers := numbersOf(pages, group)
	order := slices.Clone(group)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(numbers[a], numbers[b]) })
	times := map[int]int{}
	highest, of := 0, 0
	for _, i := range group {
		if n := pages[i].printed; n.Number > 0 {
			times[n.Number]++
			highest, of = max(highest, n.Number), max(of, n.Of)
		}
	}
	shared := sharedMarks(pages, group)
	taken := map[int]bool{}
	for _, i := range order {
		taken[numbers[i]] = true
		n := pages[i].printed
		d.Pages = append(d.Pages, Placed{
			Leaf: i, Printed: n, Twice: n.Number > 0 && times[n.Number] > 1, Reason: reasonOf(n, shared, len(group)),
		})
	}
	for number := 1; number <= max(highest, of) && number <= mostNumbers; number++ {
		if highest > 0 && !taken[number] {
			d.Missing = append(d.Missing, number)
		}
	}
	d.Title = pages[order[0]].title
	return d
}

const mostNumbers = 200 // a number that is higher may be anything

// numbersOf gives each page of a group a number to be sorted by: its own, or for pages without one
// those that are left, as they come in the stack.
func numbersOf(pages []*leaf, group []int) map[int]int {
	numbers, taken := map[int]int{}, map[int]bool{}
	for _, i := range group {
		if n := pages[i].printed.Number; n > 0 {
			numbers[i], taken[n] = n, true
		}
	}
	next := 1
	for _, i := range group {
		if numbers[i] > 0 {
			continue
		}
		for taken[next] {
			next++
		}
		numbers[i], taken[next] = next, true
	}
	return numbers
}

// sharedMarks are marks that most pages of a group have, those that tell the most first.
func sharedMarks(pages []*leaf, group []int) (shared []string) {
	having, tells := map[string]int{}, map[string]float64{}
	for _, i := range group {
		for mark, weight := range pages[i].marks {
			having[mark]++
			tells[mark] = weight
		}
	}
	for _, mark := range slices.Sorted(maps.Keys(having)) {
		if having[mark] > 1 && 2*having[mark] > len(group) && !strings.HasPrefix(mark, "of ") {
			shared = append(shared, mark)
		}
	}
	slices.SortStableFunc(shared, func(a, b string) int { return cmp.Compare(tells[b], tells[a]) })
	shared = shared[:min(len(shared), 2)]
	for i, mark := range shared {
		for _, at := range group {
			if written := pages[at].written[mark]; written != "" {
				shared[i] = written
			}
		}
	}
	return shared
}

// reasonOf says why a page is where it is.
func reasonOf(n Printed, shared []string, pages int) message.Text {
	var because []message.Text
	switch {
	case n.Of > 0:
		because = append(because, message.Of("it bears the number %d of %d", n.Number, n.Of))
	case n.Number > 0:
		because = append(because, message.Of("it bears the number %d", n.Number))
	case pages > 1:
		because = append(because, message.Of("it bears no number: it stays as it was scanned"))
	}
	if pages > 1 && len(shared) > 0 {
		because = append(because, message.Count(len(shared), "“%s” is on it as on the others", "“%s” are on it as on the others", strings.Join(shared, "” and “")))
	}
	if len(because) == 0 {
		return message.Sentence("nothing on it is on another page")
	}
	return message.Commas(because...).AsSentence()
}
