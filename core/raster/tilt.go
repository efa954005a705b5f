package raster

import (
	"image"
	"math"
	"slices"
)

// Tilt is by how much what is on a page leans.
type Tilt struct {
	Angle float64 `json:"angle"` // degrees clockwise by which lines of writing and of tables are off level
	Sure  float64 `json:"sure"`  // how much better these lines fit at this angle than at others; 1 is not at all
}

// SureTilt is how sure a tilt must be to be believed.
const SureTilt = 4.0

const (
	steepestMeasured = 16.0 // degrees
	coarseStep       = 0.2
	nearStep         = 0.15
	fineStep         = 0.03
	stepsAround      = 5
	tiltLeast        = 880 // pixels of the longer edge at which an angle is refined
	coarseLeast      = 440 // and looked for
	strongEdge       = 96  // grey levels more than which an edge counts for no more
	weakEdge         = 14  // fewer than which it is noise
	fewestEdges      = 600 // on a page that is not empty
	fewestSharing    = 10  // along which most edges lie: the horizon of a photograph is one
	paperNeeded      = 0.4 // share of a page that must be even ground: a photograph has none
	evenGround       = 10  // grey levels by which such ground varies
)

// MeasureTilt finds the angle at which the edges of ink line up: the profile of the
// changes of grey along lines of that angle, and across them, has the most energy
// there (after W. Postl, "Detection of linear oblique structures and skew scan in
// digitized documents", 1986). It is not sure of pages without lines: blank ones and
// photographs. Turns of a quarter are not tilt.
func MeasureTilt(img image.Image) Tilt {
	gray := shrunkGray(img, tiltLeast)
	fine := edgesOf(gray)
	if fine.count() < fewestEdges || evenShare(gray) < paperNeeded {
		return Tilt{}
	}
	coarse := edgesOf(shrunkGray(gray, coarseLeast))
	var scores []float64
	best := 0
	for angle := -steepestMeasured; angle <= steepestMeasured+1e-9; angle += coarseStep {
		score, _ := coarse.energy(angle)
		scores = append(scores, score)
		if last := len(scores) - 1; scores[last] > scores[best] {
			best = last
		}
	}
	peak := scores[best]
	slices.Sort(scores)
	angle := fine.refine(-steepestMeasured + float64(best)*coarseStep)
	if _, lines := fine.energy(angle); lines < fewestSharing || scores[0] == 0 {
		return Tilt{}
	}
	return Tilt{Angle: angle, Sure: peak / scores[len(scores)/2]}
}

// shrunkGray averages whole squares of pixels as long as the longer edge stays at
// least as long as this: nothing is interpolated, which would blur what is measured.
func shrunkGray(img image.Image, least int) *image.Gray {
	if factor := max(img.Bounds().Dx(), img.Bounds().Dy()) / least; factor > 1 {
		img = boxShrink(img, factor)
	}
	return ToGray(img)
}

// evenShare is the share of a page that is bright and even, as paper is.
func evenShare(gray *image.Gray) float64 {
	const cell = 8
	paper := paperLevel(gray)
	even, all := 0, 0
	for y := 0; y+cell <= gray.Rect.Dy(); y += cell {
		for x := 0; x+cell <= gray.Rect.Dx(); x += cell {
			sum, square := 0, 0
			for row := y; row < y+cell; row += 2 {
				for _, v := range gray.Pix[row*gray.Stride+x:][:cell] {
					sum, square = sum+int(v), square+int(v)*int(v)
				}
			}
			const n = cell * cell / 2
			mean := float64(sum) / n
			all++
			if float64(square)/n-mean*mean < evenGround*evenGround && mean > 0.75*paper {
				even++
			}
		}
	}
	return float64(even) / math.Max(1, float64(all))
}

func paperLevel(gray *image.Gray) float64 {
	var histogram [256]int
	n := 0
	for y := 0; y < gray.Rect.Dy(); y += 4 {
		for x := 0; x < gray.Rect.Dx(); x += 4 {
			histogram[gray.Pix[y*gray.Stride+x]]++
			n++
		}
	}
	return float64(percentile(&histogram, n, 0.8))
}

// edge is a place at which grey changes across a line.
type edge struct {
	along, across int16 // from the picture's middle, along the line and across it, in half pixels
	change        int16 // grey levels
}

// edges are those of lines that are level, and of lines that stand upright.
type edges struct {
	level, upright parallels
	reach          int // from the middle, in pixels
}

func (e edges) count() int { return len(e.level.edges) + len(e.upright.edges) }

// parallels are edges along lines of one direction.
type parallels struct {
	edges   []edge
	squares float64 // the sum of those of their changes
}

func (p *parallels) add(along, across, change int) {
	change = max(-strongEdge, min(strongEdge, change))
	p.edges = append(p.edges, edge{int16(along), int16(across), int16(change)}) //nolint:gosec // the picture was made small
	p.squares += float64(change * change)
}

func edgesOf(gray *image.Gray) edges {
	w, h := gray.Rect.Dx(), gray.Rect.Dy()
	e := edges{reach: int(math.Hypot(float64(w), float64(h))/2) + 4}
	for y := 1; y < h-1; y++ {
		above, row, below := gray.Pix[(y-1)*gray.Stride:][:w], gray.Pix[y*gray.Stride:][:w], gray.Pix[(y+1)*gray.Stride:][:w]
		for x := 1; x < w-1; x++ {
			down, right := int(below[x])-int(above[x]), int(row[x+1])-int(row[x-1])
			if down < weakEdge && down > -weakEdge && right < weakEdge && right > -weakEdge {
				continue
			}
			toRight, toFoot := 2*x-(w-1), 2*y-(h-1)
			// An edge counts for the lines that it runs along.
			if abs := max(down, -down); abs >= weakEdge && abs >= max(right, -right) {
				e.level.add(toRight, toFoot, down)
			} else {
				e.upright.add(-toFoot, toRight, right)
			}
		}
	}
	return e
}

// energy tells how well the edges line up at an angle in degrees clockwise, where 1
// is not at all, and along how many lines.
func (e edges) energy(angle float64) (energy, lines float64) {
	var all profileSums
	level, upright := all.add(e.level, angle, e.reach), all.add(e.upright, angle, e.reach)
	return level + upright, all.square * all.square / math.Max(1, all.fourth)
}

// profileSums are sums over the profiles of edges, of their powers.
type profileSums struct{ square, fourth float64 }

// add sums up the profile of changes along an angle, and gives its energy against
// that of edges that lie anywhere.
func (sums *profileSums) add(p parallels, angle float64, reach int) float64 {
	profile := p.profile(angle, reach)
	var energy float64
	// Smoothed, as points between two places would else count for less than those on
	// them, and the angle 0, at which all lie on them, for more.
	for i := 1; i+1 < len(profile); i++ {
		v := (profile[i-1] + 2*profile[i] + profile[i+1]) / 4
		energy += v * v
		sums.fourth += v * v * v * v
	}
	sums.square += energy
	return energy / math.Max(1, p.squares)
}

// Places are told in whole numbers, which is quicker: a pixel has 1<<placeBits of them, of
// which 1<<shareBits tell how an edge is shared by two pixels.
const (
	placeBits = 16
	shareBits = 8
)

// profile sums up changes along lines of an angle, a pixel apart. Each is shared by the two
// pixels that it lies between.
func (p parallels) profile(angle float64, reach int) []float64 {
	sin, cos := math.Sincos(angle * math.Pi / 180)
	const halfPixel = 1 << (placeBits - 1)
	s, c := int(math.Round(sin*halfPixel)), int(math.Round(cos*halfPixel))
	// A word holds the sum of changes in its upper half, and below it the sum of what of
	// them is the next pixel's, so that there is one addition for each edge.
	packed := make([]int64, 2*reach+2)
	for _, e := range p.edges {
		at := int(e.across)*c - int(e.along)*s + reach<<placeBits
		share := int64(at >> (placeBits - shareBits) & (1<<shareBits - 1))
		packed[at>>placeBits] += int64(e.change) * (1<<32 + share)
	}
	profile := make([]float64, len(packed))
	fromBefore := 0.0
	for i, v := range packed {
		lower := int64(int32(v)) //nolint:gosec // the half that is wanted
		next := float64(lower) / (1 << shareBits)
		profile[i] = float64((v-lower)>>32) - next + fromBefore
		fromBefore = next
	}
	return profile
}

// refine finds the best angle near one: in steps, in finer steps around the best of
// them, and between these by the parabola through the three best.
func (e edges) refine(near float64) float64 {
	for _, step := range []float64{nearStep, fineStep} {
		scores := make([]float64, 2*stepsAround+1)
		best := 1
		for i := range scores {
			scores[i], _ = e.energy(near + float64(i-stepsAround)*step)
			if i > 0 && i < len(scores)-1 && scores[i] > scores[best] {
				best = i
			}
		}
		near += (float64(best-stepsAround) + vertex(scores[best-1], scores[best], scores[best+1])) * step
	}
	return near
}

// vertex is where between -0.5 and 0.5 the parabola through three values, a step apart,
// is highest.
func vertex(before, at, after float64) float64 {
	curve := before - 2*at + after
	if curve >= 0 {
		return 0
	}
	return max(-0.5, min(0.5, 0.5*(before-after)/curve))
}
