package intake

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/problem"
)

func TestPixelsAreLimitedByNumberAndDepth(t *testing.T) {
	for name, tc := range map[string]struct {
		width, height, bytes int
		want                 string
	}{
		"an A0 scan":             {9933, 14043, 4, ""},
		"196 million, grey":      {14000, 14000, 1, ""},
		"196 million, 16 bits":   {14000, 14000, 8, "14000 × 14000 pixels of 8 bytes"},
		"too many":               {65500, 65500, 1, "65500 × 65500 pixels"},
		"a product that is lost": {math.MaxUint32, math.MaxUint32, 1, "pixels"},
		"a line":                 {math.MaxInt32, 1, 1, "pixels"},
	} {
		t.Run(name, func(t *testing.T) {
			err := DefaultLimits.checkPixels("plan.png", 3, tc.width, tc.height, tc.bytes)
			if tc.want == "" {
				assert.NoError(t, err)
				return
			}
			var told *problem.Error
			if assert.ErrorAs(t, err, &told) {
				assert.Equal(t, TooManyPixels, told.Reason)
				assert.Contains(t, told.Sentence.English, "plan.png is too large: page 3")
				assert.Contains(t, told.Sentence.English, tc.want)
			}
		})
	}
}
