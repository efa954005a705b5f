package demo

import (
	"bytes"
	"crypto/sha256"
	"image/jpeg"
	"testing"

	"dorbin/internal/sampling"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestPapersComeOutTheSame(t *testing.T) {
	sampling.Heavy(t)
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
	sampling.Heavy(t)
	data, err := insurance()
	require.NoError(t, err)
	config, err := jpeg.DecodeConfig(bytes.NewReader(data))
	require.NoError(t, err)
	assert.InDelta(t, 12, float64(config.Width*config.Height)/1e6, 0.5)
	assert.Greater(t, config.Width, config.Height, "the sensor saw it lying")
}
