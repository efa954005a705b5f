package text

import (
	"iter"
	"math"
	"slices"
	"strings"

	"dorbin/core/geometry"
)

// Page is the text of a page, line by line in reading order. The zero Page has none.
type Page struct {
	Lines []Line `json:"lines"`
}

// Line is a line of text. Its words stand on one straight baseline.
type Line struct {
	At          geometry.Point `json:"at"`              // where its baseline begins, at the left of upright text
	Angle       float64        `json:"angle,omitempty"` // of its baseline, in degrees clockwise
	Size        float64        `json:"size"`            // of its letters, in points, as that of a typeface is told
	RightToLeft bool           `json:"rtl,omitempty"`
	Paragraph   int            `json:"p,omitempty"` // lines with the same number are of one paragraph
	Words       []Word         `json:"words"`       // as they are read
}

// Word is a word of a line, with the punctuation that touches it.
type Word struct {
	Text  string  `json:"t"`
	X     float64 `json:"x"`           // from the beginning of the baseline to the word's left end, in points
	Width float64 `json:"w"`           // in points
	Size  float64 `json:"s,omitempty"` // of its letters, where it is not that of the line
	Sure  int     `json:"c"`           // how surely it was read: 0 to 100
	Style
	// Number is its place among all words of the page that it was read on, where that was noted.
	Number int `json:"-"`
}

const (
	// Certain is how sure a word is that somebody has looked at.
	Certain = 100
	// sureFrom is how sure a word must be for nobody to have to look at it.
	sureFrom = 70
)

// IsSure tells whether a word was read surely.
func (w Word) IsSure() bool { return w.Sure >= sureFrom }

// IsDoubtful tells of words that somebody should look at: signs alone are none.
func (w Word) IsDoubtful() bool { return !w.IsSure() && countLetters(w.Text) > 0 }

// How far above and below its baseline a line reaches, in shares of its size, as most typefaces of
// books and offices have it.
const (
	Ascent  = 0.90
	Descent = 0.21
)

// SizeOf is the size of a word's letters in points.
func (l Line) SizeOf(w Word) float64 {
	if w.Size > 0 {
		return w.Size
	}
	return l.Size
}

// Place leads from a plane in which the line's baseline begins at the origin and runs to the
// right to the page.
func (l Line) Place() geometry.Affine {
	return geometry.Rotation(l.Angle).Then(geometry.Translation(l.At.X, l.At.Y))
}

// Corners of a word on the page, from its top left, clockwise as it is read.
func (l Line) Corners(w Word) (corners [4]geometry.Point) {
	size, m := l.SizeOf(w), l.Place()
	box := geometry.Box{X0: w.X, Y0: -Ascent * size, X1: w.X + w.Width, Y1: Descent * size}
	for i, c := range box.Corners() {
		corners[i].X, corners[i].Y = m.Apply(c.X, c.Y)
	}
	return corners
}

// Box is the smallest upright rectangle that holds a word.
func (l Line) Box(w Word) geometry.Box {
	size := l.SizeOf(w)
	return geometry.Box{X0: w.X, Y0: -Ascent * size, X1: w.X + w.Width, Y1: Descent * size}.Mapped(l.Place())
}

// WordCount is the number of words on the page.
func (p Page) WordCount() int {
	n := 0
	for _, line := range p.Lines {
		n += len(line.Words)
	}
	return n
}

// Count is how many words of the page are so.
func (p Page) Count(are func(Word) bool) (n int) {
	for _, line := range p.Lines {
		for _, word := range line.Words {
			if are(word) {
				n++
			}
		}
	}
	return n
}

// Mapped is the text of a page that was turned, moved and scaled by the same in all directions.
func (p Page) Mapped(m geometry.Affine) Page {
	scale := math.Sqrt(math.Abs(m.A*m.D - m.B*m.C))
	turn := math.Atan2(m.B, m.A) * 180 / math.Pi
	mapped := Page{Lines: make([]Line, len(p.Lines))}
	for i, line := range p.Lines {
		line.At.X, line.At.Y = m.Apply(line.At.X, line.At.Y)
		line.Angle = normalAngle(line.Angle + turn)
		line.Size *= scale
		line.Words = slices.Clone(line.Words)
		for j := range line.Words {
			w := &line.Words[j]
			w.X, w.Width, w.Size = w.X*scale, w.Width*scale, w.Size*scale
		}
		mapped.Lines[i] = line
	}
	return mapped
}

// normalAngle is the same angle, from above -180 to 180. What is no more than a rounding error
// from a quarter turn becomes one.
func normalAngle(degrees float64) float64 {
	degrees = math.Mod(degrees, 360)
	switch {
	case degrees > 180:
		degrees -= 360
	case degrees <= -180:
		degrees += 360
	}
	if quarter := math.Round(degrees/90) * 90; math.Abs(degrees-quarter) < 1e-6 {
		degrees = quarter
	}
	return degrees
}

// Turn is by how many degrees clockwise, a multiple of 90, the page is to be turned for most of its
// words to stand upright.
func (p Page) Turn() int {
	words := map[int]int{}
	for _, line := range p.Lines {
		words[geometry.NormalTurn(-90*int(math.Round(line.Angle/90)))] += len(line.Words)
	}
	best := 0
	for turn, n := range words {
		if n > words[best] {
			best = turn
		}
	}
	return best
}

// Rounded has all places to a hundredth of a point, as they are kept.
func (p Page) Rounded() Page {
	hundredths := func(v float64) float64 { return math.Round(v*100) / 100 }
	rounded := Page{Lines: make([]Line, len(p.Lines))}
	for i, line := range p.Lines {
		line.At = geometry.Point{X: hundredths(line.At.X), Y: hundredths(line.At.Y)}
		line.Angle, line.Size = hundredths(line.Angle), hundredths(line.Size)
		line.Words = slices.Clone(line.Words)
		for j := range line.Words {
			w := &line.Words[j]
			w.X, w.Width, w.Size = hundredths(w.X), hundredths(w.Width), hundredths(w.Size)
		}
		rounded.Lines[i] = line
	}
	return rounded
}

// Numbered has each word know its place among all.
func (p Page) Numbered() Page {
	return p.Changed(func(at int, word Word) (Word, bool) {
		word.Number = at
		return word, true
	})
}

// Changed is the text with other words, or without those of which the function says no. It is told
// their places among all.
func (p Page) Changed(change func(at int, word Word) (Word, bool)) Page {
	var changed Page
	at := 0
	for _, line := range p.Lines {
		words := make([]Word, 0, len(line.Words))
		for _, word := range line.Words {
			if other, isKept := change(at, word); isKept {
				words = append(words, other)
			}
			at++
		}
		if line.Words = words; len(words) > 0 {
			changed.Lines = append(changed.Lines, line)
		}
	}
	return changed
}

// Only is the text without the words of which the function says no, by the middle of each.
func (p Page) Only(keep func(middle geometry.Point) bool) Page {
	var kept Page
	for _, line := range p.Lines {
		line.Words = slices.DeleteFunc(slices.Clone(line.Words), func(w Word) bool { return !keep(line.middle(w)) })
		if len(line.Words) > 0 {
			kept.Lines = append(kept.Lines, line)
		}
	}
	return kept
}

func (l Line) middle(w Word) (p geometry.Point) {
	p.X, p.Y = l.Place().Apply(w.X+w.Width/2, (Descent-Ascent)/2*l.SizeOf(w))
	return p
}

// String is the text with a line for each line, and an empty one between paragraphs.
func (p Page) String() string {
	var b strings.Builder
	for i, line := range p.Lines {
		if i > 0 {
			b.WriteByte('\n')
			if line.Paragraph != p.Lines[i-1].Paragraph {
				b.WriteByte('\n')
			}
		}
		b.WriteString(line.String())
	}
	return b.String()
}

// String is the words of the line as they are written.
func (l Line) String() string {
	var b strings.Builder
	for isApart, word := range l.apart() {
		if isApart {
			b.WriteByte(' ')
		}
		b.WriteString(word.Text)
	}
	return b.String()
}

// apart gives the words of a line, and tells which have a space before them.
func (l Line) apart() iter.Seq2[bool, Word] {
	return func(yield func(bool, Word) bool) {
		for i, word := range l.Words {
			if !yield(i > 0 && AreApart(l.Words[i-1].Text, word.Text), word) {
				return
			}
		}
	}
}

// Runs parts a line where two words are farther apart than this, in shares of its size. The runs are
// lines that begin where it does.
func (l Line) Runs(gap float64) (runs []Line) {
	from := 0
	for i, word := range l.Words {
		isLast := i+1 == len(l.Words)
		if isLast || l.Words[i+1].X > word.X+word.Width+gap*l.Size {
			run := l
			run.Words = l.Words[from : i+1]
			runs = append(runs, run)
			from = i + 1
		}
	}
	return runs
}
