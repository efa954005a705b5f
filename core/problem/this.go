package problem

import (
	"strings"

	"dorbin/core/message"
)

const (
	thisFormat = "this %s"
	pageFormat = "this page %s"
)

// This makes a sentence of what is wrong with something, such as "cannot be read".
func This(words message.Text) message.Text { return message.Sentence(thisFormat, words) }

// ThisPage makes a sentence of what is wrong with a page, such as "cannot be drawn".
func ThisPage(words message.Text) message.Text { return message.Sentence(pageFormat, words) }

// WithoutThis is what was wrong in a sentence of This or ThisPage, to be said of what has a name.
func WithoutThis(sentence message.Text) (words message.Text, ok bool) {
	switch sentence.Code {
	case message.Code(thisFormat), message.Code(pageFormat):
		if len(sentence.Values) != 1 {
			return message.Text{}, false // it was read from a file
		}
		if inner := sentence.Values[0]; inner.Text != nil {
			return *inner.Text, true
		}
		return message.Plain(sentence.Values[0].Words), true
	case "": // was stored before sentences had codes
		for _, start := range []string{"This page ", "This "} {
			if words, ok := strings.CutPrefix(sentence.English, start); ok {
				return message.Plain(strings.TrimSuffix(words, ".")), true
			}
		}
	}
	return message.Text{}, false
}
