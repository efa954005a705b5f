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
	for count, draw := range map[int]func() ([]Paper, error){10: Papers, 2: OldPapers} {
		first, err := draw()
		require.NoError(t, err)
		second, err := draw()
		require.NoError(t, err)
		require.Len(t, first, count)
		for i := range first {
			assert.Equal(t, sha256.Sum256(first[i].Data), sha256.Sum256(second[i].Data), first[i].Name)
		}
	}
}

func TestAPaperIsDrawnByItsName(t *testing.T) {
	old, err := Draw("receipt-1987.jpg")
	require.NoError(t, err)
	config, err := jpeg.DecodeConfig(bytes.NewReader(old.Data))
	require.NoError(t, err)
	assert.InDelta(t, 148*190/25.4, config.Width, 1)
	_, err = Draw("receipt-1887.jpg")
	assert.ErrorContains(t, err, "receipt-1887.jpg")
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
