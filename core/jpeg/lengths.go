package jpeg

// lengthsOf gives the lengths of the best codes of symbols that come so many times, of at most 16 bits; 0
// for those that never come, and nil where none does. The place behind the last symbol is used here: it
// keeps the code of ones alone from being given (annex K.2).
func lengthsOf(counts *[257]int) []int {
	left := *counts
	isEmpty := true
	for _, n := range left {
		isEmpty = isEmpty && n == 0
	}
	if isEmpty {
		return nil
	}
	left[256] = 1
	sizes := codeSizes(&left)
	var perLength [258]int
	for _, size := range sizes {
		perLength[size]++
	}
	perLength[0] = 0
	shorten(&perLength)
	return assign(counts, &perLength, sizes)
}

// codeSizes joins the two rarest until all are one (figure K.1).
func codeSizes(left *[257]int) (sizes [257]int) {
	var others [257]int
	for i := range others {
		others[i] = -1
	}
	for {
		a, b := -1, -1
		for i, n := range left {
			if n == 0 {
				continue
			}
			switch {
			case a < 0 || n <= left[a]:
				a, b = i, a
			case b < 0 || n <= left[b]:
				b = i
			}
		}
		if b < 0 {
			return sizes
		}
		left[a], left[b] = left[a]+left[b], 0
		for sizes[a]++; others[a] >= 0; sizes[a]++ {
			a = others[a]
		}
		others[a] = b
		for sizes[b]++; others[b] >= 0; sizes[b]++ {
			b = others[b]
		}
	}
}

// shorten has no code be longer than 16 bits (figure K.3), and gives the code of ones alone to nobody.
func shorten(perLength *[258]int) {
	for i := len(perLength) - 1; i > longestCode; i-- {
		for perLength[i] > 0 {
			j := i - 2
			for perLength[j] == 0 {
				j--
			}
			perLength[i] -= 2
			perLength[i-1]++
			perLength[j+1] += 2
			perLength[j]--
		}
	}
	i := longestCode
	for perLength[i] == 0 {
		i--
	}
	perLength[i]--
}

// assign gives the shortest codes to the symbols that come most (figure K.4).
func assign(counts *[257]int, perLength *[258]int, sizes [257]int) []int {
	lengths := make([]int, 256)
	length := 1
	for size := 1; size < len(perLength); size++ {
		for symbol := range lengths {
			if counts[symbol] == 0 || sizes[symbol] != size {
				continue
			}
			for perLength[length] == 0 {
				length++
			}
			lengths[symbol] = length
			perLength[length]--
		}
	}
	return lengths
}
