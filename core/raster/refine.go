package raster

import (
	"math"

	"dorbin/core/geometry"
)

// How exactly a side is placed: pixels of the larger copy.
const (
	refineReach   = 14 // how far off the rough side may be
	refineSamples = 80
	refineWindow  = 4 // pixels to both sides that are compared
	fitRounds     = 8
	insetBy       = 0.8 // pixels, so that no hair of the table is left
)

// refine moves each side to where the colour changes most, by fitting a line to
// the places where it does.
func refine(p *planes, o geometry.PaperQuad) geometry.PaperQuad {
	w, h := float64(p.width), float64(p.height)
	var sides [4]line
	for i := range o {
		a, b := o[i], o[(i+1)%4]
		sides[i] = refineSide(p, a.X*w, a.Y*h, b.X*w, b.Y*h)
	}
	var refined geometry.PaperQuad
	for i := range refined {
		x, y, ok := sides[(i+3)%4].meets(sides[i])
		if !ok {
			return o
		}
		refined[i] = geometry.Point{X: x / w, Y: y / h}
		// A corner that jumps is the fault of a side that could not be seen.
		if math.Hypot((refined[i].X-o[i].X)*w, (refined[i].Y-o[i].Y)*h) > 4*refineReach {
			refined[i] = o[i]
		}
	}
	if refined.Check() != nil {
		return o
	}
	return refined
}

// refineSide gives the line along which the colour changes most, near the side
// from a to b.
func refineSide(p *planes, ax, ay, bx, by float64) line {
	length := math.Hypot(bx-ax, by-ay)
	nx, ny := -(by-ay)/length, (bx-ax)/length
	profiles := sideProfiles(p, ax, ay, bx, by, nx, ny)
	direction := meanStep(profiles)
	var points [][2]float64
	for _, profile := range profiles {
		if at, ok := profile.steepest(direction); ok {
			points = append(points, [2]float64{profile.x + at*nx, profile.y + at*ny})
		}
	}
	rough := lineThrough(ax, ay, bx, by)
	if len(points) < refineSamples/5 {
		return rough
	}
	l := fitLine(points, rough)
	l.rho += insetBy * (nx*l.cos + ny*l.sin)
	return l
}

// profile is the colours across a side at one place, from refineReach outside to
// refineReach inside.
type profile struct {
	x, y   float64
	levels [3][2*refineReach + 2*refineWindow + 1]float64
}

func sideProfiles(p *planes, ax, ay, bx, by, nx, ny float64) []profile {
	var profiles []profile
	const reach = refineReach + refineWindow
	for i := range refineSamples {
		t := (float64(i) + 0.5) / refineSamples
		x, y := ax+(bx-ax)*t, ay+(by-ay)*t
		if !p.inside(x+nx*reach, y+ny*reach) || !p.inside(x-nx*reach, y-ny*reach) {
			continue
		}
		one := profile{x: x, y: y}
		for k := range one.levels[0] {
			at := int(y+float64(k-reach)*ny+0.5)*p.width + int(x+float64(k-reach)*nx+0.5)
			for c := range p.c {
				one.levels[c][k] = float64(p.c[c][at])
			}
		}
		profiles = append(profiles, one)
	}
	return profiles
}

// meanStep is the direction in which the colour changes from outside to inside,
// as a unit vector.
func meanStep(profiles []profile) [3]float64 {
	var mean [3]float64
	for _, one := range profiles {
		for c := range mean {
			for k := range refineReach {
				mean[c] += one.levels[c][len(one.levels[c])-1-k] - one.levels[c][k]
			}
		}
	}
	size := math.Sqrt(mean[0]*mean[0] + mean[1]*mean[1] + mean[2]*mean[2])
	if size == 0 {
		return mean
	}
	for c := range mean {
		mean[c] /= size
	}
	return mean
}

// steepest is the offset, positive inside, at which the colour changes most in a
// direction.
func (p profile) steepest(direction [3]float64) (float64, bool) {
	const least = 3.0 // levels
	best, at := least, -1
	var value [len(p.levels[0])]float64
	for k := range value {
		for c := range direction {
			value[k] += p.levels[c][k] * direction[c]
		}
	}
	for k := refineWindow; k+refineWindow < len(value); k++ {
		step := 0.0
		for d := 1; d <= refineWindow; d++ {
			step += value[k+d] - value[k-d]
		}
		step /= refineWindow
		// Of steps that are alike the one nearer to the rough side counts.
		step *= 1 - 0.3*math.Abs(float64(k-refineReach-refineWindow))/refineReach
		if step > best {
			best, at = step, k
		}
	}
	return float64(at - refineReach - refineWindow), at >= 0
}

func lineThrough(ax, ay, bx, by float64) line {
	theta := math.Atan2(bx-ax, -(by - ay))
	return newLine(theta, ax*math.Cos(theta)+ay*math.Sin(theta))
}

// fitLine fits a line by least squares to points, and again without those that
// lie far off, beginning with the line that most points agree with.
func fitLine(points [][2]float64, rough line) line {
	l := consensus(points, rough)
	for round := range fitRounds {
		limit := math.Max(1.2, 6/float64(round+1))
		var kept [][2]float64
		for _, p := range points {
			if math.Abs(l.distance(p[0], p[1])) <= limit {
				kept = append(kept, p)
			}
		}
		if len(kept) < len(points)/4 || len(kept) < 4 {
			return l
		}
		l = leastSquares(kept)
	}
	return l
}

// consensus tries lines through pairs of points far apart, and gives the one
// that most points lie near.
func consensus(points [][2]float64, rough line) line {
	best, most := rough, 0
	consider := func(l line) {
		agree := 0
		for _, p := range points {
			if math.Abs(l.distance(p[0], p[1])) < 2 {
				agree++
			}
		}
		if agree > most {
			best, most = l, agree
		}
	}
	consider(rough)
	third := len(points) / 3
	for i := 0; i < third; i += 2 {
		for j := len(points) - third; j < len(points); j += 2 {
			consider(lineThrough(points[i][0], points[i][1], points[j][0], points[j][1]))
		}
	}
	return best
}

// leastSquares fits a line so that the distances to it are smallest.
func leastSquares(points [][2]float64) line {
	var mx, my float64
	for _, p := range points {
		mx, my = mx+p[0], my+p[1]
	}
	n := float64(len(points))
	mx, my = mx/n, my/n
	var xx, xy, yy float64
	for _, p := range points {
		dx, dy := p[0]-mx, p[1]-my
		xx, xy, yy = xx+dx*dx, xy+dx*dy, yy+dy*dy
	}
	theta := 0.5*math.Atan2(2*xy, xx-yy) + math.Pi/2
	return newLine(theta, mx*math.Cos(theta)+my*math.Sin(theta))
}
