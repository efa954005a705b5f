package raster

import (
	"math"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sync/errgroup"

	"dorbin/core/geometry"
	"dorbin/internal/sampling"
)

const photographs = 200

// cornerError is the farthest that a corner is off, as a share of the picture's
// diagonal. Which corner is the first does not count: a square cannot tell.
func cornerError(found, truth geometry.PaperQuad) float64 {
	best := math.Inf(1)
	for shift := range 4 {
		worst := 0.0
		for i := range truth {
			f := found[(i+shift)%4]
			d := math.Hypot((f.X-truth[i].X)*photoWidth, (f.Y-truth[i].Y)*photoHeight)
			worst = math.Max(worst, d)
		}
		best = math.Min(best, worst)
	}
	return best / math.Hypot(photoWidth, photoHeight)
}

// TestOutlinesOfPhotographs holds the search to its target: the four corners
// within 1.5 % of the diagonal in at least 95 % of the photographs.
func TestOutlinesOfPhotographs(t *testing.T) {
	sampling.Heavy(t)
	numbers := sampling.Numbers(t, photographs, 48)
	errors := make([]float64, len(numbers))
	kinds := make([]string, len(numbers))
	scores := make([]float64, len(numbers))
	var group errgroup.Group
	group.SetLimit(runtime.NumCPU())
	for i, number := range numbers {
		group.Go(func() error {
			photo := takePhotograph(uint64(number)) //nolint:gosec // small
			found, ok := FindOutline(photo.img)
			errors[i], kinds[i], scores[i] = 1, photo.kind, found.Score
			if ok {
				errors[i] = cornerError(found.Outline, photo.truth)
			}
			return nil
		})
	}
	require.NoError(t, group.Wait())
	good, sure, sureAndWrong := 0, 0, 0
	for i, e := range errors {
		if e <= 0.015 {
			good++
		} else {
			t.Logf("photograph %d on %s: off by %.1f %% of the diagonal, score %.2f", numbers[i], kinds[i], 100*e, scores[i])
		}
		if scores[i] >= Sure {
			sure++
			if e > 0.015 {
				sureAndWrong++
			}
		}
	}
	t.Logf("%d of %d within 1.5 %%; %d sure, of which %d wrong", good, len(numbers), sure, sureAndWrong)
	assert.GreaterOrEqual(t, good, sampling.Least(0.95, len(numbers), photographs), "photographs whose corners are found")
}
