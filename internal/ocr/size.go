package ocr

import (
	"slices"
	"strings"
	"unicode"
)

// How high letters of one kind are, in shares of their size, as most typefaces of books and offices
// have it.
const (
	smallHeight   = 0.52 // small letters without ascenders, such as x
	capitalHeight = 0.72 // capitals, figures and ascenders
	fullHeight    = 0.88 // letters of other scripts, such as Chinese
	hanging       = 0.21 // descenders, below the baseline
	bearing       = 0.04 // the white at either side of a letter, which is part of it
)

// sizeOfWord estimates of what size letters are of which a word's box is so high, in pixels: a word
// without ascenders or descenders is lower than its line. So much of its height it owes to its
// slope.
func sizeOfWord(word string, height, sloped float64) float64 {
	above, below := 0.0, 0.0
	for _, r := range word {
		switch {
		case strings.ContainsRune("gjpqyQ,;()[]{}|/@", r):
			below = hanging
			if strings.ContainsRune("Q()[]{}|/@j", r) {
				above = capitalHeight
			}
			above = max(above, smallHeight)
		case unicode.IsUpper(r) || unicode.IsDigit(r) || strings.ContainsRune("bdfhijklt!?%&\"'“”‘’*#$£€", r):
			above = capitalHeight
		case unicode.IsLower(r):
			above = max(above, smallHeight)
		case unicode.IsLetter(r):
			above, below = fullHeight-hanging/2, hanging/2
		}
	}
	if above+below == 0 {
		return 0
	}
	return max(1, height-min(sloped, height/2)) / (above + below)
}

// commonSize is what most words of a line are of; what was told of it where no word tells.
func commonSize(sizes []float64, told float64) float64 {
	known := slices.DeleteFunc(slices.Clone(sizes), func(size float64) bool { return size == 0 })
	if len(known) == 0 {
		return told
	}
	slices.Sort(known)
	return known[len(known)/2]
}

// isPunctuation tells of words without letters and digits, whose height tells nothing of their
// size.
func isPunctuation(word string) bool {
	return !strings.ContainsFunc(word, func(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) })
}
