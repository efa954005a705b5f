package server

import (
	"bytes"
	"encoding/json"
	"os"
	"testing"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"
)

// TestDescriptionIsCurrent compares the committed description, which the front
// end's client is generated from, with the program. "make api" writes it anew.
func TestDescriptionIsCurrent(t *testing.T) {
	text, err := json.Marshal(describe(chi.NewRouter(), nil, "1"))
	require.NoError(t, err)
	var indented bytes.Buffer
	require.NoError(t, json.Indent(&indented, text, "", "  "))
	indented.WriteByte('\n')
	if os.Getenv("UPDATE_OPENAPI") != "" {
		require.NoError(t, os.WriteFile("openapi.json", indented.Bytes(), 0o600))
	}
	committed, err := os.ReadFile("openapi.json")
	require.NoError(t, err)
	require.Equal(t, string(committed), indented.String(), `run "make api"`)
}
