package planning

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestSplitBySize(t *testing.T) {
	for name, c := range map[string]struct {
		parts [][]int64
		want  []int
	}{
		"nothing":                           {nil, nil},
		"all in one":                        {[][]int64{{1, 2}, {3}}, []int{0}},
		"between parts":                     {[][]int64{{4, 2}, {3, 3}, {1}}, []int{0, 2}},
		"a part that fits is not cut":       {[][]int64{{7}, {4, 4}}, []int{0, 1}},
		"a part that does not is":           {[][]int64{{2}, {6, 6, 6}, {1}}, []int{0, 2, 3}},
		"a page that is too heavy":          {[][]int64{{3, 40, 3}}, []int{0, 1, 2}},
		"one that is too heavy comes first": {[][]int64{{40}, {1}}, []int{0, 1}},
	} {
		assert.Equal(t, c.want, SplitBySize(c.parts, 10), name)
	}
	random := rand.New(rand.NewPCG(1, 2))
	for range 300 {
		var parts [][]int64
		var all []int64
		for range random.IntN(8) {
			var pages []int64
			for range 1 + random.IntN(9) {
				pages = append(pages, 1+random.Int64N(50))
			}
			parts, all = append(parts, pages), append(all, pages...)
		}
		begins := SplitBySize(parts, 60)
		for i, from := range begins {
			to := len(all)
			if i+1 < len(begins) {
				to = begins[i+1]
			}
			weight := int64(0)
			for _, page := range all[from:to] {
				weight += page
			}
			assert.LessOrEqual(t, weight, int64(60))
			assert.Positive(t, weight)
		}
	}
}
