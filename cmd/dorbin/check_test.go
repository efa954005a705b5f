package main

import (
	"bytes"
	"io"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/pdf/pdftest"
	"dorbin/core/requirements"
)

// checked runs "dorbin check" and gives what it printed.
func checked(t *testing.T, args ...string) (string, error) {
	t.Helper()
	var out bytes.Buffer
	err := run(t.Context(), append([]string{"check"}, args...), &out, io.Discard)
	return out.String(), err
}

func TestAnyPDFIsCheckedAgainstAReceiver(t *testing.T) {
	if testing.Short() {
		t.Skip("it compiles PDFium")
	}
	folder := t.TempDir()
	t.Setenv("XDG_CACHE_HOME", filepath.Join(folder, "cache"))
	document, receiver := filepath.Join(folder, "roof.pdf"), filepath.Join(folder, "council.json")
	write := func(rules requirements.Rules) {
		var file bytes.Buffer
		require.NoError(t, requirements.WriteFile(&file, requirements.Receiver{Name: "Council", Rules: rules}))
		require.NoError(t, os.WriteFile(receiver, file.Bytes(), 0o600))
	}
	page := "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595.28 841.89] /Contents 4 0 R /Resources << /Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >> >>"
	require.NoError(t, os.WriteFile(document, pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", page,
		pdftest.Stream("", "BT /F 11 Tf 60 700 Td (The roof of the boathouse is to be repaired) Tj ET"),
	), 0o600))

	write(requirements.Rules{MostPages: 1, Sizes: []string{"A4"}, Searchable: true, NoForms: true, Password: requirements.NoPassword})
	out, err := checked(t, document, "--receiver", receiver)
	require.NoError(t, err)
	assert.Contains(t, out, "roof.pdf meets 5 of the 5 rules of Council.")

	write(requirements.Rules{Sizes: []string{"A3"}, Fonts: true, Properties: []string{"title"}})
	out, err = checked(t, "--receiver", receiver, document)
	require.ErrorIs(t, err, errNotMet)
	assert.Contains(t, out, "NOT MET    A3: Page 1 is of another size")
	assert.Contains(t, out, "NOT MET    Fonts embedded: A font is missing in the file")
	assert.Contains(t, out, "NOT MET    Properties: title: The title is missing")

	require.NoError(t, os.WriteFile(document, []byte("no PDF"), 0o600))
	_, err = checked(t, document, "--receiver", receiver)
	require.ErrorIs(t, err, errNotChecked)
	require.ErrorContains(t, err, "cannot be read as a PDF")
}

func TestWhatCannotBeChecked(t *testing.T) {
	for _, test := range []struct {
		args []string
		says string
	}{
		{nil, "say which PDF"},
		{[]string{"a.pdf"}, "--receiver FILE.json"},
		{[]string{"a.pdf", "b.pdf"}, "one argument too many"},
		{[]string{"a.pdf", "--receiver", "none.json"}, "open the receiver's file"},
	} {
		_, err := checked(t, test.args...)
		require.ErrorIs(t, err, errNotChecked)
		require.ErrorContains(t, err, test.says)
	}
}
