package jbig2

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
)

// bitsOfAll is what all pixels of a bitmap take, each seen on its own.
func bitsOfAll(b *bilevel.Bitmap, taken pixelBits) (sum float64) {
	black := func(x, y int) uint32 {
		if x < 0 || x >= b.Width || y < 0 || !b.Black(x, y) {
			return 0
		}
		return 1
	}
	for y := range b.Height {
		for x := range b.Width {
			var seen uint32
			for right := -2; right <= 2; right++ {
				seen = seen<<1 | black(x+right, y-2)
			}
			for right := -3; right <= 3; right++ {
				seen = seen<<1 | black(x+right, y-1)
			}
			for right := -4; right < 0; right++ {
				seen = seen<<1 | black(x+right, y)
			}
			sum += float64(taken[seen][black(x, y)])
		}
	}
	return sum
}

func TestBitsSavedAreThoseOfAllPixels(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 1))
	for range 200 {
		b := noise(random, 1+random.IntN(12), 1+random.IntN(6), 0.5)
		d := newDecider(b)
		for i := range d.bits {
			d.bits[i] = [2]float32{random.Float32(), random.Float32()}
		}
		x, y := random.IntN(b.Width), random.IntN(b.Height)
		for row := 2; row <= y+2; row++ {
			d.load(b, row)
		}
		before := bitsOfAll(b, d.bits)
		saves := d.saves(x, b.Width, b.Height-y)
		b.Row(y)[x>>3] ^= 0x80 >> (x & 7)
		require.InDelta(t, before-bitsOfAll(b, d.bits), saves, 1e-3, "%d, %d of %d by %d", x, y, b.Width, b.Height)
	}
}

// TestUndecidedPixelsTakeFewerBits writes text some of whose edges are noisy: there they are undecided.
func TestUndecidedPixelsTakeFewerBits(t *testing.T) {
	random := rand.New(rand.NewPCG(9, 1))
	page := textPages(t, 1, 0)[0]
	page.Height, page.Bits = 800, page.Bits[:800*page.Stride]
	paper := page.Clone()
	paper.Invert()
	noisy, undecided := page.Clone(), bilevel.New(page.Width, page.Height)
	for _, side := range []*bilevel.Bitmap{page, paper} {
		near := side.Thickened()
		for y := range page.Height {
			for x := range near.Blacks(y) {
				if side.Black(x, y) || random.Float64() > 0.2 {
					continue
				}
				undecided.Set(x, y)
				if random.Float64() < 0.5 {
					noisy.Row(y)[x>>3] ^= 0x80 >> (x & 7)
				}
			}
		}
	}
	decided := noisy.Clone()
	Decide(decided, undecided)
	for i := range decided.Bits {
		require.Zero(t, (decided.Bits[i]^noisy.Bits[i])&^undecided.Bits[i], "what was decided stays")
	}
	assert.InEpsilon(t, countBlack(noisy), countBlack(decided), 1e-3)
	assert.Less(t, len(EncodePage(decided)), len(EncodePage(noisy))*8/10)
	assert.Less(t, Encode([]*bilevel.Bitmap{decided}).Bytes(), Encode([]*bilevel.Bitmap{noisy}).Bytes()*9/10)

	same := noisy.Clone()
	Decide(same, bilevel.New(page.Width, page.Height))
	assert.Equal(t, noisy.Bits, same.Bits)
}

func BenchmarkDecide(b *testing.B) {
	page := textPages(b, 1, 25)[0]
	undecided := bilevel.New(page.Width, page.Height)
	edge := page.Thickened()
	for y := range page.Height {
		for x := range edge.Blacks(y) {
			if !page.Black(x, y) {
				undecided.Set(x, y)
			}
		}
	}
	for b.Loop() {
		Decide(page.Clone(), undecided)
	}
}
