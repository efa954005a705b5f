package app_test

import (
	"image"
	"image/color"
	"image/draw"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/sampling"
)

// scannedAgain is a scan as another one of the same sheet would be: elsewhere on the glass, darker,
// with other noise.
func scannedAgain(scan image.Image) image.Image {
	gray := raster.ToGray(scan)
	random := rand.New(rand.NewPCG(3, 4))
	again := image.NewGray(gray.Rect)
	draw.Draw(again, again.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(again, again.Rect, gray, image.Pt(9, -14), draw.Src)
	for i, v := range again.Pix {
		again.Pix[i] = color.Gray{Y: uint8(max(0, min(255, float64(v)*0.93+random.NormFloat64()*4)))}.Y
	}
	return again
}

func TestOnlyScansWithTheSameInkAreSaidToBeTheSame(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	pages := scansIn(t, paper(t, "quotes-scan.tif"))
	add(t, a, id, "one.jpg", jpegFile(t, pages[4]))
	add(t, a, id, "another quote.jpg", jpegFile(t, pages[5]))
	add(t, a, id, "one again.jpg", jpegFile(t, scannedAgain(pages[4])))
	assert.Equal(t, []string{"Page 3 may be the same as page 1"}, alike(t, a, id))

	p, err := a.Packets.Get(t.Context(), id)
	require.NoError(t, err)
	first, other, again := p.Parts[0].Pages[0].ID, p.Parts[1].Pages[0].ID, p.Parts[2].Pages[0].ID
	same, err := a.Checking.ComparePages(t.Context(), id, first, again)
	require.NoError(t, err)
	assert.True(t, same.IsSame)
	assert.Empty(t, same.Differences)
	different, err := a.Checking.ComparePages(t.Context(), id, first, other)
	require.NoError(t, err)
	assert.False(t, different.IsSame)
	assert.NotEmpty(t, different.Differences)
}

// alike waits until a packet is checked, and gives what is said of pages that may be the same.
func alike(t *testing.T, a *app.App, id string) (sentences []string) {
	t.Helper()
	await.Until(t, func() bool {
		findings, err := a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		sentences = nil
		for _, finding := range findings.Findings {
			if strings.Contains(finding.Sentence.English, "may be the same") {
				sentences = append(sentences, finding.Sentence.English)
			}
		}
		return findings.Waiting == 0
	})
	return sentences
}
