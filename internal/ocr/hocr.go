package ocr

import (
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"math"
	"strconv"
	"strings"
	"unicode"

	"dorbin/core/geometry"
	"dorbin/core/text"
)

// What is more than this is no page that anybody wrote.
const (
	mostWords     = 50_000
	mostWordRunes = 500
	deepest       = 40 // elements within each other
)

var errNonsense = errors.New("the recognition of text answered what is no page")

// parseHOCR reads what tesseract writes about a page: hOCR 1.2, XHTML whose elements have
// properties in their titles. Places are in pixels of the picture.
func parseHOCR(r io.Reader) (text.Page, error) {
	d := xml.NewDecoder(r)
	d.Strict = true
	d.Entity = xml.HTMLEntity
	p := hocrPage{}
	for {
		token, err := d.Token()
		if errors.Is(err, io.EOF) {
			return p.page, nil
		}
		if err != nil {
			return text.Page{}, errors.Join(errNonsense, err)
		}
		switch t := token.(type) {
		case xml.StartElement:
			err = p.begin(t)
		case xml.EndElement:
			p.end()
		case xml.CharData:
			err = p.say(t)
		}
		if err != nil {
			return text.Page{}, err
		}
	}
}

// hocrPage is a page while it is read.
type hocrPage struct {
	page        text.Page
	open        []string // classes of the elements that are open
	rightToLeft []bool   // of the elements that are open
	paragraph   int
	line        hocrLine
	word        *strings.Builder // the text of the word that is open
	box         geometry.Box     // of that word
	sure        int
	words       int
}

// hocrLine is a line while it is read.
type hocrLine struct {
	box         geometry.Box
	told        map[string][]float64
	rightToLeft bool
	words       []hocrWord
}

type hocrWord struct {
	text string
	box  geometry.Box
	sure int
}

func (p *hocrPage) begin(e xml.StartElement) error {
	if len(p.open) >= deepest {
		return errNonsense
	}
	class, title, dir := "", "", ""
	for _, a := range e.Attr {
		switch a.Name.Local {
		case "class":
			class = a.Value
		case "title":
			title = a.Value
		case "dir":
			dir = a.Value
		}
	}
	isRightToLeft := len(p.rightToLeft) > 0 && p.rightToLeft[len(p.rightToLeft)-1]
	if dir != "" {
		isRightToLeft = dir == "rtl"
	}
	p.open, p.rightToLeft = append(p.open, class), append(p.rightToLeft, isRightToLeft)
	switch class {
	case "ocr_par":
		p.paragraph++
	case "ocr_line", "ocr_header", "ocr_caption", "ocr_textfloat":
		return p.beginLine(properties(title), isRightToLeft)
	case "ocrx_word":
		return p.beginWord(properties(title))
	}
	return nil
}

func (p *hocrPage) end() {
	if len(p.open) == 0 {
		return
	}
	class := p.open[len(p.open)-1]
	p.open, p.rightToLeft = p.open[:len(p.open)-1], p.rightToLeft[:len(p.rightToLeft)-1]
	switch class {
	case "ocr_line", "ocr_header", "ocr_caption", "ocr_textfloat":
		p.endLine()
	case "ocrx_word":
		p.endWord()
	}
}

func (p *hocrPage) say(words []byte) error {
	if p.word == nil {
		return nil
	}
	if p.word.Len()+len(words) > mostWordRunes*4 {
		return errNonsense
	}
	p.word.Write(words)
	return nil
}

func (p *hocrPage) beginLine(told map[string][]float64, isRightToLeft bool) (err error) {
	p.line = hocrLine{told: told, rightToLeft: isRightToLeft}
	p.line.box, err = boxOf(told)
	return err
}

func (p *hocrPage) beginWord(told map[string][]float64) (err error) {
	if p.words++; p.words > mostWords {
		return errNonsense
	}
	p.word, p.sure = &strings.Builder{}, 0
	if p.box, err = boxOf(told); err != nil {
		return err
	}
	if sure := told["x_wconf"]; len(sure) == 1 {
		p.sure = int(math.Min(100, math.Max(0, sure[0])))
	}
	return nil
}

func (p *hocrPage) endWord() {
	if p.word == nil {
		return
	}
	word := strings.Join(strings.Fields(strings.Map(printable, p.word.String())), " ")
	p.word = nil
	if word == "" {
		return
	}
	p.line.words = append(p.line.words, hocrWord{word, p.box, p.sure})
}

func (p *hocrPage) endLine() {
	if len(p.line.words) > 0 {
		line := p.line.laid()
		line.Paragraph = p.paragraph
		p.page.Lines = append(p.page.Lines, line)
	}
	p.line = hocrLine{}
}

// laid places the words of a line on its baseline, which is told from the lower left corner of its
// box: but of lines whose letters stand on their sides, whose descenders tell where it is.
func (l hocrLine) laid() text.Line {
	turn := l.turn()
	upright := geometry.Rotation(-turn)
	box := l.box.Mapped(upright)
	slope, baseline, size := 0.0, box.Y1, box.Y1-box.Y0
	if told := l.told["x_size"]; len(told) == 1 && told[0] > 0 {
		size = told[0]
	}
	if told := l.told["x_descenders"]; len(told) == 1 && told[0] > 0 && told[0] < size {
		baseline -= told[0]
	}
	if told := l.told["baseline"]; len(told) == 2 && turn == 0 {
		slope, baseline = told[0], box.Y1+told[1]
	}
	line := text.Line{RightToLeft: l.rightToLeft}
	stretch := math.Hypot(1, slope) // a baseline is longer than its shadow
	var sizes []float64
	for _, w := range l.words {
		on := w.box.Mapped(upright)
		height := sizeOfWord(w.text, on.Y1-on.Y0, (on.X1-on.X0)*math.Abs(slope))
		line.Words = append(line.Words, text.Word{
			Text: w.text, X: (on.X0 - box.X0) * stretch, Width: (on.X1 - on.X0) * stretch, Size: height, Sure: w.sure,
		})
		sizes = append(sizes, height)
	}
	line.Size = commonSize(sizes, size)
	for i := range line.Words {
		line.Words[i].X -= bearing * line.Size
		line.Words[i].Width += 2 * bearing * line.Size
		// A word is of the line's size but where it plainly differs.
		if w := &line.Words[i]; w.Size > line.Size*0.75 && w.Size < line.Size*1.3 || isPunctuation(w.Text) {
			w.Size = 0
		}
	}
	line.At.X, line.At.Y = upright.Inverse().Apply(box.X0, baseline)
	line.Angle = math.Remainder(turn+math.Atan(slope)*180/math.Pi, 360)
	return line
}

// turn is by how many degrees clockwise the letters of a line are turned. It is told against the
// clock, or follows from a baseline that is steep, along which words are read one after another.
func (l hocrLine) turn() float64 {
	if told := l.told["textangle"]; len(told) == 1 {
		return math.Mod(360-math.Mod(math.Round(told[0]/90)*90, 360), 360)
	}
	if told := l.told["baseline"]; len(told) != 2 || math.Abs(told[0]) < 1 {
		return 0
	}
	if first, last := l.words[0].box, l.words[len(l.words)-1].box; first.Y0 > last.Y0 {
		return 270
	}
	return 90
}

// properties are those in the title of an element, with their numbers.
func properties(title string) map[string][]float64 {
	told := map[string][]float64{}
	for property := range strings.SplitSeq(title, ";") {
		words := strings.Fields(property)
		if len(words) < 2 {
			continue
		}
		var values []float64
		for _, word := range words[1:] {
			if v, err := strconv.ParseFloat(word, 64); err == nil && !math.IsNaN(v) && !math.IsInf(v, 0) {
				values = append(values, v)
			}
		}
		told[words[0]] = values
	}
	return told
}

const largestPicture = 1 << 20 // pixels of an edge

func boxOf(told map[string][]float64) (geometry.Box, error) {
	v := told["bbox"]
	if len(v) != 4 || v[2] < v[0] || v[3] < v[1] {
		return geometry.Box{}, fmt.Errorf("%w: a box has the sides %v", errNonsense, v)
	}
	for _, side := range v {
		if math.Abs(side) > largestPicture {
			return geometry.Box{}, fmt.Errorf("%w: a box has the sides %v", errNonsense, v)
		}
	}
	return geometry.Box{X0: v[0], Y0: v[1], X1: v[2], Y1: v[3]}, nil
}

func printable(r rune) rune {
	if unicode.IsPrint(r) || r == ' ' {
		return r
	}
	return -1
}
