package jpeg

import "math"

// Trellis quantisation: a coefficient need not become the level that is nearest to it. The one below, or 0, may take so
// many fewer bits that the picture is better for it if these are spent elsewhere. Of the levels that the coefficients of a
// scan may have in a block, those are chosen for which distortion and bits together cost least. Dynamic programming finds
// them: the best choice up to a coefficient goes on from the best choice up to one of those before it.

const (
	// bitWorth is the distortion that is worth a bit, as the square of a difference in levels. By the sum of squares
	// alone it would be 0.1; with less of it, details that are seen stay.
	bitWorth = 0.04
	// leastWeight is what a difference counts at least, against the mean. Without it, light that falls off slowly would
	// become steps from block to block.
	leastWeight = 0.5
	// mostSaved is more bits than are saved where a coefficient becomes 0.
	mostSaved = 24
	// rowsLearnt is how many rows of blocks, at most, tell how often symbols come.
	rowsLearnt = 64
)

// trellis quantises what a scan tells of a component's blocks.
type trellis struct {
	first, last int         // coefficients, in zigzag order
	step        [64]int32   // from level to level, in the unit of the coefficients
	weight      [64]float32 // of the square of a difference in levels, in bits
	// About how many bits are taken by a symbol and what follows it, by sixteen zeros, and by the end of a block.
	bits         [256]float32
	zeroRun, end float32
}

// newTrellis weighs the square of a difference in levels by its quantiser. That is between two extremes: where levels of all
// coefficients count alike, bits go where they change few samples; by the square of the quantiser, which is what the samples
// change by, fine details are lost first.
func newTrellis(p pass, quants *[64]uint16) *trellis {
	t := &trellis{first: p.first, last: p.last}
	mean := float32(0)
	for _, q := range quants[1:] {
		mean += float32(q) / 63
	}
	for k := range t.step {
		q := quants[zigzag[k]]
		t.step[k] = transformScale * int32(q)
		t.weight[k] = max(leastWeight, float32(q)/mean) / bitWorth
	}
	return t
}

// learn estimates bits from how often symbols come where each coefficient becomes the nearest level. Of large pictures it
// takes some rows of blocks.
func (t *trellis) learn(c *component) {
	var w writer
	var b [64]int16
	ended := 0
	for y := 0; y < c.ownHigh; y += ceil(c.ownHigh, rowsLearnt) {
		for x := range c.ownWide {
			for k := t.first; k <= t.last; k++ {
				b[k] = nearestLevel(int32(c.block(x, y)[k]), t.step[k])
			}
			if b[t.last] == 0 {
				ended++
			}
			w.tellFirst(pass{first: t.first, last: t.last}, &b)
			w.tokens = w.tokens[:0] // only counted
		}
	}
	w.endRun()
	t.estimate(&w.counts[1], ended)
}

// estimate takes how often symbols come, and how many blocks end before their last coefficient. Runs of these have symbols
// together.
func (t *trellis) estimate(counts *[257]int, ended int) {
	all := 0
	for _, n := range counts {
		all += n
	}
	ends := float32(0)
	for symbol := range t.bits {
		n, following := counts[symbol], symbol&15
		own := float32(math.Log2(float64(all+len(counts)) / float64(n+1)))
		switch {
		case symbol == sixteenZeros:
			t.zeroRun = own
		case following == 0:
			ends += float32(n) * (own + float32(symbol>>4))
		default:
			t.bits[symbol] = own + float32(following)
		}
	}
	t.end = ends / float32(max(1, ended))
}

// choice is a level other than 0 of a coefficient, with the best choices before it.
type choice struct {
	k      int
	level  int16
	before int     // the choice before it, by its place among all
	cost   float32 // in bits, more than that of zeros alone
	isSure bool    // 0 instead would cost more than it could save
}

// quantise chooses the levels of a block.
func (t *trellis) quantise(b *[64]int16) {
	var choices [64]choice
	choices[0].k = t.first - 1
	n := 1
	for k := t.first; k <= t.last; k++ {
		value := int32(b[k])
		b[k] = 0
		if 2*abs(value) < t.step[k] {
			continue
		}
		choices[n] = t.best(k, value, choices[:n])
		n++
	}
	for i := t.lastOf(choices[:n]); i > 0; i = choices[i].before {
		b[choices[i].k] = choices[i].level
	}
}

// lastOf gives the choice after which it is best to end.
func (t *trellis) lastOf(choices []choice) (last int) {
	least := float32(math.MaxFloat32)
	for i := len(choices) - 1; i >= 0; i-- {
		cost := choices[i].cost
		if choices[i].k < t.last {
			cost += t.end
		}
		if cost < least {
			last, least = i, cost
		}
		if choices[i].isSure {
			break
		}
	}
	return last
}

// best chooses a level of a coefficient that comes after other choices, and which of these it goes on from.
func (t *trellis) best(k int, value int32, before []choice) choice {
	exact := float32(abs(value)) / float32(t.step[k])
	zero := t.weight[k] * exact * exact
	found := choice{k: k, cost: math.MaxFloat32, isSure: zero > mostSaved}
	nearest := nearestLevel(abs(value), t.step[k])
	for level := nearest; level >= max(1, nearest-1); level-- {
		off := exact - float32(level)
		more := t.weight[k]*off*off - zero
		size, _ := sized(int32(level))
		for i := len(before) - 1; i >= 0; i-- {
			zeros := k - before[i].k - 1
			cost := before[i].cost + more + t.bits[zeros&15<<4|size] + float32(zeros>>4)*t.zeroRun
			if cost < found.cost {
				found.cost, found.before, found.level = cost, i, level
			}
			if before[i].isSure {
				break
			}
		}
	}
	if value < 0 {
		found.level = -found.level
	}
	return found
}

func abs(v int32) int32 {
	if v < 0 {
		return -v
	}
	return v
}

// nearestLevel divides a coefficient by the step from level to level (A.3.4). Most become 0, which takes no division to
// tell.
func nearestLevel(value, step int32) int16 {
	switch half := step / 2; {
	case value > -half && value < half:
		return 0
	case value < 0:
		return int16(-((half - value) / step)) //nolint:gosec // 11 bits
	default:
		return int16((half + value) / step) //nolint:gosec // 11 bits
	}
}
