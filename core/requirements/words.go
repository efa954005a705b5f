package requirements

import (
	"fmt"

	"dorbin/core/message"
)

// eachPage asks of every page whether it meets a rule. It names those that do not, in a text for one page or for
// several. Where all others do, it names those of which it is not known.
func (j judge) eachPage(one, other string, meets func(Page) Answer) Verdict {
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
		return notMetBy(not, one, other)
	case len(unknown) > 0:
		verdict := pending(message.Count(len(unknown), "%s is not known yet", "%s are not known yet", pagesWords(unknown)))
		verdict.Pages = unknown
		return verdict
	}
	return met(message.Text{})
}

func notMetBy(pages []int, one, other string, values ...any) Verdict {
	values = append([]any{pagesWords(pages)}, values...)
	return Verdict{State: NotMet, Pages: pages, Why: message.Count(len(pages), one, other, values...)}
}

func pagesOf(n int) message.Text { return message.Count(n, "%d page", "%d pages") }
func filesOf(n int) message.Text { return message.Count(n, "%d file", "%d files") }
func daysOf(n int) message.Text  { return message.Count(n, "%d day", "%d days") }

// mostNamed is how many runs of pages are named before the others are counted.
const mostNamed = 4

// pagesWords names pages by their numbers, which rise: "Pages 1–4, 6 and 12".
func pagesWords(numbers []int) message.Text {
	var runs []any
	named := 0
	for i := 0; i < len(numbers) && len(runs) < mostNamed; i = named {
		end := i
		for end+1 < len(numbers) && numbers[end+1] == numbers[end]+1 {
			end++
		}
		switch named = end + 1; end - i {
		case 0:
			runs = append(runs, numbers[i])
		case 1:
			runs = append(runs, numbers[i], numbers[end])
		default:
			runs = append(runs, fmt.Sprintf("%d–%d", numbers[i], numbers[end]))
		}
	}
	if more := len(numbers) - named; more > 0 {
		runs = append(runs, message.Of("%d more", more))
	}
	return message.Count(len(numbers), "Page %s", "Pages %s", message.And(runs...))
}
