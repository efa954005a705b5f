package check

import (
	"cmp"
	"slices"

	"dorbin/core/message"
	"dorbin/core/packet"
)

// numbers finds, in each part, runs of printed page numbers that are out of order
// or leave pages out.
func (s Survey) numbers() []Finding {
	var findings []Finding
	first := 0
	for _, part := range s.packet.Parts {
		numbers := make([]Printed, len(part.Pages))
		for i, page := range part.Pages {
			if signs, ok := s.known.Analysis(page.Source, page.SourcePage); ok && !page.IsBlank() {
				numbers[i] = signs.Printed
			}
		}
		for _, run := range runs(numbers) {
			findings = append(findings, judge(part.Pages, numbers, run, first)...)
		}
		first += len(part.Pages)
	}
	return findings
}

// run is a stretch of pages, from the first to before the end, whose printed
// numbers seem to be of one paper.
type run struct{ first, end int }

// fewestNumbers is how many pages with numbers make a paper: one alone may be
// anything.
const fewestNumbers = 2

// runs cuts pages into papers: a new one begins where a number is there already,
// or the papers say different totals.
func runs(numbers []Printed) []run {
	var all []run
	seen := map[int]bool{}
	of, known := 0, 0
	at := run{}
	end := func(i int) {
		if at.end = i; known >= fewestNumbers {
			all = append(all, at)
		}
		at, of, known = run{first: i}, 0, 0
		clear(seen)
	}
	for i, n := range numbers {
		if n.Number == 0 {
			continue
		}
		if seen[n.Number] || (n.Of != of && known > 0) {
			end(i)
		}
		seen[n.Number], of = true, n.Of
		known++
	}
	end(len(numbers))
	return all
}

func judge(pages []packet.Page, numbers []Printed, r run, before int) []Finding {
	var numbered []int // indices of pages with numbers
	for i := r.first; i < r.end; i++ {
		if numbers[i].Number > 0 {
			numbered = append(numbered, i)
		}
	}
	inOrder := func(i, j int) int { return cmp.Compare(numbers[i].Number, numbers[j].Number) }
	if !slices.IsSortedFunc(numbered, inOrder) {
		return []Finding{disorder(pages, numbers, numbered, before)}
	}
	var findings []Finding
	for k, i := range numbered[1:] {
		last := numbered[k]
		left := numbers[i].Number - numbers[last].Number - (i - last)
		if left <= 0 {
			continue
		}
		findings = append(findings, Finding{
			Kind: Number, Key: key(Number, pages[i], pages[last]), Page: pages[i].ID, Other: pages[i-1].ID,
			Sentence: message.Of("Before page %d, which bears the number %d, %s: the one before bears %d",
				before+i+1, numbers[i].Number, lack(left), numbers[last].Number),
		})
	}
	last := numbered[len(numbered)-1]
	if left := numbers[last].Of - numbers[last].Number - (r.end - 1 - last); left > 0 {
		findings = append(findings, Finding{
			Kind: Number, Key: key(Number, pages[last]), Page: pages[last].ID, Other: pages[last].ID,
			Sentence: message.Of("After page %d, which bears the number %d of %d, %s",
				before+last+1, numbers[last].Number, numbers[last].Of, lack(left)),
		})
	}
	return findings
}

func lack(n int) message.Text {
	return message.Count(n, "a page seems to be missing", "%d pages seem to be missing")
}

// disorder is the finding of a run whose numbers are not in order; the pages that
// have numbers change places to settle it.
func disorder(pages []packet.Page, numbers []Printed, numbered []int, before int) Finding {
	at := 1
	for numbers[numbered[at]].Number > numbers[numbered[at-1]].Number {
		at++
	}
	sorted := slices.Clone(numbered)
	slices.SortStableFunc(sorted, func(i, j int) int { return cmp.Compare(numbers[i].Number, numbers[j].Number) })
	order := make([]packet.PageID, len(sorted))
	for k, i := range sorted {
		order[k] = pages[i].ID
	}
	wrong := numbered[at]
	return Finding{
		Kind: Number, Key: key(Number, pages[wrong], pages[numbered[at-1]]), Page: pages[wrong].ID,
		Sentence: message.Of("Page %d bears the number %d but comes after number %d",
			before+wrong+1, numbers[wrong].Number, numbers[numbered[at-1]].Number),
		Settle: []packet.Command{packet.Arrange{Selected: packet.On(order...)}},
	}
}
