package check

import (
	"crypto/sha256"
	"encoding/hex"
	"image"
	"strings"
	"unicode"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/raster"
)

// PageAnalysis is what is known of a page of a source as it came in, before any adjustment.
type PageAnalysis struct {
	Ink       float64          `json:"ink"` // share of the page that is written or drawn on
	Miniature raster.Miniature `json:"miniature,omitempty"`
	Text      string           `json:"text,omitempty"` // tells texts apart; empty for a page without
	Standing  raster.Standing  `json:"standing,omitzero"`
	// FlatStanding is of the paper that was found in a photograph, laid flat.
	FlatStanding raster.Standing `json:"flatStanding,omitzero"`
	Printed      Printed         `json:"printed,omitzero"`
	Content      geometry.Box    `json:"content,omitzero"` // around all that is on it; zero on an empty page
	Paper        geometry.Box    `json:"paper,omitzero"`   // where the paper lies on a darker lid; zero where no lid is seen
	Tilt         raster.Tilt     `json:"tilt,omitzero"`
	// InkGrid is where there is anything on it; nil where that was not looked for.
	InkGrid *raster.InkGrid `json:"inkGrid,omitempty"`
	// Coloured tells whether it shows more than shades of grey; nil where that was not looked for.
	Coloured *bool `json:"coloured,omitempty"`
	// Holdings are those of a page of a PDF; nil of others.
	Holdings *Holdings `json:"holdings,omitempty"`
	Failed   bool      `json:"failed,omitempty"` // the page could not be read: nothing else is known
	// Problem is why it could not be read, in a sentence of problem.This or problem.ThisPage.
	Problem message.Text `json:"problem,omitzero"`
}

// IsNearlyBlank tells of a page on which there is next to nothing.
func (a PageAnalysis) IsNearlyBlank() bool { return a.Ink < nearlyBlankInk }

// IsBlankScan tells whether there is nothing on a scanned page, or next to nothing.
func IsBlankScan(picture image.Image) bool {
	return PageAnalysis{Ink: raster.FindWriting(picture).Ink()}.IsNearlyBlank()
}

// Text is the text of a page as far as it can be read without recognising it.
type Text struct {
	Lines string  // all lines
	Turn  int     // by which most of it is to be turned, in degrees clockwise, to be read
	Share float64 // of the text, from 0 to 1, that runs so
}

// fewestLetters is how many letters and digits tell that a page has its text.
const fewestLetters = 40

// IsEnough tells whether the text is that of a page, and not a stamp on a scan.
func (t Text) IsEnough() bool { return len(t.letters()) >= fewestLetters }

// Printed is the page number that the text says.
func (t Text) Printed() (Printed, bool) { return PrintedNumber(outerLines(t.Lines)) }

func (t Text) letters() string {
	return strings.Map(func(r rune) rune {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			return r
		}
		return -1
	}, t.Lines)
}

// PlainlyTurned is how sure an estimate of how a page stands must be to be told as a fact.
const PlainlyTurned = 0.75

// Analyze makes the signs of a page of this size, in points, from its picture and its
// text.
func Analyze(picture image.Image, text Text, size geometry.Size) PageAnalysis {
	writing := raster.FindWriting(picture)
	tilt := raster.MeasureTilt(picture)
	signs := PageAnalysis{
		Ink: writing.Ink(), Miniature: miniatureOf(picture, tilt),
		Content: raster.FindContent(picture, size), Paper: raster.FindPaperEdge(picture, size), Tilt: tilt,
	}
	grid := raster.FindInkGrid(picture)
	coloured := raster.ShowsColour(picture)
	signs.InkGrid, signs.Coloured = &grid, &coloured
	if !text.IsEnough() {
		signs.Standing = writing.Standing()
		if signs.Standing.Sure < raster.SureStanding {
			signs.Standing = raster.Standing{}
		}
		return signs
	}
	sum := sha256.Sum256([]byte(text.letters()))
	signs.Text = hex.EncodeToString(sum[:8])
	signs.Standing = raster.Standing{Turn: text.Turn, Sure: text.Share}
	signs.Printed, _ = text.Printed()
	return signs
}

// outerLines are the first and the last lines of a page, where its number is.
func outerLines(text string) string {
	var lines []string
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line != "" {
			lines = append(lines, line)
		}
	}
	const outer = 3
	if len(lines) > 2*outer {
		lines = append(lines[:outer], lines[len(lines)-outer:]...)
	}
	return strings.Join(lines, "\n")
}
