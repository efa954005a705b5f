package demo

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"strings"

	"github.com/fogleman/gg"
	"github.com/go-fonts/liberation/liberationserifbold"
	"github.com/go-fonts/liberation/liberationserifitalic"
	"github.com/go-fonts/liberation/liberationserifregular"
	"golang.org/x/image/font"
	"golang.org/x/image/font/gofont/gobold"
	"golang.org/x/image/font/gofont/goitalic"
	"golang.org/x/image/font/gofont/gomono"
	"golang.org/x/image/font/gofont/goregular"
	"golang.org/x/image/font/opentype"

	"dorbin/core/raster"
	"dorbin/internal/scanner/sim"
)

// sheet is a paper drawn in pixels. Positions are in millimetres.
type sheet struct {
	*gg.Context
	perMM float64
}

func newSheet(width, height, dpi float64) sheet {
	perMM := dpi / 25.4
	s := sheet{gg.NewContext(int(width*perMM), int(height*perMM)), perMM}
	s.SetColor(color.White)
	s.Clear()
	return s
}

var fonts = map[string]*opentype.Font{
	"": mustParse(goregular.TTF), "B": mustParse(gobold.TTF), "I": mustParse(goitalic.TTF),
	"M": mustParse(gomono.TTF), // all letters as wide
	// With serifs.
	"S": mustParse(liberationserifregular.TTF), "SB": mustParse(liberationserifbold.TTF), "SI": mustParse(liberationserifitalic.TTF),
}

func mustParse(ttf []byte) *opentype.Font {
	f, err := opentype.Parse(ttf)
	if err != nil {
		panic(err) // the fonts are compiled in
	}
	return f
}

// setFont chooses a style and a size in points.
func (s sheet) setFont(style string, points float64) {
	face, err := opentype.NewFace(fonts[style], &opentype.FaceOptions{
		Size: points, DPI: s.perMM * 25.4, Hinting: font.HintingNone,
	})
	if err != nil {
		panic(err) // only for sizes that are not numbers
	}
	s.SetFontFace(face)
}

func (s sheet) text(x, y float64, words string) { s.DrawString(words, x*s.perMM, y*s.perMM) }

func (s sheet) textRight(x, y float64, words string) {
	s.DrawStringAnchored(words, x*s.perMM, y*s.perMM, 1, 0)
}

// paragraph breaks words into lines and returns where the next line goes.
func (s sheet) paragraph(x, y, width float64, words string) float64 {
	for _, line := range s.WordWrap(words, width*s.perMM) {
		s.text(x, y, line)
		y += 5.6
	}
	return y + 2.4
}

func (s sheet) line(x0, y0, x1, y1, width float64) {
	s.SetLineWidth(width * s.perMM)
	s.DrawLine(x0*s.perMM, y0*s.perMM, x1*s.perMM, y1*s.perMM)
	s.Stroke()
}

func (s sheet) box(x, y, w, h float64) {
	s.DrawRectangle(x*s.perMM, y*s.perMM, w*s.perMM, h*s.perMM)
}

// signature writes a name in loops that look like a hand's.
func (s sheet) signature(x, y, width float64, seed uint64) {
	random := rand.New(rand.NewPCG(seed, 11))
	s.SetRGB255(25, 35, 110)
	s.SetLineWidth(0.45 * s.perMM)
	s.MoveTo(x*s.perMM, y*s.perMM)
	const strokes = 11
	for i := range strokes {
		step := width / strokes
		tall := 2 + 7*random.Float64()
		if i == 0 || i == 6 {
			tall = 12
		}
		cx := x + float64(i)*step
		s.CubicTo(
			(cx+step*0.2)*s.perMM, (y-tall)*s.perMM,
			(cx+step*1.3)*s.perMM, (y-tall*0.7)*s.perMM,
			(cx+step)*s.perMM, (y+random.Float64()*1.5)*s.perMM)
	}
	s.Stroke()
	s.MoveTo((x-2)*s.perMM, (y+3)*s.perMM)
	s.QuadraticTo((x+width*0.6)*s.perMM, (y+1)*s.perMM, (x+width+6)*s.perMM, (y+4)*s.perMM)
	s.Stroke()
	s.SetColor(color.Black)
}

// scanned makes a grey picture of the sheet as a flatbed scanner gives it.
func scanned(s sheet, tilt float64, seed uint64) *image.Gray {
	scan := sim.Scan(s.Image().(*image.RGBA), s.perMM*25.4, sim.Grain{Tilt: tilt, Seed: seed})
	return raster.Tone{Mode: raster.GrayTone}.Apply(scan).(*image.Gray)
}

func clamp(v float64) uint8 { return uint8(math.Max(0, math.Min(255, v))) }

// quote is a roofer's letter of two or three pages.
type quote struct {
	firm, town string
	rows       [][2]string
	total      string
	seed       uint64
}

var slateAndLead = quote{
	firm: "Slate & Lead", town: "Upper Tarn", total: "£ 47,760", seed: 3,
	rows: [][2]string{
		{"Scaffold, two lifts, eight weeks", "£ 6,240"}, {"Strip north slope, keep sound slates", "£ 4,100"},
		{"New slates, 9,200 of them, fixed", "£ 14,800"}, {"Battens, felt, counter battens", "£ 4,310"},
		{"Lead to valleys and abutments", "£ 5,780"}, {"Insulation, 200 mm", "£ 2,950"}, {"Making good", "£ 1,620"},
		{"Value added tax", "£ 7,960"},
	},
}

var fellsideRoofing = quote{
	firm: "Fellside Roofing", town: "Lark Bridge", total: "£ 52,320", seed: 4,
	rows: [][2]string{
		{"Access and safety", "£ 8,900"}, {"Taking down and carting away", "£ 5,350"}, {"Slating with new material", "£ 17,450"},
		{"Timber, membrane", "£ 5,200"}, {"Leadwork", "£ 6,700"}, {"Value added tax", "£ 8,720"},
	},
}

// page draws a page of the letter, counted from 1.
func (q quote) page(n, of int, dpi float64) sheet {
	s := newSheet(210, 297, dpi)
	s.SetColor(color.Black)
	s.setFont("B", 17)
	s.text(24, 28, q.firm)
	s.setFont("", 9)
	s.text(24, 34, "Roofers  ·  "+q.town+"  ·  est. 1974")
	s.line(24, 38, 186, 38, 0.5)
	s.setFont("", 9)
	s.textRight(186, 28, strings.ToUpper(q.firm[:2])+"-2026-118")
	s.textRight(186, 34, "Page "+string(rune('0'+n)))
	switch n {
	case 1:
		q.letter(s)
	case of:
		q.terms(s)
	default:
		q.prices(s)
	}
	return s
}

func (q quote) letter(s sheet) {
	s.setFont("", 10.5)
	s.text(24, 54, "Larkmere Rowing Club")
	s.text(24, 60, "The Boathouse, Shore Lane, Larkmere")
	s.text(24, 74, "19 February 2026")
	s.setFont("B", 12)
	s.text(24, 88, "Quote: north slope of the boathouse roof")
	s.setFont("", 10.5)
	y := 98.0
	for _, words := range []string{
		"Dear committee, thank you for showing us round. We have measured the north slope at 212 square metres and looked at the battens from inside. What we found agrees with your surveyor’s report: patching will not last.",
		"We offer to strip the slope, keep what slates are sound for the south side, and re-slate with new material of the same size and colour. The lead of both valleys is replaced in code 6. The training room gets 200 mm of insulation between the rafters.",
		"The work takes seven weeks in dry weather. We can begin in the first week of August if you let us know before the end of April. Prices hold until the last day of June.",
		"The figures are on the next page, our terms on the one after it.",
	} {
		y = s.paragraph(24, y, 162, words)
	}
	s.text(24, y+8, "With good wishes,")
	s.signature(26, y+26, 44, q.seed)
	s.setFont("", 10.5)
	s.text(24, y+38, "for "+q.firm)
}

func (q quote) prices(s sheet) {
	s.setFont("B", 12)
	s.text(24, 54, "What it costs")
	y := 64.0
	for _, row := range q.rows {
		s.setFont("", 10.5)
		s.text(24, y, row[0])
		s.textRight(186, y, row[1])
		s.line(24, y+2.2, 186, y+2.2, 0.15)
		y += 8.5
	}
	s.setFont("B", 11)
	s.text(24, y+2, "Together")
	s.textRight(186, y+2, q.total)
	s.line(24, y+4.5, 186, y+4.5, 0.6)
	s.setFont("I", 9.5)
	s.paragraph(24, y+16, 162, "Not included: repairs to the rafters, which can only be seen when the slope is open. We will show them to you and agree a price before going on.")
}

func (q quote) terms(s sheet) {
	s.setFont("B", 12)
	s.text(24, 54, "Terms")
	s.setFont("", 9.5)
	y := 64.0
	for i, words := range []string{
		"A third of the price is due when the scaffold stands, a third when the slope is slated, the rest when you are content.",
		"We are insured for five million pounds against harm to people and things. The certificate is sent on request.",
		"Slates and lead that are taken down belong to the club unless we agree otherwise.",
		"We keep the slope covered every night, and tell the club the same day if water gets in.",
		"The work is warranted for twenty years, the lead for fifty.",
	} {
		s.text(24, y, string(rune('1'+i))+".")
		y = s.paragraph(31, y, 155, words)
	}
	s.line(24, y+22, 84, y+22, 0.3)
	s.line(112, y+22, 172, y+22, 0.3)
	s.signature(28, y+19, 40, q.seed+20)
	s.setFont("", 8.5)
	s.text(24, y+27, "for "+q.firm)
	s.text(112, y+27, "for the client")
}
