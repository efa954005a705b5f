package sampling

import (
	"slices"
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

func TestASmallCorpusIsTakenWhole(t *testing.T) {
	assert.Equal(t, []string{"a", "b"}, Of(t, []string{"a", "b"}, 5))
}
