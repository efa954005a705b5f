package png

// Filters of a row (9.2).
const (
	noFilter = iota
	subFilter
	upFilter
	averageFilter
	paethFilter
	filters // how many there are
)

// unfilter gives the samples of rows that each begin with their filter.
func unfilter(filtered []byte, l Layout) ([]byte, error) {
	n := l.rowBytes()
	samples := make([]byte, n*l.Height)
	above := make([]byte, n)
	for y := range l.Height {
		from, row := filtered[y*(n+1):][:n+1], samples[y*n:][:n]
		if from[0] >= filters {
			return nil, ErrDamaged
		}
		restore(row, from[1:], above, int(from[0]), l.pixelBytes())
		above = row
	}
	return samples, nil
}

// restore undoes a filter.
func restore(row, from, above []byte, filter, pixel int) {
	copy(row, from)
	switch filter {
	case subFilter:
		for i := pixel; i < len(row); i++ {
			row[i] += row[i-pixel]
		}
	case upFilter:
		for i := range row {
			row[i] += above[i]
		}
	case averageFilter:
		for i := range row {
			row[i] += byte((int(before(row, i, pixel)) + int(above[i])) / 2)
		}
	case paethFilter:
		for i := range row {
			row[i] += paeth(before(row, i, pixel), above[i], before(above, i, pixel))
		}
	}
}

// apply writes a row by a filter.
func apply(to, row, above []byte, filter, pixel int) {
	copy(to, row)
	switch filter {
	case subFilter:
		for i := pixel; i < len(row); i++ {
			to[i] -= row[i-pixel]
		}
	case upFilter:
		for i := range row {
			to[i] -= above[i]
		}
	case averageFilter:
		for i := range row {
			to[i] -= byte((int(before(row, i, pixel)) + int(above[i])) / 2)
		}
	case paethFilter:
		for i := range row {
			to[i] -= paeth(before(row, i, pixel), above[i], before(above, i, pixel))
		}
	}
}

// before is the same sample of the pixel to the left; 0 at the edge.
func before(row []byte, i, pixel int) byte {
	if i < pixel {
		return 0
	}
	return row[i-pixel]
}

// paeth is the one of three neighbours that is nearest to left + up - upperLeft (9.4).
func paeth(left, up, upperLeft byte) byte {
	a, b, c := int(left), int(up), int(upperLeft)
	toLeft, toUp := b-c, a-c
	toBoth := toLeft + toUp
	toLeft, toUp, toBoth = max(toLeft, -toLeft), max(toUp, -toUp), max(toBoth, -toBoth)
	switch {
	case toLeft <= toUp && toLeft <= toBoth:
		return left
	case toUp <= toBoth:
		return up
	}
	return upperLeft
}

// smallest chooses the filter of each row by which its differences are smallest (12.8).
const smallest = filters

// choices are the ways to choose filters that are tried: the same for all rows, and the smallest.
const choices = filters + 1

// filtered writes rows from one to before another by the filters that are chosen for them.
func filtered(samples []byte, l Layout, from, to, choice int) []byte {
	n := l.rowBytes()
	out := make([]byte, 0, (to-from)*(n+1))
	tried := make([]byte, n)
	above := make([]byte, n)
	if from > 0 {
		above = samples[(from-1)*n:][:n]
	}
	for y := from; y < to; y++ {
		row := samples[y*n:][:n]
		filter := choice
		if choice == smallest {
			filter = smallestFilter(tried, row, above, l.pixelBytes())
		}
		out = append(out, byte(filter)) //nolint:gosec // one of five
		out = out[:len(out)+n]
		apply(out[len(out)-n:], row, above, filter, l.pixelBytes())
		above = row
	}
	return out
}

// smallestFilter writes a row by every filter, and tells which makes its differences the smallest.
func smallestFilter(tried, row, above []byte, pixel int) (best int) {
	least := -1
	for filter := range filters {
		apply(tried, row, above, filter, pixel)
		sum := 0
		for _, v := range tried {
			sum += int(min(v, -v)) // a difference, to either side
		}
		if least < 0 || sum < least {
			best, least = filter, sum
		}
	}
	return best
}
