package jbig2

import (
	"fmt"
	"image"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/bilevel"
)

// screened is a picture of dots that are larger where it is darker, so many pixels from each other, with noise.
func screened(random *rand.Rand, width, height int, period float64) *bilevel.Bitmap {
	b := bilevel.New(width, height)
	for y := range height {
		for x := range width {
			level := 0.5 + 0.4*math.Sin(float64(x)/90)*math.Cos(float64(y)/70) + 0.05*random.NormFloat64()
			u, v := float64(x+y)/period/math.Sqrt2, float64(x-y)/period/math.Sqrt2
			if level < 0.5+0.25*(math.Cos(2*math.Pi*u)+math.Cos(2*math.Pi*v)) {
				b.Set(x, y)
			}
		}
	}
	return b
}

func TestFirstAdaptivePixelMayBeElsewhere(t *testing.T) {
	b := screened(rand.New(rand.NewPCG(1, 1)), 61, 37, 4)
	for _, place := range []image.Point{{0, -1}, {-16, -16}, {16, -16}, {-16, -1}, {16, -1}, {4, -1}, {-3, -7}, {0, -16}} {
		moved := more
		moved.first = place
		page := segment(nil, 0, pageInformation, thePage, nil, page(b))
		page = segment(page, 1, immediateGenericRegion, thePage, nil, genericRegionBy(b, &moved))
		requireSame(t, b, decoded(t, nil, page), fmt.Sprint(place))
		requireDecodes(t, b, nil, page, fmt.Sprint(place))
	}
	for _, place := range []image.Point{{0, 0}, {-1, 0}, {17, -1}, {-17, -1}, {0, -17}, {0, 1}} {
		far := more
		far.first = place
		_, _, err := templateOf(0, far.adaptive())
		require.ErrorIs(t, err, ErrDamaged, place)
	}
}

func TestScreenedPicturesTakeFewerBytes(t *testing.T) {
	for _, period := range []float64{4, 5.3, 8, 11.3} {
		b := screened(rand.New(rand.NewPCG(2, 2)), 600, 500, period)
		usual := min(len(genericRegionBy(b, &more)), len(genericRegionBy(b, &fewer)))
		assert.Less(t, float64(len(genericRegion(b))), 0.93*float64(usual), "dots %v pixels from each other", period)
		requireSame(t, b, decoded(t, nil, EncodePage(b)), "dots")
		requireDecodes(t, b, nil, EncodePage(b), "dots")
	}
}

func TestNothingIsTriedOnNoise(t *testing.T) {
	random := rand.New(rand.NewPCG(3, 3))
	for _, b := range []*bilevel.Bitmap{
		bilevel.New(1, 1), bilevel.New(300, 200), noise(random, 300, 200, 0.5), noise(random, 1, 500, 0.5), noise(random, 500, 1, 0.5),
	} {
		assert.Nil(t, more.moved(b, len(genericRegionBy(b, &more))))
	}
}
