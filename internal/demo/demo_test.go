package demo

import (
	"bytes"
	"crypto/sha256"
	"image/jpeg"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPapersComeOutTheSame(t *testing.T) {
	first, err := Papers()
	require.NoError(t, err)
	second, err := Papers()
	require.NoError(t, err)
	require.Len(t, first, 10)
	for i := range first {
		assert.Equal(t, sha256.Sum256(first[i].Data), sha256.Sum256(second[i].Data), first[i].Name)
	}
}

func TestTheCertificateIsAbout12Megapixels(t *testing.T) {
	data, err := insurance()
	require.NoError(t, err)
	config, err := jpeg.DecodeConfig(bytes.NewReader(data))
	require.NoError(t, err)
	assert.InDelta(t, 12, float64(config.Width*config.Height)/1e6, 0.5)
	assert.Greater(t, config.Width, config.Height, "the sensor saw it lying")
}

func TestHomographyMapsCornersToCorners(t *testing.T) {
	corners := [4]point{{420, 560}, {2640, 700}, {2770, 3560}, {250, 3640}}
	m := homography(corners, 1000, 1400)
	for i, want := range [4]point{{0, 0}, {1000, 0}, {1000, 1400}, {0, 1400}} {
		u, v := m.apply(corners[i].x, corners[i].y)
		assert.InDelta(t, want.x, u, 1e-6)
		assert.InDelta(t, want.y, v, 1e-6)
	}
}
