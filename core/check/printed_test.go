package check

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestPrintedNumber(t *testing.T) {
	for text, want := range map[string]Printed{
		"Surveyor’s report\nPage 3 of 9":  {3, 9},
		"SL-2026-118\nPage 2":             {2, 0},
		"page 12/30":                      {12, 30},
		"4 / 7":                           {4, 7},
		"– 17 –":                          {17, 0},
		"\n 8 \n":                         {8, 0},
		"Seite 3 von 4":                   {3, 4},
		"Total 48,900\nPage 4 of 9\n2026": {4, 9},
	} {
		got, ok := PrintedNumber(text)
		assert.True(t, ok, text)
		assert.Equal(t, want, got, text)
	}
	for _, text := range []string{"", "no number here", "in 2026 we met 14 times", "2026"} {
		_, ok := PrintedNumber(text)
		assert.False(t, ok, text)
	}
}

func TestGaps(t *testing.T) {
	run := func(numbers ...int) []Printed {
		pages := make([]Printed, len(numbers))
		for i, n := range numbers {
			pages[i].Number = n
		}
		return pages
	}
	assert.Empty(t, Gaps(run(1, 2, 3)))
	assert.Empty(t, Gaps(run(1, 0, 3)), "an unread page is not a missing one")
	assert.Empty(t, Gaps(run(5, 6, 7)), "a stack may begin anywhere")
	assert.Equal(t, []Gap{{3, 1}}, Gaps(run(1, 2, 3, 5, 6)))
	assert.Equal(t, []Gap{{2, 2}}, Gaps(run(1, 0, 5)))
	assert.Equal(t, []Gap{{4, 1}}, Gaps(run(1, 2, 1, 2, 4)), "within the second paper")
	assert.Equal(t, []Gap{{2, 1}}, Gaps(run(1, 2, 2)), "the second paper lacks its first page")
	assert.Equal(t, []Gap{{2, 3}}, Gaps([]Printed{{1, 5}, {2, 5}}))
	assert.Empty(t, Gaps(nil))
}

func FuzzPrintedNumber(f *testing.F) {
	f.Add("Page 3 of 9")
	f.Fuzz(func(t *testing.T, text string) {
		if p, ok := PrintedNumber(text); ok && (p.Number < 1 || (p.Of != 0 && p.Of < p.Number)) {
			t.Fatalf("%q gives %+v", text, p)
		}
	})
}
