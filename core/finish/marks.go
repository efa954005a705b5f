package finish

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"dorbin/core/geometry"
	"dorbin/core/typeface"
)

// Made is what a page is that the program makes.
type Made string

// The pages that the program makes.
const (
	CoverPage    Made = "cover"
	ContentsPage Made = "contents"
	SheetPage    Made = "sheet" // before a part
)

// MayMakePages tells whether a packet may have pages that the program makes, or a cover of its own.
func (f Finish) MayMakePages() bool {
	return f.Cover.On || f.Cover.Own != "" || f.Contents.On || f.Sheets.WantsSheets()
}

// Page is what is known of a page of the packet.
type Page struct {
	Size    geometry.Size // as it stands
	Part    string        // the title of its part
	Begins  bool          // it is the first of its part
	Made    Made          // what the program made it as; empty for others
	Annex   int           // counts its part among those that have a sheet or a label, from 1; 0 for others
	Without Without
	// Headings are the titles of its document's bookmarks that open it.
	Headings []string
	// Elsewhere says that it has its number at the other end than the others.
	Elsewhere bool
}

// Without is what a page does not get.
type Without struct{ Number, Header, Footer, Watermark, Letterhead bool }

// The kinds of marks.
const (
	NumberMark     = "number"
	HeaderMark     = "header"
	FooterMark     = "footer"
	WatermarkMark  = "watermark"
	LabelMark      = "label"
	CoverMark      = "cover"
	ContentsMark   = "contents"
	SheetMark      = "sheet"
	LetterheadMark = "letterhead"
)

// Mark is a line of text on a page, or a box, or a picture.
type Mark struct {
	Kind    string         `json:"kind" enum:"number,header,footer,watermark,label,cover,contents,sheet,letterhead"`
	Text    string         `json:"text"`
	At      geometry.Point `json:"at" doc:"Where its first letter stands on the line, in points from the page's top left."`
	Width   float64        `json:"width" doc:"Points."`
	Size    float64        `json:"size" doc:"Points."`
	Face    typeface.Face  `json:"face" enum:"sans,serif"`
	Colour  string         `json:"colour"`
	Rule    bool           `json:"rule,omitempty" doc:"It is no text but a box, so wide and so high."`
	Angle   int            `json:"angle,omitempty" doc:"Degrees clockwise that its line is turned by about its start."`
	Opacity float64        `json:"opacity,omitempty" doc:"From 0 to 1; 1 when it is missing."`
	Under   bool           `json:"under,omitempty" doc:"It is under what is on the page."`
	// Picture is drawn in place of a text, so wide and so high, with its upper left corner there.
	Picture    Picture `json:"picture,omitzero"`
	Multiplied bool    `json:"multiplied,omitempty" doc:"What is beneath is seen through its white."`
	To         int     `json:"to,omitempty" doc:"The page that a click on it leads to, counted from 1."`
}

// Box is around the mark.
func (m Mark) Box() geometry.Box {
	if !m.Picture.IsZero() {
		return geometry.Box{X0: 0, Y0: 0, X1: m.Width, Y1: m.Size}.Mapped(m.Line())
	}
	if m.Rule {
		return geometry.Box{X0: m.At.X, Y0: m.At.Y, X1: m.At.X + m.Width, Y1: m.At.Y + m.Size}
	}
	flat := geometry.Box{X0: 0, Y0: -m.Size, X1: m.Width, Y1: m.Size / 3}
	return flat.Mapped(m.Line())
}

// Line leads from the mark's line, whose start is nought, to the page.
func (m Mark) Line() geometry.Affine {
	return geometry.Rotation(float64(m.Angle)).Then(geometry.Translation(m.At.X, m.At.Y))
}

// Covers tells whether a point of the page is on the mark, or no farther from it than so many
// points.
func (m Mark) Covers(p geometry.Point, margin float64) bool {
	box := m.Box()
	if m.Angle != 0 {
		p.X, p.Y = m.Line().Inverse().Apply(p.X, p.Y)
		box = geometry.Box{X0: 0, Y0: -m.Size, X1: m.Width, Y1: m.Size / 3}
		if !m.Picture.IsZero() {
			box = geometry.Box{X0: 0, Y0: 0, X1: m.Width, Y1: m.Size}
		}
	}
	return p.X >= box.X0-margin && p.X <= box.X1+margin && p.Y >= box.Y0-margin && p.Y <= box.Y1+margin
}

// ruleWidth is how thick a rule is, in points.
const ruleWidth = 0.5

// Marks gives what comes on each page.
func (f Finish) Marks(pages []Page, facts Facts) [][]Mark {
	marks := make([][]Mark, len(pages))
	numbers := f.Numbers.texts(pages)
	contents, all := f.contentsMarks(pages), f.fields(facts)
	hasLetterhead := false
	var written []Mark // of all pages: to grow a slice for each would take longer than to fill it
	for i, page := range pages {
		place := Place{At: i, Of: len(pages), Number: numbers[i]}
		on, before := all.on(page, place), len(written)
		if f.Letterhead.On && !page.Without.Letterhead {
			written = append(written, f.Letterhead.marks(page.Size, !hasLetterhead, facts)...)
			hasLetterhead = true
		}
		written = append(written, f.madeMarks(page, on, facts)...)
		written = append(written, contents[i]...)
		written = f.appendRunning(written, page, place, on, facts)
		if len(written) > before {
			marks[i] = slices.Clip(written[before:])
		}
	}
	return marks
}

// madeMarks gives what is on a page that the program makes, but for contents.
func (f Finish) madeMarks(page Page, on filler, facts Facts) []Mark {
	switch page.Made {
	case CoverPage:
		return append(f.Cover.marks(on, page.Size), f.Cover.pictureMarks(page.Size, facts)...)
	case SheetPage:
		return f.Sheets.sheet(on, page)
	}
	return nil
}

// Place is where a page is in its packet.
type Place struct {
	At, Of int    // counted from 0, of so many
	Number string // as it is written; empty where it has none
}

// appendRunning appends what comes on a page that is on others, too.
func (f Finish) appendRunning(marks []Mark, page Page, place Place, on filler, facts Facts) []Mark {
	if f.Watermark.On && !page.Without.Watermark {
		marks = f.Watermark.appendMarks(marks, on, page.Size, facts)
	}
	if f.Header.On && !page.Without.Header {
		marks = f.Header.appendMarks(marks, HeaderMark, true, place, page, on)
	}
	if f.Footer.On && !page.Without.Footer {
		marks = f.Footer.appendMarks(marks, FooterMark, false, place, page, on)
	}
	marks = append(marks, f.Sheets.label(on, page, place)...)
	if place.Number != "" {
		marks = append(marks, f.Numbers.markOn(place, page.Size, f.Numbers.isAtHead(page)))
	}
	return marks
}

// isAtHead tells at which end of a page its number is.
func (n Numbers) isAtHead(page Page) bool { return n.Head != page.Elsewhere }

// markOn is the number on a page, which is the last of its marks.
func (n Numbers) markOn(place Place, page geometry.Size, head bool) Mark {
	return n.place(NumberMark, place.Number, n.Side.on(place.At), head, page)
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

// appendMarks appends what a line has on a page.
func (l Line) appendMarks(marks []Mark, kind string, head bool, place Place, page Page, on filler) []Mark {
	texts, isEven := l.Texts, place.At%2 == 1
	if isEven && l.Apart {
		texts = l.Even
	}
	if isEven && l.Mirror {
		texts.Left, texts.Right = texts.Right, texts.Left
	}
	for _, field := range [...]struct {
		text string
		side Side
	}{{texts.Left, Left}, {texts.Middle, Middle}, {texts.Right, Right}} {
		if text := strings.TrimSpace(on.fill(field.text)); text != "" {
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
	return ruled(kind, l.Colour, geometry.Box{X0: l.Edge, Y0: y, X1: page.Width - l.Edge, Y1: y + ruleWidth})
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
		if i+1 < n.From || i+1 > last || page.Without.Number {
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

// Written is how a number looks on a page, where so many are the last of its run.
func (n Numbers) Written(number, last int) string {
	return n.text(numbered{number: number, last: last})
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
