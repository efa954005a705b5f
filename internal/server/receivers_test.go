package server_test

import (
	"bytes"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/internal/receivers"
)

func TestReceiversOverHTTP(t *testing.T) {
	c := start(t)
	var all []receivers.Known
	require.Equal(t, http.StatusOK, c.do("GET", "/api/receivers", nil, &all))
	require.Len(t, all, len(requirements.Shipped()))
	shipped := "/api/receivers/" + all[0].ID
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("DELETE", shipped, nil, nil))
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("PUT", shipped, all[0].Receiver, nil))

	var council receivers.Known
	require.Equal(t, http.StatusOK, c.do("POST", "/api/receivers", requirements.Receiver{Name: "Council", Rules: requirements.Rules{MostPages: 1}}, &council))
	own := "/api/receivers/" + council.ID
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("PUT", own, requirements.Receiver{Name: "Council", Rules: requirements.Rules{LeastPages: 5, MostPages: 1}}, nil))
	require.Equal(t, http.StatusOK, c.do("PUT", own, requirements.Receiver{Name: "Council", Rules: requirements.Rules{MostPages: 2}}, &council))
	assert.Equal(t, 2, council.Receiver.Rules.MostPages)
	assert.Equal(t, http.StatusNotFound, c.do("PUT", "/api/receivers/none", council.Receiver, nil))

	answer, err := http.Get(c.url + own + "/file")
	require.NoError(t, err)
	defer answer.Body.Close() //nolint:errcheck // only read from
	assert.Contains(t, answer.Header.Get("Content-Disposition"), "council.json")
	shared, err := requirements.ReadFile(answer.Body)
	require.NoError(t, err)
	assert.Equal(t, council.Receiver, shared)
	require.Equal(t, http.StatusNoContent, c.do("DELETE", own, nil, nil))
	assert.Equal(t, http.StatusNotFound, c.do("DELETE", own, nil, nil))

	var file bytes.Buffer
	require.NoError(t, requirements.WriteFile(&file, shared))
	for body, status := range map[string]int{file.String(): http.StatusOK, "nonsense": http.StatusUnprocessableEntity, strings.Repeat("A", 1<<20+9): http.StatusUnprocessableEntity} {
		sent, err := http.Post(c.url+"/api/receivers/import", "application/octet-stream", strings.NewReader(body))
		require.NoError(t, err)
		require.NoError(t, sent.Body.Close())
		assert.Equal(t, status, sent.StatusCode)
	}
}

func TestRequirementsOverHTTP(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	path := "/api/packets/" + id
	c.upload(id, namedFile{"terms.pdf", textPDF("One", "Two")})
	var view receivers.Requirements
	require.Equal(t, http.StatusOK, c.do("GET", path+"/requirements", nil, &view))
	assert.Nil(t, view.Receiver)
	council := requirements.Receiver{Name: "Council", Rules: requirements.Rules{MostPages: 1, Contents: true}}
	require.Equal(t, http.StatusOK, c.do("POST", path+"/commands", map[string]any{
		"revision": c.packet(id).Revision, "commands": packet.Commands{packet.SetReceiver{Receiver: &council}},
	}, nil))
	require.Equal(t, http.StatusOK, c.do("GET", path+"/requirements", nil, &view))
	require.Len(t, view.Rules, 2)
	assert.Equal(t, "2 pages, 1 too many", view.Rules[0].Why.English)
	assert.Equal(t, "Add a contents page", view.Rules[1].Settle.Words.English)
	assert.Equal(t, "Council", c.packet(id).Receiver.Name)
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/packets/none/requirements", nil, nil))
}
