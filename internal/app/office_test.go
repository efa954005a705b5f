package app_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/intake"
	"dorbin/internal/reading"
	"dorbin/internal/sampling"
)

// TestOfficeDocumentsStayInTheDataFolder converts a document to a page and back to a document, with a data folder whose
// path is longer than that of a socket may be.
func TestOfficeDocumentsStayInTheDataFolder(t *testing.T) {
	sampling.Heavy(t)
	t.Setenv("TMPDIR", t.TempDir())
	folder := filepath.Join(t.TempDir(), strings.Repeat("long", 40))
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	letter := add(t, a, id, "letter.rtf", []byte(`{\rtf1\ansi The roof of the boathouse has let in water since the storms of last winter.\par }`))
	require.Equal(t, "added", letter.Result, letter.Sentence)
	ownTextsKnown(t, a, id, 1)
	made, err := a.Reading.MakeDocument(t.Context(), id, reading.DocumentOrder{Format: reading.DOCX})
	require.NoError(t, err)
	assert.Contains(t, string(made.Data), "word/document.xml")
	leftInTemporary, err := os.ReadDir(os.TempDir())
	require.NoError(t, err)
	assert.Empty(t, leftInTemporary)
	scratch := filepath.Join(folder, "incoming")
	left, err := os.ReadDir(scratch)
	require.NoError(t, err)
	assert.Empty(t, left)
	require.NoError(t, a.Close())

	// As the program leaves it that is killed in the middle.
	killed := filepath.Join(scratch, "dorbin-office-1", "document.rtf")
	require.NoError(t, os.MkdirAll(filepath.Dir(killed), 0o700))
	require.NoError(t, os.WriteFile(killed, []byte("The boathouse roof"), 0o600))
	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	assert.NoFileExists(t, killed)
}
