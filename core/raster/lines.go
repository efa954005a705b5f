package raster

import (
	"math"
	"slices"
)

// line is x·cos(theta) + y·sin(theta) = rho, in pixels.
type line struct {
	theta, rho float64
	cos, sin   float64 // of theta
	border     bool    // the picture's own border
}

func newLine(theta, rho float64) line {
	sin, cos := math.Sincos(theta)
	return line{theta: theta, rho: rho, cos: cos, sin: sin}
}

// distance is how far a point lies from the line, with a sign.
func (l line) distance(x, y float64) float64 {
	return x*l.cos + y*l.sin - l.rho
}

// signedLike is distance with the sign that the other line would give it: theta
// and theta + π are the same direction.
func (l line) signedLike(other line, x, y float64) float64 {
	d := l.distance(x, y)
	if l.opposes(other) {
		return -d
	}
	return d
}

func (l line) opposes(o line) bool { return l.cos*o.cos+l.sin*o.sin < 0 }

// meets is the point that two lines share.
func (l line) meets(o line) (x, y float64, ok bool) {
	det := l.cos*o.sin - l.sin*o.cos
	if math.Abs(det) < 1e-6 {
		return 0, 0, false
	}
	x = (l.rho*o.sin - o.rho*l.sin) / det
	y = (o.rho*l.cos - l.rho*o.cos) / det
	return x, y, true
}

// angleBetween is the angle between directions, of which θ and θ + π are one.
func angleBetween(a, b float64) float64 {
	d := math.Mod(math.Abs(a-b), math.Pi)
	return math.Min(d, math.Pi-d)
}

func meanAngle(a, b float64) float64 {
	if math.Abs(a-b) > math.Pi/2 {
		a += math.Pi
	}
	return (a + b) / 2
}

const (
	thetaBins = 180
	// Two lines this near each other are one.
	sameTheta = 5
	sameRho   = 5
)

// houghLines finds the straight lines that most edges lie on (R. O. Duda and P.
// E. Hart, "Use of the Hough transformation to detect lines and curves in
// pictures", 1972). Each edge votes only for lines that run along it, and
// strong edges hardly more than faint ones: print is blacker than the edge of a
// white paper on a light table.
func houghLines(g *gradient, most int) []line {
	diagonal := int(math.Hypot(float64(g.width), float64(g.height))) + 2
	votes := make([]float32, thetaBins*2*diagonal)
	var cos, sin [thetaBins]float64
	for t := range thetaBins {
		sin[t], cos[t] = math.Sincos(float64(t) * math.Pi / thetaBins)
	}
	for y := 1; y < g.height-1; y++ {
		for x := 1; x < g.width-1; x++ {
			i := y*g.width + x
			gx, gy := float64(g.x[i]), float64(g.y[i])
			size := math.Hypot(gx, gy)
			if size < float64(g.floor) {
				continue
			}
			weight := float32(size / (size + 4))
			middle := int(math.Round(math.Atan2(gy, gx)*thetaBins/math.Pi)) + 2*thetaBins
			for t := middle - 2; t <= middle+2; t++ {
				bin := t % thetaBins
				rho := float64(x)*cos[bin] + float64(y)*sin[bin]
				votes[bin*2*diagonal+int(rho+0.5+float64(diagonal))] += weight
			}
		}
	}
	return peaks(votes, diagonal, most)
}

func peaks(votes []float32, diagonal, most int) []line {
	smooth := make([]float32, len(votes))
	for i := 1; i < len(votes)-1; i++ {
		smooth[i] = votes[i-1] + 2*votes[i] + votes[i+1]
	}
	type peak struct {
		bin, rho int
		votes    float32
	}
	var all []peak
	for bin := range thetaBins {
		row := smooth[bin*2*diagonal : (bin+1)*2*diagonal]
		for rho := 1; rho < len(row)-1; rho++ {
			if row[rho] > 10 && row[rho] >= row[rho-1] && row[rho] > row[rho+1] {
				all = append(all, peak{bin, rho, row[rho]})
			}
		}
	}
	slices.SortFunc(all, func(a, b peak) int { return cmpFloat(float64(b.votes), float64(a.votes)) })
	var lines []line
	for _, p := range all {
		l := newLine(float64(p.bin)*math.Pi/thetaBins, float64(p.rho-diagonal))
		if !slices.ContainsFunc(lines, l.nearly) {
			lines = append(lines, l)
			if len(lines) == most {
				break
			}
		}
	}
	return lines
}

// nearly tells whether two lines are neighbours of the same maximum.
func (l line) nearly(o line) bool {
	if angleBetween(l.theta, o.theta) > sameTheta*math.Pi/thetaBins {
		return false
	}
	rho := o.rho
	if l.opposes(o) {
		rho = -rho
	}
	return math.Abs(l.rho-rho) <= sameRho
}
