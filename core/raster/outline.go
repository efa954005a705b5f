package raster

import (
	"image"
	"math"

	"dorbin/core/geometry"
)

// Sizes in pixels at which pictures are searched: a small copy to find where the
// paper is, a larger one to place its sides exactly.
const (
	searchEdge = 320
	refineEdge = 1100
)

// FoundOutline is where a paper seems to lie in a picture.
type FoundOutline struct {
	Outline geometry.PaperQuad
	// Score tells how much speaks for it, from 0 to 1. Below Sure, it is a guess.
	Score float64
}

// Sure is the score from which on an outline is right in nearly all pictures.
const Sure = 0.42

// FindOutline looks for a paper in a photograph: four straight sides at which
// the colour changes the same way all along, the larger the better. It fails
// with false when there is nothing like it.
func FindOutline(img image.Image) (FoundOutline, bool) {
	fine := planesOf(Fit(img, refineEdge))
	small := planesOf(Fit(fine.image(), searchEdge))
	search := newOutlineSearch(small)
	best, ok := search.best()
	if !ok {
		return FoundOutline{}, false
	}
	best.Outline = refine(fine, best.Outline)
	return best, best.Outline.Check() == nil
}

// outlineSearch is a picture with the straight lines found in it.
type outlineSearch struct {
	width, height float64
	lines         []candidate
}

// candidate is a line that may hold a side of the paper.
type candidate struct {
	line
	evidence
}

func newOutlineSearch(p *planes) *outlineSearch {
	edges := gradientOf(p.blurred(1))
	soft := p.blurred(2)
	s := &outlineSearch{width: float64(p.width), height: float64(p.height)}
	lines := houghLines(edges, candidateLines)
	w, h := s.width-1, s.height-1
	for _, border := range []line{newLine(0, 0), newLine(0, w), newLine(math.Pi/2, 0), newLine(math.Pi/2, h)} {
		border.border = true
		lines = append(lines, border)
	}
	for _, l := range lines {
		s.lines = append(s.lines, candidate{l, evidenceAlong(l, soft, edges)})
	}
	return s
}

const (
	candidateLines = 48
	mostParallel   = 38 * math.Pi / 180 // between opposite sides
	leastCorner    = 42 * math.Pi / 180 // between neighbouring sides
	leastWidth     = 0.18               // between opposite sides, as a share of the picture's shorter edge
	leastArea      = 0.08
	mostOffPicture = 2 // sides that lie on the picture's border
)

type sidePair struct {
	a, b  *candidate
	angle float64
}

func (s *outlineSearch) best() (FoundOutline, bool) {
	pairs := s.pairs()
	var best FoundOutline
	for i, across := range pairs {
		for _, down := range pairs[i+1:] {
			if angleBetween(across.angle, down.angle) < leastCorner {
				continue
			}
			if found := s.try(across, down); found.Score > best.Score {
				best = found
			}
		}
	}
	return best, best.Score > 0
}

// pairs are the lines that can be opposite sides.
func (s *outlineSearch) pairs() []sidePair {
	var pairs []sidePair
	shorter := math.Min(s.width, s.height)
	cx, cy := s.width/2, s.height/2
	for i := range s.lines {
		for j := i + 1; j < len(s.lines); j++ {
			a, b := &s.lines[i], &s.lines[j]
			if angleBetween(a.theta, b.theta) > mostParallel {
				continue
			}
			// Measured through the middle of the picture, where the paper is.
			if math.Abs(a.distance(cx, cy)-b.signedLike(a.line, cx, cy)) < leastWidth*shorter {
				continue
			}
			pairs = append(pairs, sidePair{a, b, meanAngle(a.theta, b.theta)})
		}
	}
	return pairs
}

// try scores the outline that two pairs of sides make.
func (s *outlineSearch) try(across, down sidePair) FoundOutline {
	sides := [4]*candidate{across.a, down.b, across.b, down.a}
	var corners [4]geometry.Point
	borders := 0
	for i, side := range sides {
		if side.border {
			borders++
		}
		x, y, ok := sides[(i+3)%4].meets(side.line)
		if !ok {
			return FoundOutline{}
		}
		corners[i] = geometry.Point{X: x / s.width, Y: y / s.height}
	}
	if borders > mostOffPicture {
		return FoundOutline{}
	}
	outline := geometry.PaperQuad(corners)
	if outline.Check() != nil { // the other way round, or not at all
		outline = geometry.PaperQuad{corners[0], corners[3], corners[2], corners[1]}
		sides = [4]*candidate{sides[3], sides[2], sides[1], sides[0]}
		if outline.Check() != nil {
			return FoundOutline{}
		}
	}
	if outline.Area() < leastArea {
		return FoundOutline{}
	}
	score := s.score(outline, sides)
	if score == 0 || !plausibleAspect(outline, s.width/s.height) {
		return FoundOutline{}
	}
	return FoundOutline{fromTopLeft(outline), score}
}

func plausibleAspect(o geometry.PaperQuad, picture float64) bool {
	aspect := o.Aspect(picture)
	return aspect > 0.3 && aspect < 3.4
}

// fromTopLeft begins an outline with the corner nearest to the picture's top
// left.
func fromTopLeft(o geometry.PaperQuad) geometry.PaperQuad {
	first := 0
	for i, p := range o {
		if p.X+p.Y < o[first].X+o[first].Y {
			first = i
		}
	}
	return geometry.PaperQuad{o[first], o[(first+1)%4], o[(first+2)%4], o[(first+3)%4]}
}

func cmpFloat(a, b float64) int {
	switch {
	case a < b:
		return -1
	case a > b:
		return 1
	}
	return 0
}

// Weights of what speaks for an outline.
const (
	offPictureScore = 0.30 // of a side that the picture does not show
	noise           = 3.0  // difference in colour that means nothing, in levels
	areaPower       = 0.27
	darkerInside    = 0.6 // a side of which the inside is darker may be one of print
)

// score judges an outline by its four sides, and prefers large ones: text and
// frames on the paper have straight sides too.
func (s *outlineSearch) score(o geometry.PaperQuad, sides [4]*candidate) float64 {
	product := 1.0
	for i, side := range sides {
		a, b := o[i], o[(i+1)%4]
		product *= side.score(a.X*s.width, a.Y*s.height, b.X*s.width, b.Y*s.height)
	}
	return math.Sqrt(math.Sqrt(product)) * math.Pow(math.Min(1, o.Area()), areaPower)
}
