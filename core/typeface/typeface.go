package typeface

import (
	"fmt"
	"sync"

	"github.com/go-fonts/liberation/liberationsansregular"
	"github.com/go-fonts/liberation/liberationserifregular"
	"golang.org/x/image/font"
	"golang.org/x/image/font/sfnt"
	"golang.org/x/image/math/fixed"
)

// Face is a typeface that ships with the program.
type Face string

// The faces.
const (
	Sans  Face = "sans"
	Serif Face = "serif"
)

// Faces are all of them.
var Faces = []Face{Sans, Serif}

// Metrics of a face, in shares of the size of its text.
type Metrics struct {
	Ascent, Descent, CapHeight float64
}

type face struct {
	name    string // in PDFs
	file    []byte
	font    *sfnt.Font
	units   float64 // of its design, to the size of its text
	metrics Metrics
	plain   [128]float64 // the advances of the letters of ASCII, which most texts have
}

var faces = sync.OnceValue(func() map[Face]*face {
	return map[Face]*face{
		Sans:  parse("LiberationSans", liberationsansregular.TTF),
		Serif: parse("LiberationSerif", liberationserifregular.TTF),
	}
})

// parse reads a file that ships with the program, and panics if it is damaged.
func parse(name string, file []byte) *face {
	parsed, err := sfnt.Parse(file)
	if err != nil {
		panic(fmt.Sprintf("typeface %s: %v", name, err))
	}
	f := &face{name: name, file: file, font: parsed, units: float64(parsed.UnitsPerEm())}
	metrics, err := parsed.Metrics(nil, fixed.I(int(f.units)), font.HintingNone)
	if err != nil {
		panic(fmt.Sprintf("typeface %s: %v", name, err))
	}
	share := func(v fixed.Int26_6) float64 { return float64(v) / 64 / f.units }
	f.metrics = Metrics{Ascent: share(metrics.Ascent), Descent: share(metrics.Descent), CapHeight: share(metrics.CapHeight)}
	var buffer sfnt.Buffer
	for letter := range f.plain {
		f.plain[letter] = f.advance(&buffer, f.glyph(&buffer, rune(letter)))
	}
	return f
}

func (f Face) face() *face {
	if known, ok := faces()[f]; ok {
		return known
	}
	return faces()[Sans]
}

// Name is what the face is called in a document.
func (f Face) Name() string { return f.face().name }

// File is the whole file of the face.
func (f Face) File() []byte { return f.face().file }

// Metrics are how high its letters are.
func (f Face) Metrics() Metrics { return f.face().metrics }

// Width is how wide a text of a size is, in the unit of the size.
func (f Face) Width(text string, size float64) float64 {
	known := f.face()
	width := 0.0
	var buffer *sfnt.Buffer // large, and for most texts of no use
	for _, r := range text {
		if int(r) < len(known.plain) {
			width += known.plain[r]
			continue
		}
		if buffer == nil {
			buffer = new(sfnt.Buffer)
		}
		width += known.advance(buffer, known.glyph(buffer, r))
	}
	return width * size
}

// Missing finds the first letter of a text that the face does not have.
func (f Face) Missing(text string) (letter rune, found bool) {
	var buffer sfnt.Buffer
	for _, r := range text {
		if f.face().glyph(&buffer, r) == 0 {
			return r, true
		}
	}
	return 0, false
}

// glyph is 0 where the face lacks the letter.
func (f *face) glyph(buffer *sfnt.Buffer, r rune) sfnt.GlyphIndex {
	index, err := f.font.GlyphIndex(buffer, r)
	if err != nil {
		return 0
	}
	return index
}

// advance is in shares of the text's size.
func (f *face) advance(buffer *sfnt.Buffer, index sfnt.GlyphIndex) float64 {
	advance, err := f.font.GlyphAdvance(buffer, index, fixed.I(int(f.units)), font.HintingNone)
	if err != nil {
		return 0
	}
	return float64(advance) / 64 / f.units
}
