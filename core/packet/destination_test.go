package packet

import (
	"dorbin/core/problem"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestParsePlace(t *testing.T) {
	for text, want := range map[string]Place{
		"":               {},
		"end":            {},
		"start":          {Destination: Destination{At: new(int)}},
		"after:p2":       {Destination: Destination{After: "p2"}},
		"before:p2":      {Destination: Destination{Before: "p2"}},
		"part:s1":        {Destination: Destination{Part: "s1"}},
		"replace:p2, p3": {Replace: []PageID{"p2", "p3"}},
	} {
		place, err := ParsePlace(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, place, text)
	}
	for _, text := range []string{"middle", "after", "after:", "end:p2", "start:", "replace:", ":p2"} {
		_, err := ParsePlace(text)
		assert.ErrorIs(t, err, problem.Invalid, text)
	}
}
