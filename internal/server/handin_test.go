package server_test

import (
	"net/http"
	"net/http/httptest"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/requirements"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/handin"
	"dorbin/internal/handin/sim"
	"dorbin/internal/keeping"
	"dorbin/internal/store"
)

func TestHandingInOverHTTP(t *testing.T) {
	c := start(t)
	office := httptest.NewServer(sim.New("Fund", t.TempDir(), sim.State{}).Handler())
	defer office.Close()
	id := c.newPacket().ID
	c.upload(id, namedFile{"letter.pdf", textPDF("Dear all")})
	var e export.Export
	require.Equal(t, http.StatusAccepted, c.do("POST", "/api/packets/"+id+"/exports", map[string]string{}, &e))
	await.Until(t, func() bool {
		c.do("GET", "/api/exports/"+e.ID, nil, &e)
		return e.State == "done"
	})
	deliveries := "/api/exports/" + e.ID + "/deliveries"
	to := func(by requirements.Channel, address string) handin.Order {
		return handin.Order{Delivery: requirements.Delivery{By: by, Address: address}}
	}
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("POST", deliveries, to(requirements.ByPortal, "http://fund.example/"), nil))
	assert.Equal(t, http.StatusNotFound, c.do("POST", "/api/exports/none/deliveries", to(requirements.ByDownload, ""), nil))

	var d handin.HandedIn
	require.Equal(t, http.StatusAccepted, c.do("POST", deliveries, to(requirements.ByPortal, office.URL+"/upload"), &d))
	await.Until(t, func() bool {
		var all []handin.HandedIn
		require.Equal(t, http.StatusOK, c.do("GET", "/api/packets/"+id+"/deliveries", nil, &all))
		d = all[0]
		return d.State == store.DeliveryDone
	})
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/deliveries/"+d.ID+"/again", map[string]string{}, nil))
	assert.Equal(t, http.StatusNotFound, c.do("POST", "/api/deliveries/none/cancel", nil, nil))
	file, err := http.Get(c.url + "/api/deliveries/" + d.ID + "/file") //nolint:noctx // short
	require.NoError(t, err)
	defer file.Body.Close() //nolint:errcheck // only read from
	assert.Equal(t, d.Bytes, file.ContentLength)
	var last []handin.HandedIn
	require.Equal(t, http.StatusOK, c.do("GET", "/api/deliveries", nil, &last))
	assert.Len(t, last, 1)

	path := "/api/packets/" + id
	var k keeping.Keeping
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("PUT", path+"/keeping", keeping.KeepOrder{Until: "2020-01-01"}, nil))
	require.Equal(t, http.StatusOK, c.do("PUT", path+"/keeping", keeping.KeepOrder{Until: "2999-12-31", Lines: true}, &k))
	assert.Equal(t, "2999-12-31", k.Until)
	require.Equal(t, http.StatusOK, c.do("DELETE", path, nil, nil))
	assert.Equal(t, http.StatusNotFound, c.do("GET", path+"/keeping", nil, nil))
	var lines []keeping.DeliveryLine
	require.Equal(t, http.StatusOK, c.do("GET", "/api/handed-in", nil, &lines))
	require.Len(t, lines, 1)
	require.Equal(t, http.StatusNoContent, c.do("DELETE", "/api/handed-in/"+lines[0].ID, nil, nil))
}
