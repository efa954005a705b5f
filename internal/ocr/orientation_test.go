package ocr

import (
	"image"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
)

func TestOrientationOfAPage(t *testing.T) {
	page := written(t, 1000, 700,
		"The members of the rowing club have met on the second of May, and have",
		"agreed that the roof of the boathouse is to be repaired before winter.",
		"Three builders were asked for their prices, and the lowest of them has",
		"been taken; the work begins when the grant has been given to the club.",
		"Whoever can lend a hand with the clearing of the loft is to say so soon.")
	for _, turn := range []int{0, 90, 180, 270} {
		o, ok, err := Reader{}.Orientation(t.Context(), raster.Turn(page, turn))
		require.NoError(t, err)
		require.True(t, ok)
		assert.Equal(t, (360-turn)%360, o.Turn)
		assert.Greater(t, o.Confidence, 3.0)
	}
}

func TestNoOrientationWithoutWriting(t *testing.T) {
	_, ok, err := Reader{}.Orientation(t.Context(), image.NewGray(image.Rect(0, 0, 600, 600)))
	require.NoError(t, err)
	assert.False(t, ok)
	_, _, err = Reader{Program: "no-such-program"}.Orientation(t.Context(), image.NewGray(image.Rect(0, 0, 600, 600)))
	assert.ErrorIs(t, err, ErrNotInstalled)
}

func FuzzOrientation(f *testing.F) {
	f.Add("Page number: 0\nOrientation in degrees: 90\nRotate: 270\nOrientation confidence: 5.46\nScript: Latin\n")
	f.Add("Rotate: 45\nOrientation confidence: NaN\n")
	f.Add("Rotate: 90\nOrientation confidence: -1\n")
	f.Fuzz(func(t *testing.T, report string) {
		o, ok := parseOrientation(report)
		if ok {
			assert.Contains(t, []int{0, 90, 180, 270}, o.Turn)
			assert.GreaterOrEqual(t, o.Confidence, 0.0)
		}
	})
}
