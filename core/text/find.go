package text

import (
	"sort"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/cases"
	"golang.org/x/text/unicode/norm"
)

// Fold gives a text as it is searched: without accents, capitals, ligatures and hyphens, with
// single spaces. Two texts that a reader would call the same word fold to the same.
func Fold(s string) string {
	var b strings.Builder
	space := false
	for _, r := range norm.NFKD.String(cases.Fold().String(norm.NFKC.String(s))) {
		switch {
		case unicode.Is(unicode.Mn, r) || isHyphen(r):
			continue
		case unicode.IsSpace(r):
			space = b.Len() > 0
			continue
		}
		if space {
			b.WriteByte(' ')
			space = false
		}
		b.WriteRune(foldedQuote(unicode.ToLower(r)))
	}
	return b.String()
}

// isHyphen tells of characters that join or divide words, and of those that are not seen.
func isHyphen(r rune) bool {
	switch r {
	case '-', '\u00AD', '\u2010', '\u2011', '\u200B', '\u200C', '\u200D', '\uFEFF':
		return true
	}
	return false
}

func foldedQuote(r rune) rune {
	switch r {
	case '‘', '’', '‚', '′':
		return '\''
	case '“', '”', '„', '″':
		return '"'
	case '–', '—', '−':
		return '–'
	}
	return r
}

// AreApart tells whether two words that follow each other are written apart: in scripts
// without spaces they are not.
func AreApart(before, after string) bool {
	last, _ := utf8.DecodeLastRuneInString(before)
	first, _ := utf8.DecodeRuneInString(after)
	return !isUnspaced(last) || !isUnspaced(first)
}

// isUnspaced tells of characters of scripts whose words are not divided by spaces.
func isUnspaced(r rune) bool {
	return unicode.In(r, unicode.Han, unicode.Hiragana, unicode.Katakana, unicode.Thai, unicode.Lao, unicode.Khmer) ||
		r >= 0x3000 && r <= 0x303F || r >= 0xFF00 && r <= 0xFF60 // their punctuation
}

// Index is the text of a page, folded, with the way back to its words.
type Index struct {
	Folded string
	begins []int // of each word in the folded text, by its place among all words
}

// IndexOf folds the text of a page. A word that is divided at the end of a line is one.
func IndexOf(p Page) Index {
	var index Index
	var b strings.Builder
	before := ""
	for _, line := range p.Lines {
		for i, word := range line.Words {
			folded := Fold(word.Text)
			isJoined := i == 0 && isDivided(before, word.Text)
			if b.Len() > 0 && folded != "" && !isJoined && AreApart(before, word.Text) {
				b.WriteByte(' ')
			}
			index.begins = append(index.begins, b.Len())
			b.WriteString(folded)
			before = word.Text
		}
	}
	index.Folded = b.String()
	return index
}

// isDivided tells whether a word at the end of a line goes on at the beginning of the next.
func isDivided(end, beginning string) bool {
	hyphen, size := utf8.DecodeLastRuneInString(end)
	if hyphen != '-' && hyphen != '\u00AD' && hyphen != '\u2010' {
		return false
	}
	last, _ := utf8.DecodeLastRuneInString(end[:len(end)-size])
	first, _ := utf8.DecodeRuneInString(beginning)
	return unicode.IsLetter(last) && unicode.IsLower(first)
}

// Match is a run of words in which what was searched for is, by their places among all words
// of the page.
type Match struct {
	First int `json:"first"`
	Last  int `json:"last"`
}

// Count is how often a folded text is found.
func Count(folded, query string) int {
	if query == "" {
		return 0
	}
	return strings.Count(folded, query)
}

// Find gives the words in which a folded text is.
func (x Index) Find(query string) []Match {
	var matches []Match
	for at := 0; query != ""; {
		i := strings.Index(x.Folded[at:], query)
		if i < 0 {
			break
		}
		from := at + i
		at = from + len(query)
		matches = append(matches, Match{x.wordAt(from), x.wordAt(at - 1)})
	}
	return matches
}

// wordAt is the last word that begins at a place in the folded text or before it.
func (x Index) wordAt(at int) int {
	return sort.Search(len(x.begins), func(i int) bool { return x.begins[i] > at }) - 1
}
