package sources

import (
	"encoding/json"
	"os"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestPartsAreTitledAsTheClientTitlesPackets has the cases that the client's tests have as well.
func TestPartsAreTitledAsTheClientTitlesPackets(t *testing.T) {
	text, err := os.ReadFile("testdata/titles.json")
	require.NoError(t, err)
	var cases []struct{ Name, Title string }
	require.NoError(t, json.Unmarshal(text, &cases))
	require.NotEmpty(t, cases)
	for _, c := range cases {
		assert.Equal(t, c.Title, PartTitle(c.Name), c.Name)
	}
}
