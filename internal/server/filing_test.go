package server_test

import (
	"net/http"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/filing"
	"dorbin/internal/folders"
)

func TestFilesOfFoldersOverHTTP(t *testing.T) {
	records := t.TempDir()
	path := filepath.Join(records, "letter.pdf")
	require.NoError(t, os.WriteFile(path, textPDF("Dear all"), 0o600))
	c := start(t, func(o *app.Options) { o.HandIn.Folders = folders.List{{Name: "Our records", Path: records}} })
	var names []string
	require.Equal(t, http.StatusOK, c.do("GET", "/api/folders", nil, &names))
	assert.Equal(t, []string{"Our records"}, names)
	folder := "/api/folders/Our%20records"
	var listing filing.Listing
	require.Equal(t, http.StatusOK, c.do("GET", folder+"/files", nil, &listing))
	require.Len(t, listing.Files, 1)
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", folder+"/files?in=../..", nil, nil))
	assert.Equal(t, http.StatusNotFound, c.do("GET", folder+"/files?in=older", nil, nil))
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", "/api/folders/Other/files", nil, nil))
	var look filing.Look
	require.Equal(t, http.StatusOK, c.do("GET", folder+"/look?file=letter.pdf", nil, &look))
	assert.Equal(t, 1, look.Pages)
	assert.NotEmpty(t, look.Picture)

	file := map[string]string{"file": "letter.pdf"}
	var opened filing.OpenedFile
	require.Equal(t, http.StatusCreated, c.do("POST", folder+"/open", file, &opened))
	assert.Equal(t, http.StatusNotFound, c.do("POST", folder+"/open", map[string]string{"file": "none.pdf"}, nil))
	var about struct{ Origin *filing.Origin }
	require.Equal(t, http.StatusOK, c.do("GET", "/api/packets/"+opened.Packet+"/origin", nil, &about))
	assert.Equal(t, "letter.pdf", about.Origin.Path)
	about.Origin = nil
	require.Equal(t, http.StatusOK, c.do("GET", "/api/packets/"+c.newPacket().ID+"/origin", nil, &about))
	assert.Nil(t, about.Origin)
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/packets/none/origin", nil, nil))

	var e export.Export
	require.Equal(t, http.StatusAccepted, c.do("POST", "/api/packets/"+opened.Packet+"/exports", map[string]string{}, &e))
	await.Until(t, func() bool {
		c.do("GET", "/api/exports/"+e.ID, nil, &e)
		return e.State == "done"
	})
	var since struct{ Since *export.Since }
	require.Equal(t, http.StatusOK, c.do("GET", "/api/exports/"+e.ID+"/since", nil, &since))
	assert.Nil(t, since.Since)
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/exports/none/since", nil, nil))
	save := "/api/exports/" + e.ID + "/save-back"
	require.NoError(t, os.WriteFile(path, []byte("theirs"), 0o600))
	assert.Equal(t, http.StatusConflict, c.do("POST", save, filing.SaveOrder{}, nil))
	require.Equal(t, http.StatusOK, c.do("POST", save, filing.SaveOrder{Beside: true}, &about))
	assert.Equal(t, "letter-2.pdf", about.Origin.Path)
}
