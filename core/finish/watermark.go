package finish

import (
	"errors"
	"math"
	"slices"
	"strings"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/typeface"
)

// Height is where down a page something is.
type Height string

// The heights.
const (
	AtTop    Height = "top"
	AtMiddle Height = "middle"
	AtBottom Height = "bottom"
)

// Watermark is a text across pages.
type Watermark struct {
	On       bool          `json:"on"`
	Text     string        `json:"text" doc:"It may have fields."`
	Picture  Picture       `json:"picture" doc:"In place of the text."`
	Face     typeface.Face `json:"face" enum:"sans,serif"`
	Colour   string        `json:"colour"`
	Size     float64       `json:"size" doc:"Points; 0 is as large as fits on the page."`
	Angle    int           `json:"angle" doc:"Degrees anticlockwise, from -90 to 90."`
	Place    Height        `json:"place" enum:"top,middle,bottom"`
	Spot     Spot          `json:"spot,omitzero" doc:"Where it was put by hand, in place of that; not where it is repeated."`
	Repeated bool          `json:"repeated" doc:"All over the page."`
	Behind   bool          `json:"behind" doc:"Under what is on the page, not over it."`
	Strength int           `json:"strength" doc:"Percent, from 5 to 100."`
	Only     string        `json:"only" doc:"The pages that have it, as a selection in words; all when it is empty."`
}

const (
	leastStrength = 5
	largestMark   = 300 // points
	longestMark   = 100 // letters
)

func (w Watermark) check() error {
	switch {
	case w == Watermark{}:
		return nil
	case w.On && strings.TrimSpace(w.Text) == "" && w.Picture.IsZero():
		return message.Errorf("the watermark has no text")
	case len([]rune(w.Text)) > longestMark:
		return message.Errorf("the watermark has at most %d letters", longestMark)
	case w.Size != 0 && !(w.Size >= 4 && w.Size <= largestMark):
		return message.Errorf("the watermark is from 4 to %d points, or as large as fits", largestMark)
	case w.Angle < -90 || w.Angle > 90:
		return message.Errorf("the watermark is turned by -90 to 90 degrees, not by %d", w.Angle)
	case w.Strength < leastStrength || w.Strength > 100:
		return message.Errorf("the watermark's strength is from %d to 100 percent", leastStrength)
	case !slices.Contains([]Height{AtTop, AtMiddle, AtBottom}, w.Place):
		return message.Errorf("the watermark is at the top, middle or bottom, not %q", string(w.Place))
	}
	return errors.Join(
		w.Spot.check(message.Of("the watermark")), checkText(message.Of("the watermark"), w.Face, w.Text), checkLooks(message.Of("the watermark"), w.Face, w.Colour),
	)
}

const (
	fittedShare   = 0.8  // of a page that a watermark takes which is as large as fits
	repeatedShare = 0.25 // the same, for one that is repeated
	mostRepeated  = 60   // on a page
)

// appendMarks appends the watermark of a page.
func (w Watermark) appendMarks(marks []Mark, on filler, page geometry.Size, facts Facts) []Mark {
	mark, height, start := w.textMark(strings.TrimSpace(on.fill(w.Text)), page)
	if !w.Picture.IsZero() {
		mark, height, start = w.pictureMark(page, facts)
	}
	if mark.Width == 0 {
		return marks
	}
	mark.Angle, mark.Opacity, mark.Under = -w.Angle, float64(w.Strength)/100, w.Behind
	one := func(centre geometry.Point) Mark {
		sin, cos := math.Sincos(float64(-w.Angle) * math.Pi / 180)
		placed := mark
		placed.At = geometry.Point{X: centre.X + start.X*cos - start.Y*sin, Y: centre.Y + start.X*sin + start.Y*cos}
		return placed
	}
	across, down := extent(mark.Width, height, w.Angle)
	if !w.Repeated {
		return append(marks, one(w.centre(geometry.Size{Width: across, Height: down}, page)))
	}
	columns, rows := repeats(page.Width, across), repeats(page.Height, down)
	for columns*rows > mostRepeated {
		columns, rows = max(1, columns-1), max(1, rows-1)
	}
	for row := range rows {
		for column := range columns {
			marks = append(marks, one(geometry.Point{
				X: page.Width * (float64(column) + 0.5) / float64(columns),
				Y: page.Height * (float64(row) + 0.5) / float64(rows),
			}))
		}
	}
	return marks
}

// centre is the middle of a watermark of a size that is not repeated.
func (w Watermark) centre(size, page geometry.Size) geometry.Point {
	spot := w.Spot
	if spot == (Spot{}) {
		spot = Spot{Across: Middle, Down: w.Place, FromEnd: min(page.Height*(1-fittedShare), page.Height-size.Height) / 2}
		if spot.FromEnd < 0 {
			spot.Down = AtMiddle
		}
	}
	corner := spot.corner(size, page)
	return geometry.Point{X: corner.X + size.Width/2, Y: corner.Y + size.Height/2}
}

// textMark is a text as a watermark, how high it is, and from its middle the start of its line.
func (w Watermark) textMark(text string, page geometry.Size) (mark Mark, height float64, start geometry.Point) {
	if text == "" {
		return mark, 0, start
	}
	size := w.sizeOn(text, page)
	width := w.Face.Width(text, size)
	mark = Mark{Kind: WatermarkMark, Text: text, Width: width, Size: size, Face: w.Face, Colour: w.Colour}
	return mark, textHeight * size, geometry.Point{X: -width / 2, Y: size / 3}
}

// pictureMark is a picture as a watermark, how high it is, and from its middle its upper left
// corner. The size of a watermark is its height.
func (w Watermark) pictureMark(page geometry.Size, facts Facts) (mark Mark, height float64, start geometry.Point) {
	size, known := facts.SizeOf(w.Picture)
	if !known {
		return mark, 0, start
	}
	across, down := extent(size.Width, size.Height, w.Angle)
	scale := min(w.share()*page.Width/across, w.share()*page.Height/down)
	if w.Size > 0 {
		scale = w.Size / size.Height
	}
	drawn := geometry.Size{Width: size.Width * scale, Height: size.Height * scale}
	start = geometry.Point{X: -drawn.Width / 2, Y: -drawn.Height / 2}
	return pictured(WatermarkMark, w.Picture, start, drawn), drawn.Height, start
}

// share is the part of a page that a watermark takes which is as large as fits.
func (w Watermark) share() float64 {
	if w.Repeated {
		return repeatedShare
	}
	return fittedShare
}

// textHeight is the height of a line with its ascenders and descenders, in shares of its size.
const textHeight = 4.0 / 3

// repeats tells how many things of a length find room in another, with as much between them.
func repeats(room, length float64) int { return max(1, int(room/(2*max(length, 1)))) }

// extent is the room that a box turned by an angle in degrees takes across and down.
func extent(width, height float64, angle int) (across, down float64) {
	sin, cos := math.Sincos(math.Abs(float64(angle)) * math.Pi / 180)
	return width*cos + height*sin, width*sin + height*cos
}

// sizeOn is the size of its text, in points, on a page.
func (w Watermark) sizeOn(text string, page geometry.Size) float64 {
	if w.Size > 0 {
		return w.Size
	}
	across, down := extent(w.Face.Width(text, 1), textHeight, w.Angle)
	return max(4, min(largestMark, w.share()*page.Width/across, w.share()*page.Height/down))
}
