package sampling

import (
	"slices"
	"strconv"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestASeedChoosesTheSameCasesEachTime(t *testing.T) {
	t.Setenv(corpusVariable, "")
	first := Numbers(t, 1000, 30)
	assert.Len(t, first, 30)
	assert.True(t, slices.IsSorted(first))
	assert.Equal(t, first, Numbers(t, 1000, 30))
	t.Setenv(seedVariable, "2")
	assert.NotEqual(t, first, Numbers(t, 1000, 30))
	t.Setenv(corpusVariable, "all")
	assert.Len(t, Numbers(t, 1000, 30), 1000)
}

func TestEachHeavyTestHasItsTurnOnce(t *testing.T) {
	t.Setenv(corpusVariable, "")
	for _, name := range []string{"TestSoak", "TestCorpus", "TestHostileFiles"} {
		had := 0
		for turn := 700; turn < 700+heavyTurns; turn++ {
			t.Setenv(turnVariable, strconv.Itoa(turn))
			if hasItsTurn(t, name) {
				had++
			}
		}
		assert.Equal(t, 1, had, name)
	}
	t.Setenv(turnVariable, "")
	assert.True(t, hasItsTurn(t, "TestSoak"))
	t.Setenv(turnVariable, "none")
	assert.False(t, hasItsTurn(t, "TestSoak"))
	t.Setenv(turnVariable, "3")
	t.Setenv(corpusVariable, "all")
	assert.True(t, hasItsTurn(t, "TestSoak"))
}

func TestASmallCorpusIsTakenWhole(t *testing.T) {
	assert.Equal(t, []string{"a", "b"}, Of(t, []string{"a", "b"}, 5))
}
