package packet

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// mixed is threeParts with page 2 turned, a blank A5 page at the end and a note on page 4.
func mixed(t *testing.T) Packet {
	p := threeParts(t)
	return apply(t, p,
		Turn{Selected: InRange("2"), By: 90},
		Note{Selected: InRange("4"), Title: "Ask"},
		InsertBlank{Size: geometry.A5, Destination: Destination{Part: p.Parts[2].ID}})
}

func TestParseSelection(t *testing.T) {
	p := mixed(t)
	numbers := map[PageID]int{}
	for i, id := range placed(p) {
		numbers[id] = i + 1
	}
	for text, want := range map[string][]int{
		"3":                      {3},
		"2-4, 12, odd of part 1": {1, 2, 3, 4, 12},
		"last 3":                 {10, 11, 12},
		"first 2":                {1, 2},
		"first 99":               {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12},
		"last 99":                {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12},
		"first 9 of part 3":      {10, 11, 12},
		"4-2":                    {2, 3, 4},
		"part 3":                 {10, 11, 12},
		"part last":              {10, 11, 12},
		"last of part 2":         {9},
		"last 2 of part 2":       {8, 9},
		"2-3 of part 2":          {6, 7},
		"source 2":               {5, 6, 7, 8, 9},
		"landscape":              {2},
		"not portrait":           {2},
		"even, not part 2":       {2, 4, 10, 12},
		"not 1-10":               {11, 12},
		"A5":                     {12},
		"other sizes":            {12},
		"noted":                  {4},
		"checked":                {1, 5, 10},
		"Not  Checked, not odd":  {2, 4, 6, 8, 12},
		"portrait of part 1":     {1, 3, 4},
		"ALL":                    {1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12},
		"1, not 1":               {},
	} {
		pages, err := ParseSelection(text, p, sizes)
		require.NoError(t, err, text)
		got := []int{}
		for _, id := range pages {
			got = append(got, numbers[id])
		}
		assert.Equal(t, want, got, text)
	}
}

func TestParseSelectionPointsAtTheSpot(t *testing.T) {
	p := mixed(t)
	for text, want := range map[string]struct {
		problem string
		at      int
	}{
		"":                {"A page number is missing.", 0},
		"1, , 3":          {"A page number is missing.", 3},
		"1, 40":           {"There is no page 40: there are 12.", 3},
		"2, not  77":      {"There is no page 77: there are 12.", 8},
		"8 of part 1":     {"There is no page 8: there are 4.", 0},
		"part 9":          {"There is no part 9: there are 3.", 0},
		"odd of part x":   {"There is no part x: there are 3.", 0},
		"source 4":        {"There is no source 4: pages of 3 are placed.", 0},
		"1,lndscape":      {"“lndscape” is not a page. Write numbers and runs, such as 1, 4-6, last.", 2},
		"last many":       {"“last many” is not a number of pages.", 0},
		"not":             {"“not” is not a page. Write numbers and runs, such as 1, 4-6, last.", 0},
		"1-3, 5-, 7":      {"“” is not a page. Write numbers and runs, such as 1, 4-6, last.", 5},
		"a5, a5, a4, a2 ": {"“a2” is not a page. Write numbers and runs, such as 1, 4-6, last.", 12},
	} {
		_, err := ParseSelection(text, p, sizes)
		var problem *RangeError
		require.ErrorAs(t, err, &problem, text)
		assert.Equal(t, want.problem, problem.Error(), text)
		assert.Equal(t, want.at, problem.At, text)
	}
}

func FuzzParseSelection(f *testing.F) {
	for _, text := range []string{"1-3, odd of part 2", "not last 2", "source 1,A4", "1,,", "first x", "of part 1", "not not 1"} {
		f.Add(text)
	}
	p := apply(&testing.T{}, New("x"),
		Place{Source: "f4", Title: "A"}, Place{Source: "f5", Title: "B"})
	f.Fuzz(func(t *testing.T, text string) {
		pages, err := ParseSelection(text, p, sizes)
		var problem *RangeError
		if errors.As(err, &problem) {
			if problem.At < 0 || problem.At > len(text) || !utf8.ValidString(problem.Error()) && utf8.ValidString(text) {
				t.Fatalf("%q: the error points at %d and says %q", text, problem.At, problem.Problem)
			}
			return
		}
		require.NoError(t, err)
		all := placed(p)
		last := -1
		for _, id := range pages {
			at := slices.Index(all, id)
			if at <= last {
				t.Fatalf("%q: %v is not in packet order", text, pages)
			}
			last = at
		}
		again, err := ParseSelection(strings.ToUpper(text), p, sizes)
		if err == nil {
			assert.Equal(t, pages, again)
		}
	})
}
