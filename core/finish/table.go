package finish

// Table is the marks of pages with each mark once: most are the same on many pages.
type Table struct {
	Different []Mark
	Pages     [][]int // of each page, the places of its marks among those that are different
}

// TableOf puts the marks of pages into a table.
func TableOf(marks [][]Mark) (table Table) {
	places := map[Mark]int{}
	placeOf := func(mark Mark) int {
		place, known := places[mark]
		if !known {
			place = len(table.Different)
			places[mark] = place
			table.Different = append(table.Different, mark)
		}
		return place
	}
	for n, page := range marks {
		listed := make([]int, len(page))
		for i := range page {
			if n > 0 && i < len(marks[n-1]) && page[i] == marks[n-1][i] { // mostly: faster than to look it up
				listed[i] = table.Pages[n-1][i]
			} else {
				listed[i] = placeOf(page[i])
			}
		}
		table.Pages = append(table.Pages, listed)
	}
	return table
}

// Marks gives the marks of each page. Places that the table does not have are left out.
func (t Table) Marks() [][]Mark {
	marks := make([][]Mark, len(t.Pages))
	for i, page := range t.Pages {
		marks[i] = make([]Mark, 0, len(page))
		for _, place := range page {
			if place >= 0 && place < len(t.Different) {
				marks[i] = append(marks[i], t.Different[place])
			}
		}
	}
	return marks
}
