package packet

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"dorbin/core/message"
	"dorbin/core/text"
)

// WordCorrection says what a word is that was recognised on a page.
type WordCorrection struct {
	At   int    `json:"at" minimum:"0" doc:"Its place among all words of the page laid flat, from 0."`
	Was  string `json:"was" doc:"What was read. Where something else was read meanwhile, nothing is corrected."`
	Text string `json:"text" doc:"What it is: the same for what was read right, nothing for what is no text."`
}

// Corrections are those of a page, by their places.
type Corrections = ListJSON[WordCorrection]

const (
	// MostCorrections is how many words of a page can be corrected.
	MostCorrections = 2000
	longestWord     = 200 // characters
)

// Correct says what words are that were recognised on pages.
type Correct struct {
	Words map[PageID][]WordCorrection `json:"words"`
}

func (c Correct) apply(p *Packet, _ []PageID, _ Known) (message.Text, error) {
	var pages []PageID
	words := 0
	for id, list := range c.Words {
		pages = append(pages, id)
		words += len(list)
		for i := range list {
			if err := list[i].check(); err != nil {
				return message.Text{}, err
			}
		}
	}
	if words == 0 {
		return message.Text{}, message.Errorf("no words are named")
	}
	on, err := p.adjust(pages, func(page *Page) error { return page.correct(c.Words[page.ID]) })
	if words == 1 {
		return message.Of("Corrected a word on %s", on), err
	}
	return message.Of("Corrected %d words on %s", words, on), err
}

func (c WordCorrection) check() error {
	switch {
	case c.At < 0 || c.Was == "":
		return message.Errorf("a word is named by its place and what was read")
	case utf8.RuneCountInString(c.Text) > longestWord:
		return message.Errorf("a word has at most %d characters", longestWord)
	case strings.ContainsFunc(c.Text, func(r rune) bool { return !unicode.IsPrint(r) }):
		return message.Errorf("a word is one line of letters and signs")
	}
	return nil
}

func (p *Page) correct(list []WordCorrection) error {
	if p.IsBlank() {
		return message.Errorf("a blank page has no words")
	}
	all := p.Corrected.List()
	for _, correction := range list {
		correction.Text = strings.TrimSpace(correction.Text)
		i, found := slices.BinarySearchFunc(all, correction.At, func(c WordCorrection, at int) int { return c.At - at })
		if found {
			all[i] = correction
		} else {
			all = slices.Insert(all, i, correction)
		}
	}
	if len(all) > MostCorrections {
		return message.Errorf("at most %d words of a page are corrected", MostCorrections)
	}
	p.Corrected = listJSON(all)
	return nil
}

// correctedText gives the text of the flat page with its corrections.
func (p Page) correctedText(flat text.Page) text.Page {
	corrections := p.Corrected.List()
	if len(corrections) == 0 {
		return flat
	}
	byPlace := make(map[int]WordCorrection, len(corrections))
	for _, c := range corrections {
		byPlace[c.At] = c
	}
	return flat.Changed(func(at int, word text.Word) (text.Word, bool) {
		if c, ok := byPlace[at]; ok && c.Was == word.Text {
			word.Text, word.Sure = c.Text, text.Certain
		}
		return word, word.Text != ""
	})
}
