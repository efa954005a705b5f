package annotation

import (
	"encoding/json"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestStoredPolicies(t *testing.T) {
	for stored, want := range map[string]Policy{
		`{}`:    {},
		`false`: {},
		`true`:  {Fields: LeftOut, Comments: LeftOut},
		`{"fields":"fixed","comments":"leftOut"}`: {Fields: Fixed, Comments: LeftOut},
	} {
		var got Policy
		require.NoError(t, json.Unmarshal([]byte(stored), &got), stored)
		assert.Equal(t, want, got, stored)
		assert.NoError(t, got.Check())
		again, err := json.Marshal(got)
		require.NoError(t, err)
		var back Policy
		require.NoError(t, json.Unmarshal(again, &back))
		assert.Equal(t, want, back)
	}
}

func TestUnknownHandlingsAreRefused(t *testing.T) {
	assert.ErrorContains(t, Policy{Fields: "burnt"}.Check(), `not "burnt"`)
	assert.Error(t, Policy{Comments: "kept"}.Check())
	assert.Error(t, json.Unmarshal([]byte(`[1]`), &Policy{}))
}
