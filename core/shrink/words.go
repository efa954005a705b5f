package shrink

// leastWords is how many words must have been read on a page before anything is
// concluded from them.
const leastWords = 20

// AreEnoughWords tells whether something can be concluded from so many words of a page.
func AreEnoughWords(count int) bool { return count >= leastWords }

// WordsAgree tells which share of the words that were read on a page are read on it when
// it is written otherwise; it is not known of pages with few words.
func WordsAgree(before, after []string) (share float64, known bool) {
	if !AreEnoughWords(len(before)) {
		return 0, false
	}
	read := map[string]int{}
	for _, word := range after {
		read[word]++
	}
	same := 0
	for _, word := range before {
		if read[word] > 0 {
			read[word]--
			same++
		}
	}
	return float64(same) / float64(len(before)), true
}
