package finish

import (
	"encoding/json"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func TestDefaultsOfAnInstallation(t *testing.T) {
	f, err := ReadDefaults(strings.NewReader(`{
		"properties": {"on": true, "author": "Larkmere Rowing Club"},
		"footer": {"on": true, "left": "{author}", "size": 8}
	}`))
	require.NoError(t, err)
	want := Default()
	want.Properties = Properties{On: true, Author: "Larkmere Rowing Club"}
	want.Footer.On, want.Footer.Left, want.Footer.Size = true, "{author}", 8
	assert.Equal(t, want, f, "what is not said is as it is proposed")
	for said, why := range map[string]string{
		``: "EOF", `[]`: "cannot unmarshal", `{"footr": {}}`: "unknown field", `{} {}`: "behind it",
		`{"numbers": {"first": -1}}`:                                 "begin at 0",
		`{"letterhead": {"picture": {"source": "f1", "page": 1}}}`:   "no pictures",
		`{"footer": "` + strings.Repeat("x", largestDefaults) + `"}`: "1 MB",
	} {
		_, err := ReadDefaults(strings.NewReader(said))
		assert.ErrorContains(t, err, why, "%.60s", said)
	}
}

// FuzzReadDefaults has what was read pass its own checks, and say the same when it is read again.
func FuzzReadDefaults(f *testing.F) {
	f.Add(`{"watermark": {"on": true, "spot": {"across": "left", "down": "top", "fromSide": 10, "fromEnd": 3}}}`)
	f.Add(`{"numbers": {"on": true, "style": "roman"}, "bookmarks": {"on": false}}`)
	f.Fuzz(func(t *testing.T, said string) {
		read, err := ReadDefaults(strings.NewReader(said))
		if err != nil {
			return
		}
		require.NoError(t, read.Check(1))
		written, err := json.Marshal(read)
		require.NoError(t, err)
		again, err := ReadDefaults(strings.NewReader(string(written)))
		require.NoError(t, err)
		assert.Equal(t, read, again)
	})
}
