package geometry

import (
	"fmt"
	"math"
	"slices"
)

// PointsPerInch is the number of points in an inch.
const PointsPerInch = 72.0

// MillimetresPerInch is the number of millimetres in an inch.
const MillimetresPerInch = 25.4

// Size is a width and a height in points.
type Size struct {
	Width  float64 `json:"width"`
	Height float64 `json:"height"`
}

// Paper sizes in points, portrait (ISO 216 and ANSI/ASME Y14.1).
var (
	A4     = Size{595.276, 841.890}
	A3     = Size{841.890, 1190.551}
	A5     = Size{419.528, 595.276}
	Letter = Size{612, 792}
	Legal  = Size{612, 1008}
)

// Landscape returns the size lying on its longer edge.
func (s Size) Landscape() Size {
	return Size{math.Max(s.Width, s.Height), math.Min(s.Width, s.Height)}
}

// Turned returns the size after turning by degrees clockwise, a multiple of 90.
func (s Size) Turned(degrees int) Size {
	if NormalTurn(degrees)%180 == 90 {
		return Size{s.Height, s.Width}
	}
	return s
}

// NormalTurn brings a turn in degrees into 0, 90, 180 or 270. Degrees that are
// no multiple of 90 are rounded down to one.
func NormalTurn(degrees int) int {
	turn := degrees % 360
	if turn < 0 {
		turn += 360
	}
	return turn / 90 * 90
}

// MM converts points to millimetres.
func MM(points float64) float64 { return points * MillimetresPerInch / PointsPerInch }

// FromMM converts millimetres to points.
func FromMM(millimetres float64) float64 { return millimetres * PointsPerInch / MillimetresPerInch }

// Resolution is a scan's dots per inch in both directions; zero is unknown.
type Resolution struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// Bounds of a believable paper: a scan that claims to be smaller than a stamp
// or larger than A0 carries a resolution nobody set.
const (
	smallestEdgeMM = 15
	longestEdgeMM  = 1300
	lowestDPI      = 30
	highestDPI     = 4800
)

// Believable tells whether an image of width by height pixels can have been
// scanned at this resolution.
func (r Resolution) Believable(width, height int) bool {
	if r.X < lowestDPI || r.Y < lowestDPI || r.X > highestDPI || r.Y > highestDPI {
		return false
	}
	if r.X > 4*r.Y || r.Y > 4*r.X {
		return false
	}
	w := float64(width) / r.X * MillimetresPerInch
	h := float64(height) / r.Y * MillimetresPerInch
	return math.Min(w, h) >= smallestEdgeMM && math.Max(w, h) <= longestEdgeMM
}

// ImageSize is the page size, in points, of an image of width by height
// pixels. A believable resolution decides; otherwise the image is laid on A4 or
// Letter, whichever is nearer in aspect, with its own aspect kept.
func ImageSize(width, height int, r Resolution) Size {
	if r.Believable(width, height) {
		return Size{
			Width:  float64(width) / r.X * PointsPerInch,
			Height: float64(height) / r.Y * PointsPerInch,
		}
	}
	paper := nearestPaper(float64(width) / float64(height))
	scale := math.Min(paper.Width/float64(width), paper.Height/float64(height))
	return Size{Width: float64(width) * scale, Height: float64(height) * scale}
}

func nearestPaper(aspect float64) Size {
	best, distance := A4, math.Inf(1)
	for _, paper := range []Size{A4, Letter, A4.Landscape(), Letter.Landscape()} {
		d := math.Abs(math.Log(aspect / (paper.Width / paper.Height)))
		if d < distance {
			best, distance = paper, d
		}
	}
	return best
}

// Paper is a size that goes by a name.
type Paper struct {
	Name string
	Size Size // upright
}

// Papers lists the sizes that go by a name.
func Papers() []Paper { return papers }

var papers = []Paper{{"A4", A4}, {"A5", A5}, {"A3", A3}, {"Letter", Letter}, {"Legal", Legal}}

// PaperTolerance is how far, in points, the edges of a page may be from those of the paper
// by whose name it goes: 2 mm.
const PaperTolerance = 2 * PointsPerInch / MillimetresPerInch

// PaperName names the standard paper that a size is, lying or upright: "A4", "Letter". It is
// empty for any other size.
func PaperName(s Size) string {
	short, long := math.Min(s.Width, s.Height), math.Max(s.Width, s.Height)
	for _, paper := range papers {
		if math.Abs(paper.Size.Width-short) <= PaperTolerance && math.Abs(paper.Size.Height-long) <= PaperTolerance {
			return paper.Name
		}
	}
	return ""
}

// PaperNamed is the standard paper of a name; not ok where there is none.
func PaperNamed(name string) (paper Paper, ok bool) {
	i := slices.IndexFunc(papers, func(p Paper) bool { return p.Name == name })
	if i < 0 {
		return Paper{}, false
	}
	return papers[i], true
}

// String gives the size in whole millimetres, as people name paper.
func (s Size) String() string {
	return fmt.Sprintf("%.0f × %.0f mm", MM(s.Width), MM(s.Height))
}

// NonZero gives a pointer to a value, or nil where it is zero: for what is left out then.
func NonZero[T interface{ IsZero() bool }](v T) *T {
	if v.IsZero() {
		return nil
	}
	return &v
}
