package finish

import (
	"fmt"
	"strconv"
	"strings"

	"dorbin/core/geometry"
	"dorbin/core/typeface"
)

// Page is what is known of a page of the packet.
type Page struct {
	Size    geometry.Size // as it stands
	Part    string        // the title of its part
	Begins  bool          // it is the first of its part
	Skipped bool          // it gets no number
}

// The kinds of marks.
const (
	NumberMark = "number"
	HeaderMark = "header"
	FooterMark = "footer"
)

// Facts are what fields of a header or a footer stand for, and that is the same on all pages.
type Facts struct {
	Packet string
	Date   string // as it is to be written
}

// Mark is a line of text on a page.
type Mark struct {
	Kind   string         `json:"kind" enum:"number,header,footer"`
	Text   string         `json:"text"`
	At     geometry.Point `json:"at" doc:"Where its first letter stands on the line, in points from the page's top left."`
	Width  float64        `json:"width" doc:"Points."`
	Size   float64        `json:"size" doc:"Points."`
	Face   typeface.Face  `json:"face" enum:"sans,serif"`
	Colour string         `json:"colour"`
	Rule   bool           `json:"rule,omitempty" doc:"It is no text but a line, so wide and so thick."`
}

// Box is around the mark.
func (m Mark) Box() geometry.Box {
	if m.Rule {
		return geometry.Box{X0: m.At.X, Y0: m.At.Y, X1: m.At.X + m.Width, Y1: m.At.Y + m.Size}
	}
	return geometry.Box{X0: m.At.X, Y0: m.At.Y - m.Size, X1: m.At.X + m.Width, Y1: m.At.Y + m.Size/3}
}

// ruleWidth is how thick a rule is, in points.
const ruleWidth = 0.5

// Marks gives what comes on each page.
func (f Finish) Marks(pages []Page, facts Facts) [][]Mark {
	marks := make([][]Mark, len(pages))
	numbers := f.Numbers.texts(pages)
	for i, page := range pages {
		marks[i] = f.MarksOn(page, Place{At: i, Of: len(pages), Number: numbers[i]}, facts)
	}
	return marks
}

// Place is where a page is in its packet.
type Place struct {
	At, Of int    // counted from 0, of so many
	Number string // as it is written; empty where it has none
}

// MarksOn gives what comes on one page.
func (f Finish) MarksOn(page Page, place Place, facts Facts) (marks []Mark) {
	if f.Header.On {
		marks = append(marks, f.Header.marks(HeaderMark, true, place, page, facts)...)
	}
	if f.Footer.On {
		marks = append(marks, f.Footer.marks(FooterMark, false, place, page, facts)...)
	}
	if place.Number != "" {
		marks = append(marks, f.Numbers.place(NumberMark, place.Number, f.Numbers.Side.on(place.At), f.Numbers.Head, page.Size))
	}
	return marks
}

// NumberTexts gives the number that is written on each page; nothing where it has none. It is nil
// where no page has.
func (f Finish) NumberTexts(pages []Page) []string {
	if !f.Numbers.On {
		return nil
	}
	return f.Numbers.texts(pages)
}

// on is the side on a page, counted from 0.
func (s Side) on(page int) Side {
	switch {
	case s != Outer:
		return s
	case page%2 == 0:
		return Right
	}
	return Left
}

// place puts a text at the head or the foot of a page. Its capitals keep the distance from the
// paper's edge above, its line from the one below.
func (w Writing) place(kind, text string, side Side, head bool, page geometry.Size) Mark {
	width := w.Face.Width(text, w.Size)
	at := geometry.Point{X: w.Edge, Y: page.Height - w.Edge}
	if head {
		at.Y = w.Edge + w.Face.Metrics().CapHeight*w.Size
	}
	switch side {
	case Middle:
		at.X = (page.Width - width) / 2
	case Right:
		at.X = page.Width - w.Edge - width
	}
	return Mark{Kind: kind, Text: text, At: at, Width: width, Size: w.Size, Face: w.Face, Colour: w.Colour}
}

func (l Line) marks(kind string, head bool, place Place, page Page, facts Facts) []Mark {
	left, right := l.Left, l.Right
	if l.Mirror && place.At%2 == 1 {
		left, right = right, left
	}
	fields := strings.NewReplacer(
		"{page}", strconv.Itoa(place.At+1), "{pages}", strconv.Itoa(place.Of), "{part}", page.Part, "{packet}", facts.Packet, "{date}", facts.Date,
	)
	var marks []Mark
	for _, field := range []struct {
		text string
		side Side
	}{{left, Left}, {l.Middle, Middle}, {right, Right}} {
		if text := strings.TrimSpace(fields.Replace(field.text)); text != "" {
			marks = append(marks, l.place(kind, text, field.side, head, page.Size))
		}
	}
	if l.Rule {
		marks = append(marks, l.rule(kind, head, page.Size))
	}
	return marks
}

// rule is a line between the text and the page, half the text's size away from it.
func (l Line) rule(kind string, head bool, page geometry.Size) Mark {
	metrics := l.Face.Metrics()
	y := page.Height - l.Edge - (metrics.CapHeight+0.6)*l.Size
	if head {
		y = l.Edge + (metrics.CapHeight+0.6)*l.Size
	}
	return Mark{
		Kind: kind, At: geometry.Point{X: l.Edge, Y: y}, Width: page.Width - 2*l.Edge,
		Size: ruleWidth, Face: l.Face, Colour: l.Colour, Rule: true,
	}
}

// numbered is a number as it counts on a page, and the last of its run.
type numbered struct {
	number, last int
	has          bool
}

// counted gives the number of each page.
func (n Numbers) counted(pages []Page) []numbered {
	counted := make([]numbered, len(pages))
	if !n.On {
		return counted
	}
	last := n.To
	if last == 0 || last > len(pages) {
		last = len(pages)
	}
	next, began := n.First, 0
	closeRun := func(end int) {
		for i := began; i < end; i++ {
			counted[i].last = next - 1
		}
	}
	for i, page := range pages {
		if n.PerPart && page.Begins && i > 0 {
			closeRun(i)
			next, began = n.First, i
		}
		if i+1 < n.From || i+1 > last || page.Skipped {
			continue
		}
		counted[i] = numbered{number: next, has: true}
		next++
	}
	closeRun(len(pages))
	return counted
}

// texts gives what is written on each page; nothing where it has no number.
func (n Numbers) texts(pages []Page) []string {
	texts := make([]string, len(pages))
	for i, page := range n.counted(pages) {
		if page.has {
			texts[i] = n.text(page)
		}
	}
	return texts
}

func (n Numbers) text(page numbered) string {
	switch n.Style {
	case Dashes:
		return fmt.Sprintf("- %d -", page.number)
	case Slash:
		return fmt.Sprintf("%d/%d", page.number, page.last)
	case OfTotal:
		return fmt.Sprintf("Page %d of %d", page.number, page.last)
	}
	return n.label(page)
}

// label is the number alone, as a reader of the document shows it for the page.
func (n Numbers) label(page numbered) string {
	switch n.Style {
	case Roman:
		return roman(page.number)
	case Prefixed:
		return fmt.Sprintf("%s%0*d", n.Prefix, n.Digits, page.number)
	}
	return strconv.Itoa(page.number)
}

// Labels gives what a reader of the document shows as each page's number; nothing where it has
// none. It is nil where no page has.
func (f Finish) Labels(pages []Page) []string {
	if !f.Numbers.On {
		return nil
	}
	labels := make([]string, len(pages))
	for i, page := range f.Numbers.counted(pages) {
		if page.has {
			labels[i] = f.Numbers.label(page)
		}
	}
	return labels
}

var numerals = []struct {
	value int
	text  string
}{
	{1000, "m"}, {900, "cm"}, {500, "d"}, {400, "cd"}, {100, "c"}, {90, "xc"},
	{50, "l"}, {40, "xl"}, {10, "x"}, {9, "ix"}, {5, "v"}, {4, "iv"}, {1, "i"},
}

// roman writes a number in small Roman numerals. They have no nought, and what is above 3,999
// is written in figures.
func roman(n int) string {
	if n < 1 || n > 3999 {
		return strconv.Itoa(n)
	}
	var b strings.Builder
	for _, numeral := range numerals {
		for n >= numeral.value {
			b.WriteString(numeral.text)
			n -= numeral.value
		}
	}
	return b.String()
}
