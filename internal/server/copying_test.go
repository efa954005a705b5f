package server_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/internal/await"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

func TestPagesAreBroughtFromAnotherPacket(t *testing.T) {
	c := start(t)
	from, to := c.newPacket().ID, c.newPacket().ID
	c.upload(from, namedFile{"many.pdf", blankPDF(4)}, namedFile{"photo.png", pngFile(t, 300, 200)})
	there := c.packet(from)
	turned := commands{there.Revision, packet.Commands{packet.Turn{Selected: packet.InRange("2"), By: 90}}}
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+from+"/commands", turned, nil))
	ids := pageIDs(there)
	bring := func(d packet.Destination, pages ...packet.PageID) int {
		step := commands{c.packet(to).Revision, packet.Commands{packet.Bring{From: from, FromPages: pages, Destination: d}}}
		return c.do("POST", "/api/packets/"+to+"/commands", step, nil)
	}

	require.Equal(t, http.StatusOK, bring(packet.Destination{}, ids[1], ids[4]))
	here := c.packet(to)
	require.Len(t, here.Parts, 1)
	assert.Equal(t, "Many", here.Parts[0].Title)
	assert.Equal(t, 90, here.Parts[0].Pages[0].Turn)
	require.Len(t, here.Sources, 2)
	assert.NotEqual(t, there.Sources[0].ID, here.Sources[0].ID, "each packet has its own sources")

	require.Equal(t, http.StatusOK, bring(packet.Destination{Before: here.Parts[0].Pages[0].ID}, ids[3]))
	assert.Len(t, c.packet(to).Sources, 2, "the file is there already")
	assert.Equal(t, 4, c.packet(to).Parts[0].Pages[0].SourcePage)
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+to+"/undo", c.revision(to), nil))

	fresh := c.newPacket().ID
	to = fresh
	require.Equal(t, http.StatusUnprocessableEntity, bring(packet.Destination{After: "p99"}, ids[0]))
	assert.Empty(t, c.packet(fresh).Sources, "what could not be done leaves nothing")
	require.Equal(t, http.StatusUnprocessableEntity, bring(packet.Destination{}, "p99"))
	require.Equal(t, http.StatusUnprocessableEntity, bring(packet.Destination{}))

	// The other packet may go: the pages stay.
	to = here.ID
	require.Equal(t, http.StatusOK, c.do("DELETE", "/api/packets/"+from, nil, nil))
	assert.Equal(t, 2, c.finished(to, nil).Receipt.Pages)
	require.Equal(t, http.StatusUnprocessableEntity, bring(packet.Destination{}, ids[0]))
}

// finished exports a packet and waits for the file.
func (c client) finished(id string, body any) export.Export {
	c.t.Helper()
	var e export.Export
	if body == nil {
		body = map[string]any{}
	}
	require.Equal(c.t, http.StatusAccepted, c.do("POST", "/api/packets/"+id+"/exports", body, &e))
	await.Until(c.t, func() bool {
		return c.do("GET", "/api/exports/"+e.ID, nil, &e) == http.StatusOK && e.State == "done"
	})
	return e
}

func TestAPacketIsCopied(t *testing.T) {
	sampling.Slow(t)
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"many.pdf", blankPDF(3)}, namedFile{"photo.png", pngFile(t, 300, 200)})
	p := c.packet(id)
	ids := pageIDs(p)
	aside := commands{p.Revision, packet.Commands{packet.SetAside{Selected: packet.On(ids[2])}}}
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/commands", aside, nil))
	marked := map[string]any{"pages": ids[:1], "reviewed": true}
	require.Equal(t, http.StatusNoContent, c.do("POST", "/api/packets/"+id+"/reviewed", marked, nil))
	found := c.checked(id)
	require.NotEmpty(t, found.Findings)
	accepted := map[string]any{"keys": []string{found.Findings[0].Key}, "accepted": true}
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/findings/accept", accepted, &found))

	var copied packets.Packet
	require.Equal(t, http.StatusCreated, c.do("POST", "/api/packets/"+id+"/copies", map[string]string{"name": "Second try"}, &copied))
	assert.Equal(t, "Second try", copied.Name)
	assert.Equal(t, pageIDs(c.packet(id)), pageIDs(copied))
	assert.Len(t, copied.SetAside, 1)
	assert.Len(t, copied.Sources, 2)
	assert.Empty(t, copied.Undo, "its history begins anew")
	assert.Equal(t, "yes", copied.Parts[0].Pages[0].Reviewed)
	again := c.checked(copied.ID)
	assert.Equal(t, 1, again.Accepted)
	assert.Len(t, again.Findings, len(found.Findings))

	require.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/packets/"+id+"/copies", map[string]string{"name": " "}, nil))
	require.Equal(t, http.StatusNotFound, c.do("POST", "/api/packets/none/copies", map[string]string{"name": "x"}, nil))
	require.Equal(t, http.StatusOK, c.do("DELETE", "/api/packets/"+id, nil, nil))
	assert.Equal(t, 3, c.finished(copied.ID, nil).Receipt.Pages)
}

// checked waits until a packet's pages are analysed, and gives what there is to check.
func (c client) checked(id string) (found checking.Findings) {
	c.t.Helper()
	await.Until(c.t, func() bool {
		return c.do("GET", "/api/packets/"+id+"/findings", nil, &found) == http.StatusOK && found.Waiting == 0
	})
	return found
}
