package jpeg

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// costOf is what levels cost for coefficients, in bits, as they would be written.
func (t *trellis) costOf(coefficients, levels *[64]int16) (cost float64) {
	for k := t.first; k <= t.last; k++ {
		off := float64(coefficients[k])/float64(t.step[k]) - float64(levels[k])
		cost += float64(t.weight[k]) * off * off
	}
	var w writer
	w.tellFirst(pass{first: t.first, last: t.last}, levels)
	for _, token := range w.tokens {
		if token.symbol == sixteenZeros {
			cost += float64(t.zeroRun)
		} else {
			cost += float64(t.bits[token.symbol])
		}
	}
	if w.eobRun > 0 {
		cost += float64(t.end)
	}
	return cost
}

// leastOf tries all levels that coefficients may have from one on.
func (t *trellis) leastOf(coefficients, levels *[64]int16, from int) float64 {
	if from > t.last {
		return t.costOf(coefficients, levels)
	}
	nearest := nearestLevel(int32(coefficients[from]), t.step[from])
	below := nearest
	if nearest != 0 {
		below -= nearest / int16(abs(int32(nearest)))
	}
	least := math.Inf(1)
	for _, level := range []int16{0, nearest, below} {
		levels[from] = level
		least = min(least, t.leastOf(coefficients, levels, from+1))
	}
	levels[from] = 0
	return least
}

func TestLevelsCostLeast(t *testing.T) {
	t.Parallel()
	random := rand.New(rand.NewPCG(7, 1))
	quants := quantsFor(50)[0]
	const blocks = 60
	c := &component{ownWide: blocks, ownHigh: 1, wide: blocks, coefficients: make([]int16, 64*blocks)}
	for i := range c.coefficients {
		c.coefficients[i] = int16(random.NormFloat64() * 300)
	}
	for _, p := range []pass{{first: 1, last: 8}, {first: 40, last: 47}, {first: 56, last: 63}} {
		for _, every := range []int{1, 3} { // coefficients that are not 0
			tr := newTrellis(p, &quants)
			for i := range c.coefficients {
				if i%every > 0 {
					c.coefficients[i] = 0
				}
			}
			tr.learn(c)
			fewer := 0
			for x := range blocks {
				exact, plain := *c.block(x, 0), [64]int16{}
				for k := p.first; k <= p.last; k++ {
					plain[k] = nearestLevel(int32(exact[k]), tr.step[k])
				}
				chosen := exact
				tr.quantise(&chosen)
				cost := tr.costOf(&exact, &chosen)
				require.InDelta(t, tr.leastOf(&exact, &[64]int16{}, p.first), cost, 1e-3)
				if cost < tr.costOf(&exact, &plain)-1e-3 {
					fewer++
				}
			}
			assert.Positive(t, fewer, "blocks whose levels are not all the nearest")
		}
	}
}

// TestLongRunsOfZerosAreCounted has two coefficients with more than sixteen zeros between them.
func TestLongRunsOfZerosAreCounted(t *testing.T) {
	t.Parallel()
	quants := quantsFor(90)[0]
	tr := newTrellis(pass{first: 1, last: 63}, &quants)
	for i := range tr.bits {
		tr.bits[i] = 4
	}
	tr.end = 2
	exact := [64]int16{1: int16(tr.step[1]) * 3, 40: int16(tr.step[40]) * 7 / 10}
	for zeroRun, want := range map[float32]int16{1: 1, 1000: 0} {
		tr.zeroRun = zeroRun
		chosen := exact
		tr.quantise(&chosen)
		assert.Equal(t, [64]int16{1: 3, 40: want}, chosen, "sixteen zeros take %v bits", zeroRun)
	}
}
