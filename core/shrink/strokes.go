package shrink

import (
	"encoding/binary"
	"image"
	"math"
	"slices"

	"dorbin/core/bilevel"
	"dorbin/core/bilevel/jbig2"
)

const (
	middleShare = 0.05 // of the contrast, by which a pixel is off the middle and as much ink as paper
	ridgeShare  = 0.25 // of the contrast, by which a hairline is darker than what is at both its sides
	leastRidge  = 1    // levels, by which it is at least
	lineReach   = 2    // times the width of a stroke, that the sides of a line are away that goes on
	lineGrain   = 2    // times the grain of the paper, by which it is darker than they are
	lineLeast   = 15   // times the width of a stroke, that it goes on at least: what is shorter may be grain
)

// lines finds thin lines that go on from ink, however faint they get: else a rule would be in pieces.
type lines struct {
	gray     *image.Gray
	ink      *bilevel.Bitmap
	tried    *bilevel.Bitmap
	away, by int // pixels to the sides of a line, levels by which these are brighter
}

// followLines adds such lines to ink with strokes of so many pixels, on paper with so many levels of grain.
func followLines(gray *image.Gray, ink *bilevel.Bitmap, stroke int, grain float64) {
	l := lines{gray, ink, bilevel.New(ink.Width, ink.Height), lineReach * stroke, int(lineGrain * grain)}
	var found []image.Point
	for y := range ink.Height {
		for x := range ink.Blacks(y) {
			line := l.goOn(nil, x, y)
			for i := 0; i < len(line); i++ { // it grows
				line = l.goOn(line, line[i].X, line[i].Y)
			}
			if extentOf(line) >= lineLeast*stroke {
				found = append(found, line...)
			}
		}
	}
	for _, at := range found {
		ink.Set(at.X, at.Y)
	}
}

// goOn adds what is around a pixel to a line.
func (l *lines) goOn(line []image.Point, x, y int) []image.Point {
	for v := max(0, y-1); v <= min(l.ink.Height-1, y+1); v++ {
		for u := max(0, x-1); u <= min(l.ink.Width-1, x+1); u++ {
			if l.ink.Black(u, v) || l.tried.Black(u, v) {
				continue
			}
			l.tried.Set(u, v)
			if isRidge(l.gray, u, v, l.away, l.by) {
				line = append(line, image.Pt(u, v))
			}
		}
	}
	return line
}

// extentOf gives the longer side of the box around points.
func extentOf(points []image.Point) int {
	var box image.Rectangle
	for _, at := range points {
		box = box.Union(image.Rectangle{at, at.Add(image.Pt(1, 1))})
	}
	return max(box.Dx(), box.Dy())
}

// atHalfContrast puts the edges of ink to where its level is in the middle between that of the
// paper and the darkest of the stroke, at most so many pixels away: there the edge was before it
// was blurred, so that ink is neither bolder nor thinner than it was. Hairlines stay, which are
// nowhere as dark as what they hang on. What is nearly in the middle becomes what takes fewer bytes: it is as much
// ink as paper, and noise of the scan decides otherwise.
func atHalfContrast(gray *image.Gray, roughly *bilevel.Bitmap, p *paper, stroke int) *bilevel.Bitmap {
	ink, undecided := bilevel.New(roughly.Width, roughly.Height), bilevel.New(roughly.Width, roughly.Height)
	near := roughly.Thickened()
	around := darkest{gray: gray, radius: stroke, y: -1, ofRows: make([]uint8, gray.Rect.Dx())}
	for y := range ink.Height {
		for x := range near.Blacks(y) {
			level, light, dark := int(gray.Pix[y*gray.Stride+x]), p.levelAt(x, y), around.at(x, y)
			contrast := float64(light - dark)
			lighter := float64(level) - float64(light+dark)/2 // than the middle
			isInk, isMiddle := lighter <= 0, math.Abs(lighter) <= middleShare*contrast
			if (isMiddle || !isInk) && roughly.Black(x, y) && isRidge(gray, x, y, stroke, int(ridgeShare*contrast)) {
				isInk, isMiddle = true, false
			}
			if isInk {
				ink.Set(x, y)
			}
			if isMiddle {
				undecided.Set(x, y)
			}
		}
	}
	jbig2.Decide(ink, undecided)
	return ink
}

// darkest finds the darkest level in a square around a pixel.
type darkest struct {
	gray   *image.Gray
	radius int
	y      int     // the row that was asked for last
	ofRows []uint8 // the darkest in each column, of the rows around that one
}

func (d *darkest) at(x, y int) int {
	if y != d.y {
		d.moveTo(y)
	}
	return int(slices.Min(d.ofRows[max(0, x-d.radius):min(len(d.ofRows), x+d.radius+1)]))
}

func (d *darkest) moveTo(y int) {
	d.y = y
	first, last := max(0, y-d.radius), min(d.gray.Rect.Dy()-1, y+d.radius)
	copy(d.ofRows, d.gray.Pix[first*d.gray.Stride:][:len(d.ofRows)])
	for v := first + 1; v <= last; v++ {
		takeDarker(d.ofRows, d.gray.Pix[v*d.gray.Stride:][:len(d.ofRows)])
	}
}

// takeDarker puts the darker ones of the levels of two rows into the first: eight at once.
func takeDarker(row, other []uint8) {
	for ; len(row) >= 8; row, other = row[8:], other[8:] {
		a, b := binary.LittleEndian.Uint64(row), binary.LittleEndian.Uint64(other)
		binary.LittleEndian.PutUint64(row, a^(a^b)&lessThan(b, a))
	}
	for i, level := range other {
		row[i] = min(row[i], level)
	}
}

// lessThan has all bits of those of eight bytes that are less than others (H. S. Warren, "Hacker's Delight", sections 2-12 and
// 2-18).
func lessThan(a, b uint64) uint64 {
	const highest = 0x80808080_80808080
	difference := ((a | highest) - b&^highest) ^ (a^^b)&highest
	less := (^a&b | (^a|b)&difference) & highest
	return less >> 7 * 0xFF
}

// isRidge tells whether a pixel is darker by so much than what is so many pixels away at both its
// sides, across or down.
func isRidge(gray *image.Gray, x, y, away, by int) bool {
	level := int(gray.Pix[y*gray.Stride+x]) + max(leastRidge, by)
	at := func(x, y int) int {
		return int(gray.Pix[max(0, min(gray.Rect.Dy()-1, y))*gray.Stride+max(0, min(gray.Rect.Dx()-1, x))])
	}
	return (level <= at(x-away, y) && level <= at(x+away, y)) || (level <= at(x, y-away) && level <= at(x, y+away))
}
