package check

import (
	"regexp"
	"strconv"
	"strings"
)

// Printed is the page number that a page bears, and how many pages it says that
// there are; zero is unknown.
type Printed struct {
	Number int `json:"number,omitempty"`
	Of     int `json:"of,omitempty"`
}

// printedForms are the ways in which pages bear their numbers, the surest first.
var printedForms = []*regexp.Regexp{
	regexp.MustCompile(`(?i)\b(?:page|sheet|seite|blatt|p\.)\s*(\d{1,4})\s*(?:of|/|von)\s*(\d{1,4})\b`),
	regexp.MustCompile(`(?i)\b(?:page|sheet|seite|blatt|p\.)\s*(\d{1,4})\b()`),
	regexp.MustCompile(`^\s*(\d{1,4})\s*(?:/|of)\s*(\d{1,4})\s*$`),
	regexp.MustCompile(`^\s*[-–—]?\s*(\d{1,3})\s*[-–—]?\s*$()`),
}

// PrintedNumber finds a page's number in the lines printed at its top and
// bottom.
func PrintedNumber(text string) (Printed, bool) {
	lines := strings.Split(text, "\n")
	for _, form := range printedForms {
		for _, line := range lines {
			match := form.FindStringSubmatch(line)
			if match == nil {
				continue
			}
			number, _ := strconv.Atoi(match[1]) // digits alone
			of, _ := strconv.Atoi(match[2])
			if number > 0 && (of == 0 || number <= of) {
				return Printed{number, of}, true
			}
		}
	}
	return Printed{}, false
}

// Gap is a place where pages seem to be missing.
type Gap struct {
	After   int `json:"after"`   // pages before it; 0 is the beginning
	Missing int `json:"missing"` // how many
}

// Gaps finds the places in a run of pages where their printed numbers leave
// pages out. Pages whose number is not known count as one each.
func Gaps(pages []Printed) []Gap {
	gaps := []Gap{}
	last, lastAt := 0, -1
	for i, page := range pages {
		if page.Number == 0 {
			continue
		}
		restarts := page.Number <= last // another paper begins
		if restarts {
			last, lastAt = 0, i-1
		}
		if missing := page.Number - last - (i - lastAt); missing > 0 && (lastAt >= 0 || page.Of > 0 || i > 0) {
			gaps = append(gaps, Gap{i, missing})
		}
		last, lastAt = page.Number, i
	}
	if n := len(pages); n > 0 && pages[n-1].Of > pages[n-1].Number && pages[n-1].Number > 0 {
		gaps = append(gaps, Gap{n, pages[n-1].Of - pages[n-1].Number})
	}
	return gaps
}
