package shrink

import (
	"bytes"
	"compress/zlib"
	"image"
	"image/draw"
	"io"
	"math/rand/v2"
	"testing"

	"dorbin/internal/sampling"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestAJPEGOfWhitePaperIsCompressedOnceMore(t *testing.T) {
	paper := image.NewRGBA(image.Rect(0, 0, 900, 1200))
	draw.Draw(paper, paper.Rect, image.White, image.Point{}, draw.Src)
	j, err := encodeJPEG(paper, 55)
	require.NoError(t, err)
	assert.Less(t, j.Bytes(), len(j.Data)/10)
	unpacked, err := zlib.NewReader(bytes.NewReader(j.Deflated))
	require.NoError(t, err)
	again, err := io.ReadAll(unpacked)
	require.NoError(t, err)
	assert.Equal(t, j.Data, again)

	j, err = encodeJPEG(scene(2), 80)
	require.NoError(t, err)
	assert.Empty(t, j.Deflated, "of a photograph it is not worth it")
	assert.Equal(t, len(j.Data), j.Bytes())
}

// TestQualityOfAPhotographIsMeasured finds more of it where there is grain to lose.
func TestQualityOfAPhotographIsMeasured(t *testing.T) {
	random := rand.New(rand.NewPCG(7, 8))
	grainy := scene(3)
	for i := range grainy.Pix {
		if i%4 < 3 {
			grainy.Pix[i] = uint8(max(0, min(255, float64(grainy.Pix[i])+14*random.NormFloat64())))
		}
	}
	quality := func(img image.Image) int {
		s := newSubject(img, testDPI)
		found, err := s.visuallyLosslessQuality(testDPI)
		require.NoError(t, err)
		return found
	}
	assert.LessOrEqual(t, quality(scene(3)), leastQuality+qualityStep)
	found := quality(grainy)
	assert.Greater(t, found, leastQuality+qualityStep)

	s := newSubject(grainy, testDPI)
	closely := newOriginal(grainy, testDPI, readDPI)
	loss := func(quality int) float64 {
		compressed, err := s.write(EncodingParams{Encoding: Resized, DPI: testDPI, Quality: quality})
		require.NoError(t, err)
		drawn, err := compressed.drawGray(closely.gray.Rect.Size())
		require.NoError(t, err)
		return closely.likeness(drawn).Loss
	}
	if found < mostQuality {
		assert.LessOrEqual(t, loss(found), unseenLoss)
	}
	assert.Greater(t, loss(found-qualityStep), unseenLoss, "with less it is seen")
}

func TestLayersAreDrawnAlikeInGreyAndInColour(t *testing.T) {
	sampling.Heavy(t)
	compressed, err := newSubject(letter(t, 5, true), testDPI).write(losslessEncodings[0])
	require.NoError(t, err)
	whole := compressed.Layered.size()
	for _, size := range []image.Point{whole, whole.Div(2), whole.Mul(2).Div(3)} {
		colour, err := compressed.Layered.draw(size)
		require.NoError(t, err)
		grey, err := compressed.Layered.drawGray(size)
		require.NoError(t, err)
		assert.Equal(t, size, grey.Rect.Size())
		assert.Less(t, greyDifference(colour, grey), 2.0, "%v pixels", size)
	}
}

// greyDifference is the mean difference of a picture's grey from another's.
func greyDifference(colour image.Image, grey *image.Gray) float64 {
	same := grayOf(colour, grey.Rect.Size())
	sum := 0
	for i, v := range same.Pix {
		sum += max(int(v)-int(grey.Pix[i]), int(grey.Pix[i])-int(v))
	}
	return float64(sum) / float64(len(same.Pix))
}

// TestAPhotographIsComparedAsItIsSeen has a photograph compared with fewer dots than print.
func TestAPhotographIsComparedAsItIsSeen(t *testing.T) {
	img := scene(4)
	s := newSubject(img, testDPI)
	s.kind = ContinuousTone
	found, ok, err := s.try(EncodingParams{Encoding: Resized, DPI: 60, Quality: 50})
	require.NoError(t, err)
	require.True(t, ok)
	drawn, err := s.tried[found.EncodingParams].compressed.JPEG.decode()
	require.NoError(t, err)
	assert.Equal(t, newOriginal(img, testDPI, seenDPI).likeness(drawn), found.Likeness)
}
