package raster

import "math"

// evidence is what is seen along a line, summed up from its beginning, so that
// any stretch of it is judged at once.
type evidence struct {
	x0, y0, dx, dy float64 // where the line enters the picture, and its direction
	sums           []sighting
}

// sighting is what is seen at one place, or the sum over several.
type sighting struct {
	step   [3]float64 // the change of colour across the line, towards the right of its direction
	square float64    // its length, squared
	onEdge float64    // whether there is an edge along the line
	seen   float64    // whether the picture shows the place
}

const (
	sightingEvery = 2.0 // pixels
	near, far     = 2.5, 6.0
)

func evidenceAlong(l line, soft *planes, edges *gradient) evidence {
	e := evidence{x0: l.rho * l.cos, y0: l.rho * l.sin, dx: -l.sin, dy: l.cos}
	reach := math.Hypot(float64(soft.width), float64(soft.height))
	e.x0, e.y0 = e.x0-e.dx*reach, e.y0-e.dy*reach
	e.sums = make([]sighting, 1, int(2*reach/sightingEvery)+2)
	var sum sighting
	for t := 0.0; t < 2*reach; t += sightingEvery {
		x, y := e.x0+e.dx*t, e.y0+e.dy*t
		nx, ny := -e.dy, e.dx
		if soft.inside(x+nx*far, y+ny*far) && soft.inside(x-nx*far, y-ny*far) {
			// A line drawn on paper has paper on both sides of it, a paper's edge has
			// not: the step must be there near the line and farther from it.
			beside, wide := soft.step(x, y, nx*near, ny*near), soft.step(x, y, nx*far, ny*far)
			for c := range beside {
				d := lesser(beside[c], wide[c])
				sum.step[c] += d
				sum.square += d * d
			}
			sum.onEdge += edges.along(x, y, nx, ny)
			sum.seen++
		}
		e.sums = append(e.sums, sum)
	}
	return e
}

// lesser is the smaller of two changes in the same direction, and nothing when
// they go in opposite ones.
func lesser(a, b float64) float64 {
	if a*b <= 0 {
		return 0
	}
	if math.Abs(a) < math.Abs(b) {
		return a
	}
	return b
}

// score tells how much the stretch from a to b, of which the inside lies to the
// right, looks like the edge of a paper: the colour changes by much, in the same
// way all along, and just there.
func (e evidence) score(ax, ay, bx, by float64) float64 {
	from, to := e.index(ax, ay), e.index(bx, by)
	right := 1.0
	if from > to {
		from, to, right = to, from, -1
	}
	n := float64(to - from)
	if n < 6 {
		return 0
	}
	a, b := e.sums[from], e.sums[to]
	seen := b.seen - a.seen
	if seen < 3 {
		return offPictureScore
	}
	var size, brighter float64
	for c := range a.step {
		d := (b.step[c] - a.step[c]) / seen
		size += d * d
		brighter += d * right
	}
	score := math.Sqrt(size) / (math.Sqrt((b.square-a.square)/seen) + noise) * (0.25 + 0.75*(b.onEdge-a.onEdge)/seen)
	if brighter < 0 {
		score *= darkerInside
	}
	share := seen / n
	return score*share + offPictureScore*(1-share)
}

func (e evidence) index(x, y float64) int {
	t := (x-e.x0)*e.dx + (y-e.y0)*e.dy
	return max(0, min(len(e.sums)-1, int(t/sightingEvery+0.5)))
}
