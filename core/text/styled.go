package text

import (
	"strings"
	"unicode"
)

// Style is how letters look, besides their size, as far as that is known: of the text that PDFs have, not of text
// that was recognised.
type Style struct {
	Bold   bool `json:"b,omitempty"`
	Italic bool `json:"i,omitempty"`
}

// both is what two styles have in common.
func (s Style) both(other Style) Style {
	return Style{s.Bold && other.Bold, s.Italic && other.Italic}
}

// Span is a run of text in one style.
type Span struct {
	Text string
	Style
}

// Styled is text in spans, of which no two that follow each other have the same style.
type Styled []Span

// Plainly is text without any style.
func Plainly(text string) Styled { return Styled(nil).with(text, Style{}) }

// String is the text alone.
func (s Styled) String() string {
	var b strings.Builder
	for _, span := range s {
		b.WriteString(span.Text)
	}
	return b.String()
}

// with adds text.
func (s Styled) with(text string, style Style) Styled {
	switch last := len(s) - 1; {
	case text == "":
		return s
	case last >= 0 && s[last].Style == style:
		return append(s[:last:last], Span{s[last].Text + text, style})
	}
	return append(s[:len(s):len(s)], Span{text, style})
}

// withSpace adds a space before text of a style.
func (s Styled) withSpace(before Style) Styled {
	if len(s) == 0 {
		return s
	}
	return s.with(" ", s[len(s)-1].both(before))
}

// joined adds text behind.
func (s Styled) joined(next Styled) Styled {
	for _, span := range next {
		s = s.with(span.Text, span.Style)
	}
	return s
}

// cut is the text from a byte to before another.
func (s Styled) cut(from, to int) (part Styled) {
	at := 0
	for _, span := range s {
		low, high := max(from-at, 0), min(to-at, len(span.Text))
		if low < high {
			part = part.with(span.Text[low:high], span.Style)
		}
		at += len(span.Text)
	}
	return part
}

// trimmed is the text without spaces at its ends.
func (s Styled) trimmed() Styled {
	whole := s.String()
	from := len(whole) - len(strings.TrimLeftFunc(whole, unicode.IsSpace))
	return s.cut(from, max(from, len(strings.TrimRightFunc(whole, unicode.IsSpace))))
}

// styled is the words of a line, with spaces between those that have them.
func (l Line) styled() (s Styled) {
	for isApart, word := range l.apart() {
		if isApart {
			s = s.withSpace(word.Style)
		}
		s = s.with(word.Text, word.Style)
	}
	return s
}
