package raster

import (
	"image"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// strip draws lines of bars like writing on a light ground, with so many rows for each, and a ruled edge; a
// line is blank where skip says so.
func strip(width, height, pitch int, ground uint8, skip func(line int) bool) *image.Gray {
	img := image.NewGray(image.Rect(0, 0, width, height))
	random := rand.New(rand.NewPCG(1, 2))
	for y := range height {
		for x := range width {
			img.Pix[y*img.Stride+x] = ground + uint8(random.IntN(3)) //nolint:gosec // below 3
			inLine := y%pitch >= pitch/4 && y%pitch < 3*pitch/4
			if x == width/20 || inLine && !skip(y/pitch) && x > width/10 && x < 9*width/10 && x%6 < 3 {
				img.Pix[y*img.Stride+x] = 30
			}
		}
	}
	return img
}

func TestBreaksAreBetweenLinesAndPiecesFitOnTheSheet(t *testing.T) {
	const width, pitch, highest = 400, 20, 1.414
	for name, skip := range map[string]func(int) bool{
		"even lines": func(int) bool { return false },
		"paragraphs": func(line int) bool { return line%9 == 8 },
	} {
		for _, height := range []int{566, 567, 620, 1140, 1400, 8000} {
			img := strip(width, height, pitch, 240, skip)
			breaks := FindBreaks(img, highest)
			if height <= 566 {
				assert.Nil(t, breaks, name)
				continue
			}
			last := 0
			for _, share := range append(breaks, 1) {
				y := int(share*float64(height) + 0.5)
				require.LessOrEqual(t, float64(y-last), highest*width+1, "%s: a piece of %d", name, height)
				require.GreaterOrEqual(t, y-last, 56, "%s: a piece of %d", name, height)
				last = y
			}
			for _, share := range breaks {
				y := int(share*float64(height) + 0.5)
				within := y % pitch
				assert.False(t, !skip(y/pitch) && within >= pitch/4 && within < 3*pitch/4, "%s: cut through a line of %d at %.4f", name, height, share)
			}
			assert.LessOrEqual(t, len(breaks)+1, int(float64(height)/(0.8*highest*width))+1, "%s: as few pieces as can be", name)
		}
	}
}

func TestBreaksPreferBlankLines(t *testing.T) {
	img := strip(400, 1000, 20, 240, func(line int) bool { return line == 24 || line == 25 })
	breaks := FindBreaks(img, 1.414)
	require.Len(t, breaks, 1)
	assert.InDelta(t, 500, breaks[0]*1000, 30)
}

func TestPicturesWithoutQuietPlacesAreCutAllTheSame(t *testing.T) {
	img := image.NewGray(image.Rect(0, 0, 100, 1000))
	random := rand.New(rand.NewPCG(3, 4))
	for i := range img.Pix {
		img.Pix[i] = uint8(random.IntN(256)) //nolint:gosec // below 256
	}
	breaks := FindBreaks(img, 1.414)
	assert.GreaterOrEqual(t, len(breaks), 7)
	assert.IsIncreasing(t, breaks)
	assert.Len(t, FindBreaks(image.NewGray(image.Rect(0, 0, 100, 1000)), 1.414), 7, "a blank one")
	assert.Nil(t, FindBreaks(image.NewGray(image.Rect(0, 0, 0, 0)), 1.414))
	assert.NotNil(t, FindBreaks(image.NewGray(image.Rect(0, 0, 1, 1000)), 1.414), "a line")
}
