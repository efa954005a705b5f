package server_test

import (
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/internal/arrange"
)

func TestCroppingOverHTTP(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"many.pdf", blankPDF(3)})
	p := c.packet(id)
	pages := pageIDs(p)
	var contents []arrange.PageContent
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/content", map[string]any{"pages": pages}, &contents))
	require.Len(t, contents, 3)
	assert.Nil(t, contents[0].Content, "the pages are empty")

	crop := packet.Crop{Selected: packet.InRange("2-3"), Box: &geometry.Box{X0: 50, Y0: 60, X1: 450, Y1: 660}}
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/commands", commands{p.Revision, []packet.Command{crop}}, nil))
	now := c.packet(id)
	cropped := now.Parts[0].Pages[1]
	assert.InDelta(t, 400, cropped.Width, 0.01)
	require.NotNil(t, cropped.Crop)
	assert.InDelta(t, 50, cropped.Crop.X0, 0.01)
	assert.Nil(t, now.Parts[0].Pages[0].Crop)

	crop.Box = &geometry.Box{X0: 590, Y0: 0, X1: 595, Y1: 100}
	var refused problem
	require.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/packets/"+id+"/commands", commands{now.Revision, []packet.Command{crop}}, &refused))
	assert.Equal(t, "Page 2: the rectangle leaves less than 5 mm of the page.", refused.Detail)

	assert.Equal(t, http.StatusOK, c.do("GET", "/api/packets/"+id+"/overlay?pages="+string(pages[0])+","+string(pages[1]), nil, nil))
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/packets/"+id+"/overlay?pages=p99", nil, nil))
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", "/api/packets/"+id+"/overlay", nil, nil))
	source := string(cropped.Source)
	assert.Equal(t, http.StatusOK, c.do("GET", "/api/sources/"+source+"/pages/2/image?width=120&adjustments="+url.QueryEscape(`{"crop":{"x0":50,"y0":60,"x1":450,"y1":660},"straighten":2}`), nil, nil))
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", "/api/sources/"+source+"/pages/2/image?adjustments="+url.QueryEscape(`{"crop":{"x0":9000,"y0":60,"x1":9450,"y1":660}}`), nil, nil))
}
