package intake

import (
	"bytes"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/problem"
	"dorbin/internal/hostile"
	"dorbin/internal/office"
)

// TestDocumentsThatUnpackToGigabytesAreRefused has one that LibreOffice would take minutes for.
func TestDocumentsThatUnpackToGigabytesAreRefused(t *testing.T) {
	in := Inspector{Limits: DefaultLimits, Pool: workers, Office: office.Converter{Program: "/bin/sh"}}
	path := save(t, "text.docx", hostile.Named("text that unpacks to gigabytes.docx"))
	err := in.Convert(t.Context(), Office, path, "text.docx", &bytes.Buffer{})
	var told *problem.Error
	require.ErrorAs(t, err, &told)
	assert.Equal(t, TooLarge, told.Reason)
	assert.Contains(t, told.Sentence.English, "text.docx was not added: it unpacks to 286 MB")

	small, err := unpackedBytes(save(t, "a.docx", hostile.Named("a file from the disk.docx")))
	require.NoError(t, err)
	assert.Less(t, small, int64(10_000))
	none, err := unpackedBytes(save(t, "a.rtf", []byte(`{\\rtf1 text}`)))
	require.NoError(t, err)
	assert.Zero(t, none)
}
