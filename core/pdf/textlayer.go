package pdf

import (
	"bytes"
	"cmp"
	"fmt"
	"maps"
	"math"
	"slices"
	"strings"
	"unicode"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/geometry"
	"dorbin/core/text"
	"dorbin/core/typeface"
)

// SetText says which text lies unseen under the pages, by their positions, in points from the top
// left of each page as it is seen. It is called before any page is added.
func (a *Assembler) SetText(of func(position int) (text.Page, error)) { a.textOf = of }

// textFont is the font of text that is not seen. Its codes are numbers of its own, as they are used.
type textFont struct {
	number int
	codes  map[rune]int
	runes  []rune // by their codes; code 0 is none
}

const (
	textFontName = "DbTx" // in the resources of a page
	glyphWidth   = 0.5    // of every glyph but the space, in shares of the text's size
	spaceWidth   = 0.25
)

// code is that of a letter; 0 where there are too many for one font.
func (f *textFont) code(r rune) int {
	code, ok := f.codes[r]
	if !ok && len(f.runes) <= 0xFFFF {
		code = len(f.runes)
		f.codes[r] = code
		f.runes = append(f.runes, r)
	}
	return code
}

// drawAdded draws what is added to a page: its marks, and the text that lies unseen under it.
func (a *Assembler) drawAdded(position int, box rectangle, rotate int, unit float64, suffix string) (drawnMarks, error) {
	drawn := a.drawMarks(position, box, rotate, unit, suffix)
	if a.textOf == nil {
		return drawn, nil
	}
	page, err := a.textOf(position)
	if err != nil {
		return drawn, fmt.Errorf("read the text of page %d: %w", position+1, err)
	}
	if len(page.Lines) == 0 {
		return drawn, nil
	}
	if a.textFont == nil {
		a.textFont = &textFont{number: a.out.allocate(), codes: map[rune]int{}, runes: []rune{0}}
	}
	name := textFontName + suffix
	drawn.text = a.textFont.content(page, fromSeen(box, rotate, unit), name)
	fonts := maps.Clone(drawn.fonts) // others share it
	if fonts == nil {
		fonts = types.Dict{}
	}
	fonts[name] = reference(a.textFont.number)
	drawn.fonts = fonts
	return drawn, nil
}

// content shows a text on a page to which an affine leads.
func (f *textFont) content(page text.Page, m geometry.Affine, name string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "q %s cm BT %d Tr\n", operands(m.A, m.B, m.C, m.D, m.E, m.F), unseenText)
	for _, line := range page.Lines {
		f.writeLine(&b, line, name)
	}
	b.WriteString("ET Q\n")
	return b.String()
}

// writeLine writes a line word by word, each stretched to its width, with spaces between them. Lines that
// lean a little are written as steps of level words: poppler would take the letters of a word that leans
// for words of their own, and mix them with those of other lines.
func (f *textFont) writeLine(b *strings.Builder, line text.Line, name string) {
	words := slices.Clone(line.Words)
	if line.RightToLeft { // as letters stand beside each other, from left to right
		slices.SortStableFunc(words, func(v, w text.Word) int { return cmp.Compare(v.X, w.X) })
	}
	along := levelled(line.Angle)
	frame := geometry.Rotation(along)
	toFrame := line.Place().Then(frame.Inverse())
	setSize := -1.0
	var begun geometry.Point // of the word before, as it was written, so that nothing adds up
	for i, word := range words {
		size := line.SizeOf(word)
		isFollowed := i+1 < len(words) && text.AreApart(word.Text, words[i+1].Text)
		if isFollowed {
			word.Width = leaveGap(word.Width, words[i+1].X-word.X, size)
		}
		width := word.Width * math.Abs(math.Cos((line.Angle-along)*math.Pi/180))
		var at geometry.Point
		at.X, at.Y = toFrame.Apply(word.X+word.Width/2, 0)
		at.X -= width / 2
		if i == 0 {
			x, y := frame.Apply(at.X, at.Y)
			b.WriteString(operands(frame.A, frame.B, -frame.C, -frame.D) + " " + tenths(x, y) + " Tm")
			begun = at
		} else {
			dx, dy := math.Round((at.X-begun.X)*10)/10, math.Round((at.Y-begun.Y)*10)/10
			b.WriteString(tenths(dx, -dy) + " Td")
			begun = geometry.Point{X: begun.X + dx, Y: begun.Y + dy}
		}
		if size != setSize {
			b.WriteString("/" + name + " " + tenths(size) + " Tf")
			setSize = size
		}
		f.writeWord(b, word.Text, width/max(size, 0.01), isFollowed)
	}
}

// Poppler joins words that are nearer to each other than 0.15 of their size.
const (
	leastGap      = 0.19 // between words, in shares of their size
	mostNarrowing = 0.25 // by which share a word becomes narrower for that
)

// leaveGap is how wide a word is written that begins so far before the next, so that they are apart.
func leaveGap(width, toNext, size float64) float64 {
	return max(width*(1-mostNarrowing), min(width, toNext-leastGap*size))
}

// mostLean is by how many degrees lines may lean to be written as level words.
const mostLean = 20

// levelled is the angle at which the words of a line are written: the next quarter turn, where the line
// does not lean much.
func levelled(angle float64) float64 {
	quarter := math.Round(angle/90) * 90
	if math.Abs(angle-quarter) <= mostLean {
		return quarter
	}
	return angle
}

// writeWord shows a word that is so many times as wide as its letters are large.
func (f *textFont) writeWord(b *strings.Builder, word string, width float64, isFollowed bool) {
	letters := []rune(word)
	if isRightToLeft(letters) {
		slices.Reverse(letters)
	}
	stretch := 100 * width / (float64(max(1, len(letters))) * glyphWidth)
	if isFollowed {
		letters = append(letters, ' ')
	}
	b.WriteString(" " + operands(math.Max(1, math.Round(stretch))) + " Tz<")
	for _, r := range letters {
		fmt.Fprintf(b, "%04X", f.code(r))
	}
	b.WriteString(">Tj\n")
}

// tenths writes numbers to a tenth: that is enough for text that is not seen.
func tenths(values ...float64) string {
	rounded := make([]float64, len(values))
	for i, v := range values {
		rounded[i] = math.Round(v*10) / 10
	}
	return operands(rounded...)
}

// isRightToLeft tells whether a word is written from right to left, as Hebrew and Arabic are.
func isRightToLeft(letters []rune) bool {
	return slices.ContainsFunc(letters, func(r rune) bool {
		return unicode.In(r, unicode.Hebrew, unicode.Arabic, unicode.Syriac, unicode.Thaana)
	})
}

// writeTextFont writes the font of unseen text: a composite font without shapes (9.7.4).
func (a *Assembler) writeTextFont() {
	f := a.textFont
	if f == nil {
		return
	}
	widths := types.Array{}
	if code, ok := f.codes[' ']; ok {
		widths = types.Array{types.Integer(code), types.Array{thousandths(spaceWidth)}}
	}
	a.writeComposite(f.number, composite{
		name: "Shapeless", file: typeface.Shapeless(), runes: f.runes, flags: flagSymbolic,
		box:    numbers(0, -1000*text.Descent, 1000*glyphWidth, 1000*text.Ascent),
		ascent: text.Ascent, descent: text.Descent, capHeight: text.Ascent,
		descendant: types.Dict{
			"CIDToGIDMap": a.smallStream(bytes.Repeat([]byte{0, 1}, len(f.runes))), "DW": thousandths(glyphWidth), "W": widths,
		},
	})
}
