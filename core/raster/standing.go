package raster

import (
	"image"
	"math"
)

// Standing is which way up the writing on a page seems to be.
type Standing struct {
	Turn int     `json:"turn,omitempty"` // by which the page is to be turned, in degrees clockwise, to be read
	Sure float64 `json:"sure,omitempty"` // from 0 to 1
}

// SureStanding is how sure a standing must be to be believed.
const SureStanding = 0.5

const (
	standingEdge  = 1400 // pixels of the longer edge at which lines are measured
	standingStrip = 10   // strips that a page is cut into, so that a skew matters little
	fewestLines   = 12   // pieces of lines that must have been seen
	surplus       = 0.06 // by which share rows must alternate more than columns
)

// Writing is what is written or drawn on a page, told apart from its paper.
type Writing struct{ blackWhite *image.Gray }

// FindWriting looks for the writing on a page.
func FindWriting(img image.Image) Writing {
	return Writing{threshold(ToGray(Fit(img, standingEdge)))}
}

// Standing tells from the lines of writing how a page stands. Lines make rows of
// ink and of paper alternate, which columns do not, and in Latin writing more
// strokes rise above the small letters than hang below them. A page without
// enough writing, or in capitals, gives no answer.
func (w Writing) Standing() Standing {
	ink := inkOf(w.blackWhite)
	across, along := ink.alternation(), ink.turned().alternation()
	sideways := along > across
	if sideways {
		across, along = along, across
	}
	axis := math.Min(1, 6*((across-along)/(across+along+1e-9)-surplus))
	if sideways {
		ink = ink.turned()
	}
	rising, hanging := ink.strokes()
	lines := rising + hanging
	if lines < fewestLines {
		return Standing{}
	}
	// The share of lines that agree, less what chance would give.
	lead := math.Abs(rising-hanging) / lines
	noise := 1.5 / math.Sqrt(lines)
	s := Standing{Sure: math.Max(0, math.Min(1, (lead-noise)*2.5)) * math.Max(0, axis)}
	if sideways {
		s.Turn = 90
	}
	if hanging > rising {
		s.Turn += 180
	}
	return s
}

// inkMap is a page in black and white: 1 is ink.
type inkMap struct {
	pix           []uint8
	width, height int
}

// longestRun is the longest run of ink, as a share of the page, that writing
// makes; rules, pictures and the edges of a scan are longer.
const longestRun = 0.05

func inkOf(bw *image.Gray) inkMap {
	ink := inkMap{make([]uint8, len(bw.Pix)), bw.Rect.Dx(), bw.Rect.Dy()}
	for y := range ink.height {
		for x := range ink.width {
			if bw.Pix[y*bw.Stride+x] == 0 {
				ink.pix[y*ink.width+x] = 1
			}
		}
	}
	longest := int(longestRun * float64(max(ink.width, ink.height)))
	ink.dropRuns(1, ink.width, ink.width, ink.height, longest)
	ink.dropRuns(ink.width, 1, ink.height, ink.width, longest)
	return ink
}

// dropRuns takes out runs of ink that are longer than longest.
func (m inkMap) dropRuns(step, lineStep, length, lines, longest int) {
	for line := range lines {
		start := 0
		for i := 0; i <= length; i++ {
			if i < length && m.pix[line*lineStep+i*step] == 1 {
				continue
			}
			if i-start > longest {
				for j := start; j < i; j++ {
					m.pix[line*lineStep+j*step] = 0
				}
			}
			start = i + 1
		}
	}
}

// turned gives the map turned by 90 degrees clockwise.
func (m inkMap) turned() inkMap {
	out := inkMap{make([]uint8, len(m.pix)), m.height, m.width}
	for y := range m.height {
		for x := range m.width {
			out.pix[x*out.width+m.height-1-y] = m.pix[y*m.width+x]
		}
	}
	return out
}

// profiles are the ink in each row, for each of the strips that the page is cut
// into from left to right.
func (m inkMap) profiles() [][]float64 {
	strips := make([][]float64, standingStrip)
	width := m.width / standingStrip
	for i := range strips {
		strips[i] = make([]float64, m.height)
		for y := range m.height {
			for _, v := range m.pix[y*m.width+i*width:][:width] {
				strips[i][y] += float64(v)
			}
		}
	}
	return strips
}

// alternation is how much the ink changes from row to row, for the ink there is.
func (m inkMap) alternation() float64 {
	var change, total float64
	for _, profile := range m.profiles() {
		for y := 2; y < len(profile); y++ {
			step := profile[y] - profile[y-2]
			change += step * step
			total += profile[y]
		}
	}
	return change / (total + 1)
}

// strokes counts the pieces of lines from which more strokes rise than hang, and
// those of which it is the other way round.
func (m inkMap) strokes() (rising, hanging float64) {
	for _, profile := range m.profiles() {
		for y := 0; y < len(profile); {
			top := y
			for y < len(profile) && profile[y] > 0 {
				y++
			}
			if above, below, ok := outside(profile[top:y]); ok {
				switch {
				case above > 1.25*below:
					rising++
				case below > 1.25*above:
					hanging++
				}
			}
			y++
		}
	}
	return rising, hanging
}

const (
	lowestLine  = 7  // pixels from the highest stroke to the lowest
	highestLine = 80 // more than that is no line of writing
	// fewestStrokes is the share of a line's ink that must be outside its small
	// letters; figures and capitals have less.
	fewestStrokes = 0.08
)

// outside gives the ink above and below the small letters of a line, whose rows
// are those with at least half as much ink as the fullest have.
func outside(line []float64) (above, below float64, ok bool) {
	if len(line) < lowestLine || len(line) > highestLine {
		return 0, 0, false
	}
	most, all := 0.0, 0.0
	for _, ink := range line {
		most = math.Max(most, ink)
		all += ink
	}
	first, last := -1, 0
	for y, ink := range line {
		if ink >= most*0.5 {
			if first < 0 {
				first = y
			}
			last = y
		}
	}
	if last-first+1 < len(line)/4 {
		return 0, 0, false // a rule
	}
	for y, ink := range line {
		if y < first {
			above += ink
		}
		if y > last {
			below += ink
		}
	}
	return above, below, above+below > fewestStrokes*all
}

// Ink is the share of a page that is written or drawn on, but for its margin of
// a twentieth, where scans have shadows.
func (w Writing) Ink() float64 {
	bw := w.blackWhite
	width, height := bw.Rect.Dx(), bw.Rect.Dy()
	marginX, marginY := max(1, width/20), max(1, height/20)
	ink, all := 0, 0
	for y := marginY; y < height-marginY; y++ {
		for x := marginX; x < width-marginX; x++ {
			all++
			i := y*bw.Stride + x
			// A speck of one pixel is noise.
			if bw.Pix[i] == 0 && (bw.Pix[i+1] == 0 || bw.Pix[i+bw.Stride] == 0) {
				ink++
			}
		}
	}
	return float64(ink) / float64(max(1, all))
}
