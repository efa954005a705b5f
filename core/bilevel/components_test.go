package bilevel

import (
	"image"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func drawn(picture string) *Bitmap {
	rows := strings.Fields(picture)
	b := New(len(rows[0]), len(rows))
	for y, row := range rows {
		for x := range row {
			if row[x] == '#' {
				b.Set(x, y)
			}
		}
	}
	return b
}

func TestComponents(t *testing.T) {
	b := drawn(`
		#..#....
		#..#.##.
		####..#.
		.......#
		.#......
		#.#.....`)
	components := b.Components()
	require.Len(t, components, 3)
	for i, want := range []Component{
		{Box: image.Rect(0, 0, 4, 3), Area: 8}, {Box: image.Rect(5, 1, 8, 4), Area: 4}, {Box: image.Rect(0, 4, 3, 6), Area: 3},
	} {
		assert.Equal(t, want.Box, components[i].Box)
		assert.Equal(t, want.Area, components[i].Area)
	}
	assert.Equal(t, drawn("#..# #..# ####").Bits, components[0].Bitmap().Bits)
}

func TestComponentsAreAllThatIsBlack(t *testing.T) {
	for seed := range uint64(20) {
		b := randomBitmap(seed, 130, 90, 4)
		left, again := b.Clone(), New(b.Width, b.Height)
		for _, c := range b.Components() {
			area := 0
			for _, r := range c.Runs {
				fill(again.Row(r.Y), r.From, r.To)
				area += r.To - r.From
			}
			require.Equal(t, c.Area, area)
			left.Erase(c)
		}
		require.Equal(t, b.Bits, again.Bits)
		require.Equal(t, New(b.Width, b.Height).Bits, left.Bits)
	}
}

func TestThickened(t *testing.T) {
	for seed, width := range []int{61, 5, 64, 71, 130, 200} {
		b := randomBitmap(uint64(seed), width, 20, 9) //nolint:gosec // not negative
		thick := b.Thickened()
		for y := range b.Height {
			for x := range b.Width {
				want := false
				for v := max(0, y-1); v <= min(b.Height-1, y+1); v++ {
					for u := max(0, x-1); u <= min(b.Width-1, x+1); u++ {
						want = want || b.Black(u, v)
					}
				}
				require.Equal(t, want, thick.Black(x, y), "%d, %d", x, y)
			}
		}
		require.Equal(t, b.Width, thick.Width)
	}
}
