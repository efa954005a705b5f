package jpeg

import (
	"bytes"
	"fmt"
	"os/exec"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// coefficients are those that libjpeg reads, in a file of its own.
func coefficients(t testing.TB, data []byte) []byte {
	t.Helper()
	return run(t, data, "jpegtran", "-copy", "none", "-optimize")
}

func TestRepackedPicturesHaveTheSameCoefficients(t *testing.T) {
	t.Parallel()
	for kind := range kinds {
		for _, size := range [][2]int{{8, 8}, {17, 5}, {101, 203}, {320, 240}} {
			t.Run(fmt.Sprint(kind, size), func(t *testing.T) {
				t.Parallel()
				data := made(t, kind, size[0], size[1])
				small, err := Repack(data)
				if err != nil {
					require.ErrorIs(t, err, ErrNotSmaller)
					require.True(t, size[0] < 100 || strings.Contains(kind, "progressive") || kind == "optimised", "of this size there is something to gain")
					return
				}
				require.Less(t, len(small), len(data))
				assert.True(t, bytes.Equal(coefficients(t, data), coefficients(t, small)), "libjpeg reads other coefficients")
				before, err := decoded(data, Full)
				require.NoError(t, err)
				after, err := decoded(small, Full)
				require.NoError(t, err)
				_, colours := libjpegs(t, data)
				assert.Equal(t, pixelsOf(before, colours), pixelsOf(after, colours))
			})
		}
	}
}

func TestWhatIsToldAboutAPictureStays(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 320, 240)
	comment := []byte{0xFF, 0xFE, 0, 5, 'o', 'u', 'r'}
	data = slice(data[:2], comment, data[2:])
	small, err := Repack(data)
	require.NoError(t, err)
	assert.Contains(t, string(small), string(comment))
	_, err = Repack(small)
	require.ErrorIs(t, err, ErrNotSmaller, "it is as small as it can be")
}

func TestDamagedPicturesAreNotRepacked(t *testing.T) {
	t.Parallel()
	data := made(t, "4:2:0", 320, 240)
	_, err := Repack(data[:len(data)/2])
	var damaged *DamagedError
	require.ErrorAs(t, err, &damaged)
	_, err = Repack([]byte("no picture"))
	require.ErrorIs(t, err, ErrNotJPEG)
}

func TestCodesAreTheBest(t *testing.T) {
	var counts [257]int
	counts['a'], counts['b'], counts['c'], counts['d'] = 100, 50, 20, 5
	lengths := lengthsOf(&counts)
	assert.Equal(t, []int{1, 2, 3, 4}, []int{lengths['a'], lengths['b'], lengths['c'], lengths['d']}, "ones alone are no code")
	assert.Nil(t, lengthsOf(&[257]int{}))
	// As in Fibonacci's numbers, codes would be longer than they may be.
	counts = [257]int{1, 1}
	for i := 2; i < 40; i++ {
		counts[i] = counts[i-1] + counts[i-2]
	}
	room := 0.0
	for _, length := range lengthsOf(&counts)[:40] {
		require.Positive(t, length)
		require.LessOrEqual(t, length, longestCode)
		room += 1 / float64(int(1)<<length)
	}
	assert.Less(t, room, 1.0)
}

func FuzzRepack(f *testing.F) {
	for kind := range kinds {
		if _, err := exec.LookPath("cjpeg"); err == nil {
			f.Add(made(f, kind, 20, 17))
		}
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		picture, err := Open(data)
		if err != nil || picture.Width*picture.Height > 1<<16 {
			return
		}
		small, err := Repack(data)
		if err != nil {
			return
		}
		before, err := picture.Decode(Full)
		require.NoError(t, err)
		after, err := decoded(small, Full)
		require.NoError(t, err)
		require.Equal(t, before.Bounds(), after.Bounds())
		size := before.Bounds().Size()
		for y := range size.Y {
			for x := range size.X {
				require.Equal(t, before.At(x, y), after.At(x, y))
			}
		}
	})
}

func BenchmarkRepack(b *testing.B) {
	for _, quality := range []int{75, 90} {
		b.Run(strconv.Itoa(quality), func(b *testing.B) {
			data := paper(b, "-quality", strconv.Itoa(quality))
			var small []byte
			for b.Loop() {
				var err error
				small, err = Repack(data)
				require.NoError(b, err)
			}
			b.ReportMetric(float64(len(small))/float64(len(data)), "of-bytes")
			theirs := run(b, data, "jpegtran", "-copy", "none", "-progressive")
			b.ReportMetric(float64(len(theirs))/float64(len(data)), "jpegtran")
		})
	}
}
