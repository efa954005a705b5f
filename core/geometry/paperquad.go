package geometry

import (
	"math"

	"dorbin/core/message"
)

// Point is a position in a page as fractions of its width and height, from the
// top left. It may lie outside the page.
type Point struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// PaperQuad is where a paper lies in a picture: its corners, clockwise from the
// paper's top left. The zero PaperQuad is none.
type PaperQuad [4]Point

// WholePicture is the outline that takes in everything.
var WholePicture = PaperQuad{{0, 0}, {1, 0}, {1, 1}, {0, 1}}

// IsZero tells whether there is no outline.
func (o PaperQuad) IsZero() bool { return o == PaperQuad{} }

// Bounds of an outline that can be meant.
const (
	farthest = 0.5  // how far a corner may lie outside the picture
	smallest = 0.02 // area, as a share of the picture
)

// Check tells what is wrong with an outline: corners far outside the picture,
// sides that cross, or hardly any area.
func (o PaperQuad) Check() error {
	for i, p := range o {
		if !(p.X >= -farthest && p.X <= 1+farthest && p.Y >= -farthest && p.Y <= 1+farthest) {
			return message.Errorf("a corner lies too far outside the picture")
		}
		// All corners of a convex outline turn the same way: right, clockwise.
		if cross(o[(i+3)%4], p, o[(i+1)%4]) <= 1e-6 {
			return message.Errorf("the corners must go around the paper clockwise, without a dent")
		}
	}
	if o.Area() < smallest {
		return message.Errorf("the outline holds too little of the picture")
	}
	return nil
}

// Area is the share of the picture that the outline holds.
func (o PaperQuad) Area() float64 {
	sum := 0.0
	for i, p := range o {
		q := o[(i+1)%4]
		sum += p.X*q.Y - q.X*p.Y
	}
	return math.Abs(sum) / 2
}

// LongestSide is the length of the longest side in a page of this size, in the
// size's unit.
func (o PaperQuad) LongestSide(width, height float64) float64 {
	longest := 0.0
	for i, p := range o {
		q := o[(i+1)%4]
		longest = math.Max(longest, math.Hypot((p.X-q.X)*width, (p.Y-q.Y)*height))
	}
	return longest
}

// cross is positive where a, b, c turn right, with y pointing down.
func cross(a, b, c Point) float64 {
	return (b.X-a.X)*(c.Y-b.Y) - (b.Y-a.Y)*(c.X-b.X)
}

// At is the point that lies at u across and v down the paper, both fractions.
func (o PaperQuad) At(u, v float64) Point {
	x, y := o.Projection(1, 1, 1, 1).Apply(u, v)
	return Point{x, y}
}

// Cut divides the outline into a left and a right half by a fold that meets the
// top at the fraction top of its width and the bottom at bottom.
func (o PaperQuad) Cut(top, bottom float64) (left, right PaperQuad) {
	t, b := o.At(top, 0), o.At(bottom, 1)
	return PaperQuad{o[0], t, b, o[3]}, PaperQuad{t, o[1], o[2], b}
}

// Projection is a map of the plane that keeps straight lines, in homogeneous
// coordinates, row by row.
type Projection [9]float64

// Apply maps a point.
func (m Projection) Apply(x, y float64) (float64, float64) {
	w := m[6]*x + m[7]*y + m[8]
	return (m[0]*x + m[1]*y + m[2]) / w, (m[3]*x + m[4]*y + m[5]) / w
}

// Inverse is the projection that leads back.
func (m Projection) Inverse() Projection {
	return Projection{
		m[4]*m[8] - m[5]*m[7], m[2]*m[7] - m[1]*m[8], m[1]*m[5] - m[2]*m[4],
		m[5]*m[6] - m[3]*m[8], m[0]*m[8] - m[2]*m[6], m[2]*m[3] - m[0]*m[5],
		m[3]*m[7] - m[4]*m[6], m[1]*m[6] - m[0]*m[7], m[0]*m[4] - m[1]*m[3],
	}
}

// Projection maps a flat paper of flatWidth by flatHeight to where the outline
// has it in a picture of width by height (P. S. Heckbert, "Fundamentals of
// Texture Mapping and Image Warping", 1989, 2.2.3).
func (o PaperQuad) Projection(flatWidth, flatHeight, width, height float64) Projection {
	var x, y [4]float64
	for i, p := range o {
		x[i], y[i] = p.X*width, p.Y*height
	}
	dx1, dx2, dy1, dy2 := x[1]-x[2], x[3]-x[2], y[1]-y[2], y[3]-y[2]
	sx, sy := x[0]-x[1]+x[2]-x[3], y[0]-y[1]+y[2]-y[3]
	det := dx1*dy2 - dx2*dy1
	g, h := (sx*dy2-dx2*sy)/det, (dx1*sy-sx*dy1)/det
	m := Projection{
		x[1] - x[0] + g*x[1], x[3] - x[0] + h*x[3], x[0],
		y[1] - y[0] + g*y[1], y[3] - y[0] + h*y[3], y[0],
		g, h, 1,
	}
	for row := range 3 {
		m[3*row] /= flatWidth
		m[3*row+1] /= flatHeight
	}
	return m
}

// Aspect is the paper's true width over its height, as it was before the
// camera saw it at an angle, in a picture whose pixels are square and whose
// own aspect is given. (Z. Zhang and L. He, "Whiteboard scanning and image
// enhancement", Digital Signal Processing 17, 2007, section 3.) Where the
// perspective is too weak to tell, the mean lengths of the sides decide.
func (o PaperQuad) Aspect(picture float64) float64 {
	plain := o.meanAspect(picture)
	var m [4][2]float64 // from the picture's middle: top left, top right, bottom left, bottom right
	for i, corner := range []int{0, 1, 3, 2} {
		m[i] = [2]float64{(o[corner].X - 0.5) * picture, o[corner].Y - 0.5}
	}
	k2 := tripleOf(m[0], m[3], m[2]) / tripleOf(m[1], m[3], m[2])
	k3 := tripleOf(m[0], m[3], m[1]) / tripleOf(m[2], m[3], m[1])
	n2 := [3]float64{k2*m[1][0] - m[0][0], k2*m[1][1] - m[0][1], k2 - 1}
	n3 := [3]float64{k3*m[2][0] - m[0][0], k3*m[2][1] - m[0][1], k3 - 1}
	const weak = 0.02
	if math.Abs(n2[2]) < weak || math.Abs(n3[2]) < weak {
		return plain
	}
	f2 := -(n2[0]*n3[0] + n2[1]*n3[1]) / (n2[2] * n3[2])
	// A lens between very wide and tele; anything else is noise in the corners.
	if !(f2 > 0.25 && f2 < 16) {
		return plain
	}
	across := (n2[0]*n2[0]+n2[1]*n2[1])/f2 + n2[2]*n2[2]
	down := (n3[0]*n3[0]+n3[1]*n3[1])/f2 + n3[2]*n3[2]
	aspect := math.Sqrt(across / down)
	if !(aspect > plain/1.6 && aspect < plain*1.6) {
		return plain
	}
	return aspect
}

// tripleOf is the determinant of three points in homogeneous coordinates.
func tripleOf(a, b, c [2]float64) float64 {
	return a[0]*(b[1]-c[1]) - a[1]*(b[0]-c[0]) + b[0]*c[1] - b[1]*c[0]
}

func (o PaperQuad) meanAspect(picture float64) float64 {
	side := func(i, j int) float64 {
		return math.Hypot((o[i].X-o[j].X)*picture, o[i].Y-o[j].Y)
	}
	return (side(0, 1) + side(3, 2)) / (side(0, 3) + side(1, 2))
}

// snapTo is how near a paper's measured aspect has to be to a standard one to
// be taken for it: corners are found to about one per cent.
const snapTo = 1.05

// FlatSize is the size in points of the outlined paper, laid flat, out of a page
// of the given size. Where the page's own size is that of a photograph, only
// the aspect is known: the paper is taken for the standard size it is nearest
// to, within a few per cent, or fitted into A4. A page that was scanned has a
// true scale, and its paper keeps it.
func (o PaperQuad) FlatSize(page Size, scanned bool) Size {
	aspect := o.Aspect(page.Width / page.Height)
	if scanned {
		height := math.Sqrt(o.Area() * page.Width * page.Height / aspect)
		return nearStandard(Size{Width: height * aspect, Height: height})
	}
	paper := nearestPaper(aspect)
	if ratio := aspect / (paper.Width / paper.Height); ratio < snapTo && ratio > 1/snapTo {
		return paper
	}
	scale := math.Min(paper.Width/aspect, paper.Height)
	return Size{Width: scale * aspect, Height: scale}
}

// nearStandard gives the standard paper a size is within a few per cent of, or
// the size itself.
func nearStandard(s Size) Size {
	for _, paper := range []Size{A4, Letter, A5, A3} {
		for _, p := range []Size{paper, paper.Landscape()} {
			w, h := s.Width/p.Width, s.Height/p.Height
			if math.Max(w, 1/w) < snapTo && math.Max(h, 1/h) < snapTo {
				return p
			}
		}
	}
	return s
}
