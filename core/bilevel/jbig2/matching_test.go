package jbig2

import (
	"image"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
)

// randomShape is a shape with pixels by chance, and the same as a bitmap.
func randomShape(random *rand.Rand, width, height int) (shape, *bilevel.Bitmap) {
	s := shape{width: width, height: height, rows: make([][2]uint64, height)}
	b := bilevel.New(width, height)
	for y := range height {
		for x := range width {
			if random.IntN(2) == 0 {
				s.set(x, y)
				b.Set(x, y)
				s.area++
			}
		}
	}
	return s, b
}

func isBlack(b *bilevel.Bitmap, x, y int) bool {
	return x >= 0 && y >= 0 && x < b.Width && y < b.Height && b.Black(x, y)
}

func TestDifferencesAreCountedPixelByPixel(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	for range 300 {
		one, oneBits := randomShape(random, 1+random.IntN(120), 1+random.IntN(40))
		other, otherBits := randomShape(random, max(1, one.width+random.IntN(3)-1), max(1, one.height+random.IntN(3)-1))
		for _, at := range shifts {
			want := 0
			for y := -2; y < 44; y++ { // from the bottom of the first
				for x := -2; x < 124; x++ {
					if isBlack(oneBits, x, one.height-1-y) != isBlack(otherBits, x-at[0], other.height-1-y-at[1]) {
						want++
					}
				}
			}
			assert.Equal(t, want, one.differs(other, at[0], at[1], 1<<20), "%v", at)
			assert.Greater(t, one.differs(other, at[0], at[1], want-1), want-1)
		}
	}
}

// component is the only one on a page with a letter at a place, and as much beside it as spots says.
func component(t *testing.T, letter *bilevel.Bitmap, spots ...[2]int) bilevel.Component {
	t.Helper()
	page := bilevel.New(100, 100)
	lay(page, letter, image.Pt(30, 40))
	for _, spot := range spots {
		page.Set(30+spot[0], 40+spot[1])
	}
	components := page.Components()
	require.Len(t, components, 1)
	return components[0]
}

func TestASpotBesideALetterDoesNotShiftIt(t *testing.T) {
	letter := bilevel.New(12, 20)
	for y := range letter.Height {
		for x := range letter.Width {
			if x < 3 || y > 16 {
				letter.Set(x, y)
			}
		}
	}
	plain := component(t, letter)
	var instances []instance
	for _, c := range []bilevel.Component{plain, plain, plain, component(t, letter, [2]int{-1, 5}, [2]int{4, 20})} {
		instances = append(instances, newInstance(c))
	}
	found := [][]instance{instances}
	set := symbolsOf(found)
	require.Len(t, set.all, 1)
	symbol := set.inOrder()[0]
	assert.True(t, symbol.isSame(shapeOf(plain)), "what most of them have")
	assert.Equal(t, 4, symbol.uses)
	assert.Equal(t, sides{left: 1, bottom: 1}, symbol.room, "for the spots")
	assert.Equal(t, instances[0].bitmap().Bits, symbol.bitmap.Bits)
	spotted := instances[3]
	assert.Equal(t, []int{1, -1}, []int{spotted.right, spotted.below}, "the letter is right of the corner, and above it")
	assert.NotEqual(t, spotted.bitmap().Bits, symbol.bitmap.Bits)
	assert.Equal(t, spotted.component.Area, countBlack(spotted.bitmap()), "it is whole within the room")
}

func countBlack(b *bilevel.Bitmap) (n int) {
	for y := range b.Height {
		for range b.Blacks(y) {
			n++
		}
	}
	return n
}

// TestShapesThatComeAgainExactlyAreSymbols has two shapes of a letter, which are alike enough for one symbol.
func TestShapesThatComeAgainExactlyAreSymbols(t *testing.T) {
	random := rand.New(rand.NewPCG(11, 1))
	shapes := []*bilevel.Bitmap{noise(random, 20, 30, 0.7)}
	shapes[0].Fill(image.Rect(0, 0, 20, 2)) // so that it is in one piece
	for range 2 {
		other := shapes[0].Clone()
		for range 12 {
			other.Set(random.IntN(20), random.IntN(30))
		}
		shapes = append(shapes, other)
	}
	page := func(times ...int) *bilevel.Bitmap {
		b := bilevel.New(2000, 600)
		at := image.Pt(10, 10)
		for i, n := range times {
			for range n {
				lay(b, shapes[i], at)
				if at.X += 40; at.X > 1950 {
					at = image.Pt(10, at.Y+50)
				}
			}
		}
		return b
	}
	for want, b := range map[int]*bilevel.Bitmap{2: page(200, 150, 2), 1: page(300)} {
		var instances []instance
		for _, c := range b.Components() {
			if c.Area >= smallestSymbol {
				instances = append(instances, newInstance(c))
			}
		}
		set := symbolsOf([][]instance{instances})
		large := slices.DeleteFunc(set.all, func(s *symbol) bool { return s.area < 100 })
		assert.Len(t, large, want)
		encoded := Encode([]*bilevel.Bitmap{b})
		requireSame(t, b, decoded(t, encoded.Shared, encoded.Pages[0]), "shapes")
	}
}
