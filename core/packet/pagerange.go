package packet

import (
	"dorbin/core/message"
	"dorbin/core/problem"
	"strconv"
	"strings"
)

// RangeError says what is wrong with a typed range of pages, and where.
type RangeError struct {
	Problem message.Text
	At      int // index in bytes
}

func (e *RangeError) Error() string { return e.Problem.English }

// Message gives the problem.
func (e *RangeError) Message() message.Text { return e.Problem }

// Unwrap gives the problem without its place.
func (e *RangeError) Unwrap() error {
	return &problem.Error{Kind: problem.Invalid, Sentence: e.Problem}
}

// ParsePages reads a typed range of pages out of count, such as "1, 4-6, last":
// numbers, runs, in either direction, "last", "last 3" and "first 3", "odd", "even" and
// "all", with commas between. It gives page numbers from 1 in the order typed; a
// page may come more than once. The error is a *RangeError.
func ParsePages(text string, count int) ([]int, error) {
	var pages []int
	at := 0
	for _, item := range strings.Split(text, ",") {
		word := strings.ToLower(strings.TrimSpace(item))
		start := at + len(item) - len(strings.TrimLeft(item, " \t"))
		at += len(item) + 1
		found, problem := parseItem(word, count)
		if !problem.IsEmpty() {
			return nil, &RangeError{problem, start}
		}
		pages = append(pages, found...)
		if len(pages) > MaxTake {
			return nil, &RangeError{message.Of("At most %d pages can be taken at once.", MaxTake), start}
		}
	}
	return pages, nil
}

// parseItem gives the pages of one item, or what is wrong with it.
func parseItem(word string, count int) (pages []int, problem message.Text) {
	switch word {
	case "":
		return nil, message.Of("A page number is missing.")
	case "all":
		return run(1, count), message.Text{}
	case "odd":
		return every(1, count), message.Text{}
	case "even":
		return every(2, count), message.Text{}
	}
	if end, n, ok := strings.Cut(word, " "); ok && (end == "first" || end == "last") {
		many, err := strconv.Atoi(strings.TrimSpace(n))
		if err != nil || many < 1 {
			return nil, message.Of("“%s” is not a number of pages.", word)
		}
		many = min(many, count)
		if end == "first" {
			return run(1, many), message.Text{}
		}
		return run(count-many+1, count), message.Text{}
	}
	// Word processors make an en dash of a hyphen.
	from, to, isRun := strings.Cut(strings.ReplaceAll(word, "–", "-"), "-")
	first, problem := parseNumber(from, count)
	if !problem.IsEmpty() {
		return nil, problem
	}
	if !isRun {
		return []int{first}, message.Text{}
	}
	last, problem := parseNumber(to, count)
	if !problem.IsEmpty() {
		return nil, problem
	}
	return run(first, last), message.Text{}
}

func parseNumber(word string, count int) (n int, problem message.Text) {
	word = strings.TrimSpace(word)
	if word == "last" && count > 0 {
		return count, message.Text{}
	}
	n, err := strconv.Atoi(word)
	switch {
	case err != nil:
		return 0, message.Of("“%s” is not a page. Write numbers and runs, such as 1, 4-6, last.", word)
	case n < 1 || n > count:
		return 0, message.Of("There is no page %d: there are %d.", n, count)
	}
	return n, message.Text{}
}

// run counts from first to last, downwards if last is less. Of no pages it is empty.
func run(first, last int) []int {
	if first == 0 || last == 0 {
		return nil
	}
	var pages []int
	step := 1
	if last < first {
		step = -1
	}
	for n := first; n != last+step; n += step {
		pages = append(pages, n)
	}
	return pages
}

func every(first, count int) []int {
	var pages []int
	for n := first; n <= count; n += 2 {
		pages = append(pages, n)
	}
	return pages
}
