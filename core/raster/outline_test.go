package raster

import (
	"math"
	"runtime"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
)

const photographs = 200

// cornerError is the farthest that a corner is off, as a share of the picture's
// diagonal. Which corner is the first does not count: a square cannot tell.
func cornerError(found, truth geometry.Outline) float64 {
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
	errors := make([]float64, photographs)
	kinds := make([]string, photographs)
	scores := make([]float64, photographs)
	var group sync.WaitGroup
	limit := make(chan struct{}, runtime.NumCPU())
	for i := range photographs {
		group.Add(1)
		limit <- struct{}{}
		go func() {
			defer func() { <-limit; group.Done() }()
			photo := takePhotograph(uint64(i))
			found, ok := FindOutline(photo.img)
			errors[i], kinds[i], scores[i] = 1, photo.kind, found.Score
			if ok {
				errors[i] = cornerError(found.Outline, photo.truth)
			}
		}()
	}
	group.Wait()
	good, sure, sureAndWrong := 0, 0, 0
	for i, e := range errors {
		if e <= 0.015 {
			good++
		} else {
			t.Logf("photograph %d on %s: off by %.1f %% of the diagonal, score %.2f", i, kinds[i], 100*e, scores[i])
		}
		if scores[i] >= Sure {
			sure++
			if e > 0.015 {
				sureAndWrong++
			}
		}
	}
	t.Logf("%d of %d within 1.5 %%; %d sure, of which %d wrong", good, photographs, sure, sureAndWrong)
	assert.GreaterOrEqual(t, good, photographs*95/100, "photographs whose corners are found")
}
