package text

import "unicode"

// Of what a recognition of text takes for lines where there is none, hardly a word is sure, or none
// has letters.
const (
	noiseWord = 20 // below this, a word without letters and digits is none
	noiseLine = 35 // below this on average, a line is none
)

// WithoutNoise is what was read of a page without what was read in pictures, stains and edges: lines
// hardly any of whose words was read surely.
func WithoutNoise(p Page) Page {
	var kept Page
	for _, line := range p.Lines {
		var words []Word
		sure, letters := 0, 0
		for _, word := range line.Words {
			n := countLetters(word.Text)
			if n == 0 && word.Sure < noiseWord {
				continue
			}
			words = append(words, word)
			sure += word.Sure * max(1, n)
			letters += max(1, n)
		}
		if len(words) > 0 && sure >= noiseLine*letters && hasWord(words) {
			line.Words = words
			kept.Lines = append(kept.Lines, line)
		}
	}
	return kept
}

// hasWord tells whether any word has a letter or digit.
func hasWord(words []Word) bool {
	for _, word := range words {
		if countLetters(word.Text) > 0 {
			return true
		}
	}
	return false
}

func countLetters(word string) (n int) {
	for _, r := range word {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			n++
		}
	}
	return n
}
