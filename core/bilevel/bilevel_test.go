package bilevel

import (
	"image"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func randomBitmap(seed uint64, width, height int, meanRun float64) *Bitmap {
	random := rand.New(rand.NewPCG(seed, 7))
	b := New(width, height)
	for y := range height {
		if y > 0 && random.IntN(3) > 0 { // most rows resemble the one above
			copy(b.Row(y), b.Row(y-1))
		}
		for x := 0; x < width; {
			run := 1 + int(random.ExpFloat64()*meanRun)
			if random.IntN(2) == 0 {
				fill(b.Row(y), x, min(x+run, width))
			}
			x += run
		}
	}
	return b
}

func TestG4RoundTrip(t *testing.T) {
	for seed, size := range [][2]int{{1, 1}, {7, 3}, {8, 8}, {9, 40}, {333, 100}, {2480, 60}, {6000, 12}, {31, 1}} {
		for _, meanRun := range []float64{0.5, 4, 60, 3000} {
			b := randomBitmap(uint64(seed), size[0], size[1], meanRun)
			decoded, err := Decode(EncodeG4(b), b.Width, b.Height, Coding{Group4: true})
			require.NoError(t, err, "%v at %v", size, meanRun)
			assert.Equal(t, b.Bits, decoded.Bits, "%v at %v", size, meanRun)
		}
	}
}

func TestBlankPageIsOneBitARow(t *testing.T) {
	encoded := EncodeG4(New(2480, 3508))
	assert.LessOrEqual(t, len(encoded), 3508/8+4)
}

func TestTruncatedDataKeepsWhatWasDecoded(t *testing.T) {
	b := randomBitmap(3, 500, 200, 10)
	encoded := EncodeG4(b)
	decoded, err := Decode(encoded[:len(encoded)/2], b.Width, b.Height, Coding{Group4: true})
	require.ErrorIs(t, err, ErrCorrupt)
	assert.Equal(t, b.Row(10), decoded.Row(10))
}

func TestInvertLeavesPaddingWhite(t *testing.T) {
	b := New(10, 2)
	b.Set(3, 1)
	b.Invert()
	assert.False(t, b.Black(3, 1))
	assert.True(t, b.Black(9, 0))
	assert.Equal(t, byte(0xC0), b.Bits[1])
	assert.Equal(t, uint8(0), b.Gray().GrayAt(0, 0).Y)
}

func FuzzDecode(f *testing.F) {
	f.Add(EncodeG4(randomBitmap(1, 64, 20, 5)), uint16(64), uint16(20), byte(1))
	f.Add([]byte{0, 1, 0x80, 0xFF}, uint16(9), uint16(3), byte(2))
	f.Fuzz(func(t *testing.T, data []byte, width, height uint16, flags byte) {
		w, h := int(width%3000)+1, int(height%300)+1
		coding := Coding{Group4: flags&1 > 0, TwoDimensional: flags&2 > 0, ByteAligned: flags&4 > 0, ReversedBits: flags&8 > 0}
		b, err := Decode(data, w, h, coding)
		if err != nil {
			require.ErrorIs(t, err, ErrCorrupt)
		}
		again, err := Decode(EncodeG4(b), w, h, Coding{Group4: true})
		require.NoError(t, err)
		require.Equal(t, b.Bits, again.Bits)
	})
}

func BenchmarkDecodeG4(b *testing.B) {
	encoded := EncodeG4(randomBitmap(5, 2480, 3508, 40))
	for b.Loop() {
		if _, err := Decode(encoded, 2480, 3508, Coding{Group4: true}); err != nil {
			b.Fatal(err)
		}
	}
}

func TestGreyIsMadeBilevelAndBack(t *testing.T) {
	random := rand.New(rand.NewPCG(6, 2))
	for width := range 40 {
		gray := image.NewGray(image.Rect(0, 0, width+1, 3))
		for i := range gray.Pix {
			gray.Pix[i] = uint8(random.IntN(256))
		}
		b := FromGray(gray)
		again := b.Gray()
		for y := range 3 {
			for x := range width + 1 {
				isBlack := gray.GrayAt(x, y).Y < 0x80
				assert.Equal(t, isBlack, b.Black(x, y), "%d, %d of %d", x, y, width)
				assert.Equal(t, isBlack, again.GrayAt(x, y).Y == 0)
			}
		}
	}
}
