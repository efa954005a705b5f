package jbig2

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestWhatIsSeenIsWhatTheCoderSees(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 1))
	var w workspace
	for range 100 {
		one, _ := randomShape(random, 2+random.IntN(30), 2+random.IntN(30))
		other, _ := randomShape(random, one.width+random.IntN(3)-1, one.height+random.IntN(3)-1)
		right, down := random.IntN(3)-1, random.IntN(3)-1
		left, top := min(0, right), min(0, down)
		width, height := max(one.width, right+other.width)-left, max(one.height, down+other.height)-top
		b, from := one.bitmapAt(width, height, -left, -top), other.bitmapAt(width, height, right-left, down-top)

		var want []uint16
		r := newRefiner(b, from, 0, 0)
		for y := range height {
			r.beginRow(y)
			r.row.unpack(b.Row(y), width)
			for x := range width {
				want = append(want, uint16(r.context(x)<<1)|uint16(r.row[margin+x])) //nolint:gosec // eleven bits
				r.left = uint32(r.row[margin+x])
			}
		}
		assert.Equal(t, want, w.seenBeside(w.unpack(one), new(workspace).unpack(other), right, down))
	}
}

func TestWhatIsSeenWithoutASymbol(t *testing.T) {
	neighbours := [][2]int{{-1, 0}, {-2, 0}, {2, -1}, {1, -1}, {0, -1}, {-1, -1}, {-2, -1}, {1, -2}, {0, -2}, {-1, -2}}
	s, b := randomShape(rand.New(rand.NewPCG(4, 1)), 21, 17)
	var want []uint16
	for y := range b.Height + 2 {
		for x := -1; x <= b.Width; x++ {
			var seen uint16
			for i, n := range neighbours {
				if isBlack(b, x+n[0], y+n[1]) {
					seen |= 2 << i
				}
			}
			if isBlack(b, x, y) {
				seen |= 1
			}
			want = append(want, seen)
		}
	}
	assert.Equal(t, want, new(workspace).generic(new(workspace).unpack(s)))
}

func TestWhatIsRareTakesMore(t *testing.T) {
	one, other := &tally{}, &tally{}
	one.add([]uint16{6, 6, 6, 6, 6, 7})
	other.add([]uint16{6, 6, 8, 9})
	bits := bitsOf([]*tally{one, other})
	assert.Less(t, bits[6], cost(oneBit/2))
	assert.Greater(t, bits[7], cost(2*oneBit))
	assert.Equal(t, cost(oneBit), bits[8], "both as often")
	assert.Equal(t, cost(oneBit), bits[100], "never seen")
	assert.Equal(t, bits[6]+2*bits[8], bits.of([]uint16{6, 8, 8}))
}

func TestSymbolsThatDoNotPayAreLeftOut(t *testing.T) {
	random := rand.New(rand.NewPCG(5, 1))
	letter, seldom := component(t, noise(random, 20, 20, 0.7)), component(t, noise(random, 20, 20, 0.7))
	set := newSymbolSet()
	ofLetter, ofSeldom := set.add(&symbol{shape: shapeOf(letter)}), set.add(&symbol{shape: shapeOf(seldom)})
	var instances []instance
	for range 30 {
		in := newInstance(letter)
		in.match = match{symbol: ofLetter}
		instances = append(instances, in)
	}
	once := newInstance(seldom)
	once.match = match{symbol: ofSeldom}
	found := [][]instance{append(instances, once)}
	set.count(found)
	set.leaveOut(found, genericCosts(found))
	assert.Equal(t, []*symbol{ofLetter}, set.all, "one that is used once takes as much as it saves")
	assert.Nil(t, found[0][30].symbol, "its instance stays where it is")
	assert.Equal(t, ofLetter, found[0][29].symbol)
	assert.Greater(t, set.saves, cost(30*80*oneBit), "what each letter takes otherwise")
}
