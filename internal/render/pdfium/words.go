package pdfium

import (
	"fmt"
	"math"
	"regexp"
	"unicode"

	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"

	"dorbin/core/geometry"
	"dorbin/core/text"
)

// OwnText is the text that a page of a PDF has, in points from the top left of the page as it is
// shown.
type OwnText struct {
	Page       text.Page
	Characters int // without spaces
	Unknown    int // of these, that stand for no letter that anybody knows
}

// Words reads the words of a page of a PDF, counted from 1, and where they stand.
func (l *Library) Words(path string, page int) (own OwnText, err error) {
	err = l.use(func() error {
		doc, err := l.document(path)
		if err != nil {
			return err
		}
		which := requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}}
		toShown, err := l.toShown(which)
		if err != nil {
			return fmt.Errorf("read the place of page %d: %w", page, err)
		}
		loaded, err := l.instance.FPDFText_LoadPage(&requests.FPDFText_LoadPage{Page: which})
		if err != nil {
			return fmt.Errorf("read text of page %d: %w", page, err)
		}
		defer func() {
			_, _ = l.instance.FPDFText_ClosePage(&requests.FPDFText_ClosePage{TextPage: loaded.TextPage}) // nothing to be done about it
		}()
		reader := wordReader{library: l, page: loaded.TextPage, toShown: toShown}
		own, err = reader.read()
		return err
	})
	return own, err
}

// toShown leads from a page's user space, where y points up, to the page as it is shown, in points
// from its top left.
func (l *Library) toShown(page requests.Page) (geometry.Affine, error) {
	box, err := l.instance.FPDF_GetPageBoundingBox(&requests.FPDF_GetPageBoundingBox{Page: page})
	if err != nil {
		return geometry.Affine{}, err
	}
	turn, err := l.instance.FPDFPage_GetRotation(&requests.FPDFPage_GetRotation{Page: page})
	if err != nil {
		return geometry.Affine{}, err
	}
	left, right := float64(box.Rect.Left), float64(box.Rect.Right)
	low, high := math.Min(float64(box.Rect.Bottom), float64(box.Rect.Top)), math.Max(float64(box.Rect.Bottom), float64(box.Rect.Top))
	flat := geometry.Size{Width: right - left, Height: high - low}
	upright := geometry.Affine{A: 1, D: -1, E: -left, F: high}
	return upright.Then(geometry.Framing{Flat: flat, Turn: 90 * int(turn.PageRotation)}.Transform()), nil
}

// wordReader gathers the characters of a page into words, and these into lines.
type wordReader struct {
	library *Library
	page    references.FPDF_TEXTPAGE
	toShown geometry.Affine

	own   OwnText
	word  []rune
	first glyph // of the word
	last  glyph
	style text.Style // of its first letter
	line  *text.Line
}

// glyph is where a character stands on the page as it is shown.
type glyph struct {
	at    geometry.Point // the left end of its baseline
	angle float64        // degrees clockwise
	width float64
	size  float64
}

func (r *wordReader) read() (OwnText, error) {
	count, err := r.library.instance.FPDFText_CountChars(&requests.FPDFText_CountChars{TextPage: r.page})
	if err != nil {
		return OwnText{}, fmt.Errorf("count characters: %w", err)
	}
	for i := range min(count.Count, mostText) {
		c, err := r.library.instance.FPDFText_GetUnicode(&requests.FPDFText_GetUnicode{TextPage: r.page, Index: i})
		if err != nil {
			return OwnText{}, fmt.Errorf("read characters: %w", err)
		}
		r.take(i, rune(c.Unicode)) //nolint:gosec // a code point
	}
	r.endWord()
	r.endLine()
	return r.own, nil
}

func (r *wordReader) take(i int, c rune) {
	switch {
	case c == '\n' || c == '\r':
		r.endWord()
		r.endLine()
		return
	case unicode.IsSpace(c):
		r.endWord()
		return
	case c == 0x02: // PDFium's sign for a hyphen at the end of a line
		c = '-'
	}
	r.own.Characters++
	if c == 0 || c == unicode.ReplacementChar || unicode.Is(unicode.Co, c) || unicode.IsControl(c) {
		r.own.Unknown++
		return
	}
	g, ok := r.glyph(i)
	if !ok {
		return
	}
	if len(r.word) > 0 && !r.last.isBefore(g) {
		r.endWord()
	}
	if len(r.word) == 0 {
		r.first, r.style = g, r.styleOf(i)
	}
	r.word, r.last = append(r.word, c), g
}

// isBefore tells whether a character belongs to the same word as the one after it.
func (g glyph) isBefore(next glyph) bool {
	along, off := g.offset(next.at)
	return math.Abs(g.angle-next.angle) < 1 && math.Abs(off) < 0.6*g.size && along > -g.size && along < g.width+0.6*g.size
}

// offset is how far a point is from the beginning of a character, along its baseline and across.
func (g glyph) offset(p geometry.Point) (along, across float64) {
	sin, cos := math.Sincos(g.angle * math.Pi / 180)
	x, y := p.X-g.at.X, p.Y-g.at.Y
	return x*cos + y*sin, y*cos - x*sin
}

// glyph finds where a character stands. What PDFium made up, such as the end of a line, is nowhere.
func (r *wordReader) glyph(i int) (g glyph, ok bool) {
	box, err := r.library.instance.FPDFText_GetLooseCharBox(&requests.FPDFText_GetLooseCharBox{TextPage: r.page, Index: i})
	if err != nil {
		return g, false
	}
	origin, err := r.library.instance.FPDFText_GetCharOrigin(&requests.FPDFText_GetCharOrigin{TextPage: r.page, Index: i})
	if err != nil {
		return g, false
	}
	angle, err := r.library.instance.FPDFText_GetCharAngle(&requests.FPDFText_GetCharAngle{TextPage: r.page, Index: i})
	if err != nil || angle.CharAngle < 0 {
		return g, false
	}
	g.at.X, g.at.Y = r.toShown.Apply(origin.X, origin.Y)
	turn := math.Atan2(r.toShown.B, r.toShown.A) * 180 / math.Pi
	g.angle = math.Remainder(turn-float64(angle.CharAngle)*180/math.Pi, 360)
	seen := geometry.Box{
		X0: float64(box.Rect.Left), Y0: float64(min(box.Rect.Bottom, box.Rect.Top)),
		X1: float64(box.Rect.Right), Y1: float64(max(box.Rect.Bottom, box.Rect.Top)),
	}.Mapped(r.toShown)
	width, height := seen.X1-seen.X0, seen.Y1-seen.Y0
	if sin, cos := math.Sincos(g.angle * math.Pi / 180); math.Abs(sin) > math.Abs(cos) {
		width, height = height, width
	}
	g.width, g.size = width, height
	return g, height > 0
}

const (
	italicFlag = 1 << 6  // of a font's descriptor (ISO 32000-1, table 123)
	boldFlag   = 1 << 18 // "ForceBold"
	boldWeight = 700     // of fonts that say how heavy they are
)

var (
	boldName   = regexp.MustCompile(`(?i)bold|black|heavy`)
	italicName = regexp.MustCompile(`(?i)italic|oblique`)
)

// styleOf tells the style of a character by its font. Where nothing is known of that it has none.
func (r *wordReader) styleOf(i int) (style text.Style) {
	if font, err := r.library.instance.FPDFText_GetFontInfo(&requests.FPDFText_GetFontInfo{TextPage: r.page, Index: i}); err == nil {
		style.Bold = font.Flags&boldFlag != 0 || boldName.MatchString(font.FontName)
		style.Italic = font.Flags&italicFlag != 0 || italicName.MatchString(font.FontName)
	}
	if heavy, err := r.library.instance.FPDFText_GetFontWeight(&requests.FPDFText_GetFontWeight{TextPage: r.page, Index: i}); err == nil {
		style.Bold = style.Bold || heavy.FontWeight >= boldWeight
	}
	return style
}

func (r *wordReader) endWord() {
	if len(r.word) == 0 {
		return
	}
	along, _ := r.first.offset(r.last.at)
	word := text.Word{Text: string(r.word), Width: math.Max(along+r.last.width, r.first.width), Size: r.first.size, Sure: text.Certain, Style: r.style}
	r.word = nil
	if !r.continuesLine() {
		r.endLine()
		r.line = &text.Line{At: r.first.at, Angle: r.first.angle, Size: r.first.size}
	}
	word.X, _ = glyph{at: r.line.At, angle: r.line.Angle}.offset(r.first.at)
	if math.Abs(word.Size-r.line.Size) < 0.1*r.line.Size {
		word.Size = 0
	}
	r.line.Words = append(r.line.Words, word)
}

// continuesLine tells whether a word stands on the line that was begun.
func (r *wordReader) continuesLine() bool {
	if r.line == nil {
		return false
	}
	_, off := glyph{at: r.line.At, angle: r.line.Angle}.offset(r.first.at)
	return math.Abs(r.line.Angle-r.first.angle) < 1 && math.Abs(off) < 0.5*r.line.Size
}

func (r *wordReader) endLine() {
	if r.line != nil {
		r.own.Page.Lines = append(r.own.Page.Lines, *r.line)
		r.line = nil
	}
}
