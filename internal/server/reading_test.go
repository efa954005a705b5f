package server_test

import (
	"bytes"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/pdf/pdftest"
	"dorbin/core/text"
	"dorbin/internal/await"
	"dorbin/internal/reading"
)

// textPDF is a PDF with a page for each text.
func textPDF(pages ...string) []byte {
	objects := []string{"<< /Type /Catalog /Pages 2 0 R >>", "", "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>"}
	var kids []string
	for i, words := range pages {
		kids = append(kids, fmt.Sprintf("%d 0 R", 4+2*i))
		objects = append(objects,
			fmt.Sprintf("<< /Type /Page /Parent 2 0 R /MediaBox [0 0 400 500] /Resources << /Font << /F 3 0 R >> >> /Contents %d 0 R >>", 5+2*i),
			pdftest.Stream("", fmt.Sprintf("BT /F 11 Tf 40 450 Td (%s) Tj ET", words)))
	}
	objects[1] = fmt.Sprintf("<< /Type /Pages /Kids [%s] /Count %d >>", strings.Join(kids, " "), len(pages))
	return pdftest.File(objects...)
}

func TestTextOverHTTP(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	path := "/api/packets/" + id
	c.upload(id, namedFile{"terms.pdf", textPDF(
		"Page 2. A third of the price is due when the scaffold stands, the rest at the end.",
		"Page 1. The roof of the boathouse at Larkmere is to be repaired before winter.",
	)})
	var status reading.TextStatus
	await.Until(t, func() bool {
		require.Equal(t, http.StatusOK, c.do("GET", path+"/text", nil, &status))
		return len(status.Own) == 2
	})

	var found reading.Found
	require.Equal(t, http.StatusOK, c.do("GET", path+"/find?text="+url.QueryEscape("the SCAFFOLD"), nil, &found))
	require.Len(t, found.Pages, 1)
	assert.Equal(t, 1, found.Matches)
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", path+"/find?text=", nil, nil))
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/packets/none/find?text=x", nil, nil))

	page := c.packet(id).Parts[0].Pages[0].ID
	var words reading.PageWords
	require.Equal(t, http.StatusOK, c.do("GET", fmt.Sprintf("%s/pages/%s/words?find=scaffold", path, page), nil, &words))
	assert.Equal(t, "Page", words.Words[0].Text)
	assert.InDelta(t, 40, words.Words[0].X, 0.1)
	assert.InDelta(t, 50, words.Words[0].Y, 0.1)
	assert.Equal(t, []text.Match{{First: 11, Last: 11}}, words.Matches)
	assert.Equal(t, http.StatusNotFound, c.do("GET", path+"/pages/none/words", nil, nil))

	var documents reading.Documents
	part := c.packet(id).Parts[0].ID
	require.Equal(t, http.StatusOK, c.do("GET", fmt.Sprintf("%s/parts/%s/documents", path, part), nil, &documents))
	require.Len(t, documents.Documents, 1)
	assert.True(t, documents.Changes)
	assert.Equal(t, page, documents.Documents[0].Pages[1].Page)
	assert.Equal(t, http.StatusNotFound, c.do("GET", path+"/parts/none/documents", nil, nil))

	var doubtful reading.DoubtfulWords
	require.Equal(t, http.StatusOK, c.do("GET", path+"/doubtful", nil, &doubtful))
	assert.Empty(t, doubtful.Words)
	require.Equal(t, http.StatusOK, c.do("POST", path+"/text/stop", nil, &status))
	asked := map[string]any{"pages": []packet.PageID{"none"}}
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("POST", path+"/text", asked, nil))
}

func TestATextDocumentOverHTTP(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"terms.pdf", textPDF("The roof of the boathouse at Larkmere is to be repaired before winter.")})
	await.Until(t, func() bool {
		var status reading.TextStatus
		require.Equal(t, http.StatusOK, c.do("GET", "/api/packets/"+id+"/text", nil, &status))
		return len(status.Own) == 1
	})
	answer, err := http.Post(c.url+"/api/packets/"+id+"/text-document", "application/json", bytes.NewBufferString(`{"format":"html"}`)) //nolint:gosec // the test's own server
	require.NoError(t, err)
	defer answer.Body.Close() //nolint:errcheck // only read from
	assert.Equal(t, http.StatusOK, answer.StatusCode)
	assert.Contains(t, answer.Header.Get("Content-Disposition"), ".html")
	page, err := io.ReadAll(answer.Body)
	require.NoError(t, err)
	assert.Contains(t, string(page), "<p>The roof of the boathouse at Larkmere is to be repaired before winter.</p>")
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/packets/"+id+"/text-document", map[string]string{"format": "exe"}, nil))
}
