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
