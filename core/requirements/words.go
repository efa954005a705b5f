package requirements

import (
	"fmt"
	"strings"
)

// phrase is what is said of one page, or of several.
type phrase struct{ one, many string }

// eachPage asks of every page whether it meets a rule, and names those that do not. Where all others
// do, it names those of which it is not known.
func (j judge) eachPage(broken phrase, meets func(Page) Answer) Verdict {
	var not, unknown []int
	for i, page := range j.facts.Pages {
		switch meets(page) {
		case No:
			not = append(not, i+1)
		case Unknown:
			unknown = append(unknown, i+1)
		}
	}
	switch {
	case len(not) > 0:
		return notMetBy(not, broken)
	case len(unknown) > 0:
		return Verdict{State: Pending, Pages: unknown, Why: pagesWords(unknown) + verb(len(unknown), " is not known yet", " are not known yet")}
	}
	return met("")
}

func notMetBy(pages []int, broken phrase) Verdict {
	return Verdict{State: NotMet, Pages: pages, Why: pagesWords(pages) + " " + verb(len(pages), broken.one, broken.many)}
}

func verb(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}

func count(n int, what string) string {
	return fmt.Sprintf("%d %s", n, verb(n, what, what+"s"))
}

// mostNamed is how many runs of pages are named before the others are counted.
const mostNamed = 4

// pagesWords names pages by their numbers, which rise: "Pages 1–4, 6 and 12".
func pagesWords(numbers []int) string {
	var runs []string
	named := 0
	for i := 0; i < len(numbers) && len(runs) < mostNamed; i = named {
		end := i
		for end+1 < len(numbers) && numbers[end+1] == numbers[end]+1 {
			end++
		}
		switch named = end + 1; end - i {
		case 0:
			runs = append(runs, fmt.Sprint(numbers[i]))
		case 1:
			runs = append(runs, fmt.Sprint(numbers[i]), fmt.Sprint(numbers[end]))
		default:
			runs = append(runs, fmt.Sprintf("%d–%d", numbers[i], numbers[end]))
		}
	}
	if more := len(numbers) - named; more > 0 {
		runs = append(runs, fmt.Sprintf("%d more", more))
	}
	return verb(len(numbers), "Page ", "Pages ") + list(runs, "and")
}

// list joins words: "a, b and c".
func list(words []string, and string) string {
	if len(words) < 2 {
		return strings.Join(words, "")
	}
	return strings.Join(words[:len(words)-1], ", ") + " " + and + " " + words[len(words)-1]
}

func orList(words []string) string { return list(words, "or") }
