package finish

import (
	"errors"
	"slices"
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/message"
)

// The ways in which parts are told apart.
const (
	AsSheet = "sheet"
	AsLabel = "label"
)

// Sheets tell parts apart: by a sheet before each, or by a label on its first page.
type Sheets struct {
	On   bool   `json:"on"`
	As   string `json:"as" enum:"sheet,label"`
	Text string `json:"text" doc:"It may have fields: {letter} and {partNumber} count the parts that have one."`
	Side Side   `json:"side" enum:"left,middle,right,outer" doc:"Of a label, at the head of the page."`
	Skip string `json:"skip" doc:"Parts without one: those whose first page is selected by these words."`
	// Without names the parts whose sheet was removed, by their ids and commas.
	Without string `json:"without" doc:"Ids of parts whose sheet was removed, separated by commas."`
	Writing
}

// WantsSheets tells whether each part is to have a sheet.
func (s Sheets) WantsSheets() bool { return s.On && s.As == AsSheet }

func (s Sheets) check() error {
	switch {
	case s == Sheets{}:
		return nil
	case s.As != AsSheet && s.As != AsLabel:
		return message.Errorf("parts have a sheet or a label, not %q", s.As)
	case s.On && strings.TrimSpace(s.Text) == "":
		return message.Errorf("part sheets have no text")
	case !slices.Contains([]Side{Left, Middle, Right, Outer}, s.Side):
		return message.Errorf("labels are left, middle, right or outer, not %q", string(s.Side))
	}
	return errors.Join(checkText(message.Of("part sheets"), s.Face, s.Text), s.Writing.check(message.Of("part sheets")))
}

// label is on the first page of a part.
func (s Sheets) label(on filler, page Page, place Place) []Mark {
	if !s.On || s.As != AsLabel || !page.Begins || page.Annex == 0 {
		return nil
	}
	text := strings.TrimSpace(on.fill(s.Text))
	if text == "" {
		return nil
	}
	return []Mark{s.place(LabelMark, text, s.Side.on(place.At), true, page.Size)}
}

// sheet is the page before a part: its text large, and the part's title beneath, unless the text
// has it.
func (s Sheets) sheet(on filler, page Page) []Mark {
	write := column{kind: SheetMark, face: s.Face, colour: s.Colour, left: page.Size.Width * marginShare, width: page.Size.Width * (1 - 2*marginShare)}
	write.y = page.Size.Height * 0.38
	write.centred(page.Size, on.fill(s.Text), 30)
	if !strings.Contains(s.Text, "{part}") {
		write.y += 14
		write.centred(page.Size, page.Part, 16)
	}
	return write.marks
}

// marginShare is the part of a made page's width that is free at its left, and at its right.
const marginShare = 0.12

// column writes lines one below another.
type column struct {
	kind, colour string
	face         face
	left, width  float64
	y            float64 // the line of what was written last
	marks        []Mark
}

// lineHeight is from one line to the next, in shares of the size of the text.
const lineHeight = 1.35

// text writes a paragraph from the left.
func (c *column) text(text string, size float64) {
	for _, line := range wrapped(c.face, text, size, c.width) {
		c.y += size * lineHeight
		c.add(line, c.left, size)
	}
}

func (c *column) centred(page geometry.Size, text string, size float64) {
	for _, line := range wrapped(c.face, text, size, c.width) {
		c.y += size * lineHeight
		c.add(line, (page.Width-c.face.Width(line, size))/2, size)
	}
}

func (c *column) add(text string, x, size float64) {
	c.marks = append(c.marks, Mark{
		Kind: c.kind, Text: text, At: geometry.Point{X: x, Y: c.y}, Width: c.face.Width(text, size), Size: size, Face: c.face, Colour: c.colour,
	})
}

// wrapped parts a text into lines that are no wider than so many points. Words that are wider
// than that are parted.
func wrapped(f face, text string, size, width float64) []string {
	var lines []string
	line := ""
	for _, word := range strings.Fields(text) {
		if longer := strings.TrimSpace(line + " " + word); f.Width(longer, size) <= width {
			line = longer
			continue
		}
		if line != "" {
			lines = append(lines, line)
		}
		for f.Width(word, size) > width && utf8.RuneCountInString(word) > 1 {
			fits := fitting(f, word, size, width)
			lines, word = append(lines, word[:fits]), word[fits:]
		}
		line = word
	}
	if line != "" {
		lines = append(lines, line)
	}
	return lines
}

// fitting is how many bytes of a word fit into a width: one letter at least.
func fitting(f face, word string, size, width float64) int {
	fits := 0
	for i, r := range word {
		end := i + utf8.RuneLen(r)
		if fits > 0 && f.Width(word[:end], size) > width {
			break
		}
		fits = end
	}
	return fits
}
