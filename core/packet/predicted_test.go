package packet

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestCommandsDoWhatTheClientPredicts has the cases that the client's tests have as well.
func TestCommandsDoWhatTheClientPredicts(t *testing.T) {
	text, err := os.ReadFile("testdata/predicted.json")
	require.NoError(t, err)
	var cases []struct {
		Command json.RawMessage
		Want    string
	}
	require.NoError(t, json.Unmarshal(text, &cases))
	require.NotEmpty(t, cases)
	before := Packet{Parts: []Part{{ID: "A", Title: "A"}, {ID: "B", Title: "B"}}}
	for i, id := range []PageID{"a", "b", "c", "d", "e"} {
		before.Parts[i/3].Pages = append(before.Parts[i/3].Pages, Page{ID: id, Source: "f", SourcePage: i + 1})
	}
	for _, c := range cases {
		var commands Commands
		require.NoError(t, json.Unmarshal([]byte("["+string(c.Command)+"]"), &commands))
		after, _, err := Apply(before, commands, Known{})
		require.NoError(t, err, string(c.Command))
		assert.Equal(t, c.Want, drawn(after), string(c.Command))
	}
}
