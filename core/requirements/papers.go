package requirements

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dorbin/core/message"
	"dorbin/core/text"
)

// PartFacts is what is known of a part of a packet.
type PartFacts struct {
	Title string
	Paper string // the title of the paper that it was said to be; empty where nothing was said
	Text  string // of its pages, as far as it is known
}

// PaperVerdict tells whether a paper that is asked for is there.
type PaperVerdict struct {
	Title    string       `json:"title"`
	State    State        `json:"state" enum:"met,notMet,unknown"`
	Why      message.Text `json:"why,omitzero"`
	Wanted   int          `json:"wanted" doc:"How many of it there must be at least; 0 where it is optional."`
	Parts    []int        `json:"parts" nullable:"false" doc:"The parts that are this paper: places in the packet, from 0."`
	Proposed []int        `json:"proposed" nullable:"false" doc:"The parts that seem to be this paper: places in the packet, from 0."`
}

// JudgePapers looks for each of the papers that are asked for among the parts of a packet.
func (r Receiver) JudgePapers(parts []PartFacts) []PaperVerdict {
	verdicts := make([]PaperVerdict, len(r.Papers))
	proposed := r.propose(parts)
	for i, paper := range r.Papers {
		v := PaperVerdict{Title: paper.Title, Wanted: paper.AtLeast(), Parts: []int{}, Proposed: proposed[i]}
		for place, part := range parts {
			if part.Paper == paper.Title {
				v.Parts = append(v.Parts, place)
			}
		}
		verdicts[i] = v.judged(paper, parts)
	}
	return verdicts
}

func (v PaperVerdict) judged(paper Paper, parts []PartFacts) PaperVerdict {
	v.State = Met
	switch {
	case len(v.Parts) == 0 && v.Wanted > 0:
		v.State, v.Why = NotMet, message.Of("Missing")
	case len(v.Parts) == 0:
		v.Why = message.Of("Not there, which is allowed")
	case len(v.Parts) < v.Wanted:
		more := v.Wanted - len(v.Parts)
		v.State, v.Why = NotMet, message.Count(more, "%d more is missing", "%d more are missing")
	case paper.Since != "":
		v.State, v.Why = v.age(paper, parts)
	}
	return v
}

// age tells whether all parts of a paper have a day in their text that is not too early.
func (v PaperVerdict) age(paper Paper, parts []PartFacts) (State, message.Text) {
	for _, place := range v.Parts {
		newest := newestDay(parts[place].Text)
		switch {
		case newest == "":
			return Pending, message.Of("Its date could not be read: it must be of %s or later", message.Day(paper.Since))
		case newest < paper.Since:
			return NotMet, message.Of("It is of %s, and must be of %s or later", message.Day(newest), message.Day(paper.Since))
		}
	}
	return Met, message.Text{}
}

// likeEnough is how like a paper a part must be to be proposed.
const likeEnough = 0.6

// propose finds for each paper the parts that nobody has said anything of and that seem to be it, by
// the words of their titles or at the beginning of their text.
func (r Receiver) propose(parts []PartFacts) [][]int {
	proposed := make([][]int, len(r.Papers))
	for i := range proposed {
		proposed[i] = []int{}
	}
	asked := make([]map[string]bool, len(r.Papers))
	for i, paper := range r.Papers {
		asked[i] = wordSet(paper.Title)
	}
	for place, part := range parts {
		if part.Paper != "" {
			continue
		}
		title, opening := wordSet(part.Title), wordSet(openingOf(part.Text))
		best, likeness := -1, likeEnough
		for i := range r.Papers {
			if share := likenessOf(asked[i], title, opening); share > likeness {
				best, likeness = i, share
			}
		}
		if best >= 0 {
			proposed[best] = append(proposed[best], place)
		}
	}
	return proposed
}

// likenessOf is which share of the words of a paper's title a part has in its own, or at the beginning
// of its text, which tells less. A part may be named by some words of it alone: "accounts".
func likenessOf(asked, title, opening map[string]bool) float64 {
	return max(shareOf(asked, title), 0.9*shareOf(asked, opening), 0.8*shareOf(title, asked))
}

// openingLetters is how much of a part's text tells what it is.
const openingLetters = 400

func openingOf(s string) string {
	letters := 0
	for i := range s {
		if letters++; letters > openingLetters {
			return s[:i]
		}
	}
	return s
}

// emptyWords tell nothing about a paper.
var emptyWords = []string{"a", "an", "and", "at", "by", "for", "from", "in", "of", "on", "or", "the", "to", "with", "copy", "signed", "your", "our"}

func wordSet(title string) map[string]bool {
	words := map[string]bool{}
	apart := strings.NewReplacer("-", " ", "_", " ").Replace(title) // a hyphen in the name of a file is a space
	for _, word := range strings.FieldsFunc(text.Fold(apart), isNoLetter) {
		if !slices.Contains(emptyWords, word) {
			words[stem(word)] = true
		}
	}
	return words
}

func isNoLetter(r rune) bool {
	return !(r >= '0' && r <= '9' || r >= 'a' && r <= 'z' || r > 127)
}

// stem leaves the plural of words out.
func stem(word string) string {
	if len(word) > 3 {
		return strings.TrimSuffix(word, "s")
	}
	return word
}

func shareOf(words, in map[string]bool) float64 {
	found := 0
	for word := range words {
		if in[word] {
			found++
		}
	}
	return float64(found) / float64(max(1, len(words)))
}

var (
	isoDay   = regexp.MustCompile(`\b(\d{4})-(\d{2})-(\d{2})\b`)
	dayFirst = regexp.MustCompile(`(?i)\b(\d{1,2})(?:st|nd|rd|th)?\.?\s+([a-z]{3,9})\.?,?\s+(\d{4})\b`)
	dayLater = regexp.MustCompile(`(?i)\b([a-z]{3,9})\.?\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})\b`)
)

// newestDay is the latest day that is written in a text, as 2026-03-31; empty where there is none. Days of
// which it is not sure what is the month, such as 3/4/2026, are passed over.
func newestDay(s string) string {
	var days []string
	for _, m := range isoDay.FindAllStringSubmatch(s, -1) {
		days = append(days, m[0])
	}
	for _, m := range dayFirst.FindAllStringSubmatch(s, -1) {
		days = append(days, dayOf(m[3], m[2], m[1]))
	}
	for _, m := range dayLater.FindAllStringSubmatch(s, -1) {
		days = append(days, dayOf(m[3], m[1], m[2]))
	}
	days = slices.DeleteFunc(days, func(day string) bool {
		_, err := time.Parse(time.DateOnly, day)
		return err != nil
	})
	if len(days) == 0 {
		return ""
	}
	return slices.MaxFunc(days, cmp.Compare[string])
}

func dayOf(year, month, day string) string {
	for m := time.January; m <= time.December; m++ {
		if name := strings.ToLower(m.String()); strings.HasPrefix(name, strings.ToLower(month)) {
			n, _ := strconv.Atoi(day) // digits
			return year + "-" + twoDigits(int(m)) + "-" + twoDigits(n)
		}
	}
	return ""
}

func twoDigits(n int) string {
	if n < 10 {
		return "0" + strconv.Itoa(n)
	}
	return strconv.Itoa(n)
}
