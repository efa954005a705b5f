package planning

// SplitBySize tells which pages, by their places, begin a file, so that none takes up more
// than limit bytes. A part that fits into a file is not cut. A page that is too large
// itself has a file of its own.
func SplitBySize(parts [][]int64, limit int64) (begins []int) {
	at, weight := 0, int64(0)
	begin := func() {
		begins = append(begins, at)
		weight = 0
	}
	for _, pages := range parts {
		whole := int64(0)
		for _, page := range pages {
			whole += page
		}
		if len(begins) == 0 || (weight+whole > limit && whole <= limit) {
			begin()
		}
		for _, page := range pages {
			if weight > 0 && weight+page > limit {
				begin()
			}
			weight += page
			at++
		}
	}
	return begins
}
