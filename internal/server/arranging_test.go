package server_test

import (
	"net/http"
	"net/url"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/internal/arrange"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
	"dorbin/internal/server"
)

func TestSelectionInWords(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"many.pdf", blankPDF(6)})
	path := "/api/packets/" + id + "/selection?text="
	var chosen server.Selection
	require.Equal(t, http.StatusOK, c.do("GET", path+url.QueryEscape("2-3, last"), nil, &chosen))
	assert.Len(t, chosen.Pages, 3)
	require.Equal(t, http.StatusOK, c.do("GET", path+url.QueryEscape("1, 9"), nil, &chosen))
	assert.Equal(t, server.Selection{Pages: []packet.PageID{}, Problem: message.Of("There is no page %d: there are %d.", 9, 6), At: 3}, chosen)
	assert.Equal(t, http.StatusNotFound, c.do("GET", "/api/packets/none/selection?text=1", nil, nil))
}

func TestHistoryOverHTTP(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"many.pdf", blankPDF(4)})
	p := c.packet(id)
	reverse := commands{p.Revision, []packet.Command{packet.Reverse{Selected: packet.InRange("all")}}}
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/commands", reverse, nil))
	var steps []packets.Step
	require.Equal(t, http.StatusOK, c.do("GET", "/api/packets/"+id+"/history", nil, &steps))
	require.Len(t, steps, 2)
	assert.Equal(t, "Reversed the order of 4 pages", steps[1].Words.English)
	var change packets.Change
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/history", c.step(id, 0), &change))
	assert.Empty(t, pageIDs(c.packet(id)))
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/history", c.step(id, 1), &change))
	assert.Equal(t, pageIDs(p), pageIDs(c.packet(id)))
	assert.Equal(t, http.StatusNotFound, c.do("POST", "/api/packets/"+id+"/history", c.step(id, 7), nil))
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("POST", "/api/packets/"+id+"/history", c.step(id, -1), nil))
}

// pageIDs is the order of a packet's pages.
func pageIDs(p packets.Packet) []packet.PageID {
	var ids []packet.PageID
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			ids = append(ids, page.ID)
		}
	}
	return ids
}

func TestReviewedAndFindingsOverHTTP(t *testing.T) {
	sampling.Slow(t)
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"many.pdf", blankPDF(2)})
	first := c.packet(id).Parts[0].Pages[0].ID
	marked := map[string]any{"pages": []packet.PageID{first}, "reviewed": true}
	require.Equal(t, http.StatusNoContent, c.do("POST", "/api/packets/"+id+"/reviewed", marked, nil))
	assert.Equal(t, "yes", c.packet(id).Parts[0].Pages[0].Reviewed)

	found := c.checked(id)
	require.Len(t, found.Findings, 2)
	assert.Equal(t, "Page 1 is blank", found.Findings[0].Sentence.English)
	accepted := map[string]any{"keys": []string{found.Findings[0].Key}, "accepted": true}
	require.Equal(t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/findings/accept", accepted, &found))
	assert.Len(t, found.Findings, 1)
	assert.Equal(t, 1, found.Accepted)
}

func TestSplitsAndTakingOutOverHTTP(t *testing.T) {
	c := start(t)
	id := c.newPacket().ID
	c.upload(id, namedFile{"many.pdf", blankPDF(5)})
	part := c.packet(id).Parts[0]
	path := "/api/packets/" + id + "/parts/" + string(part.ID) + "/split"
	var split arrange.Split
	require.Equal(t, http.StatusOK, c.do("GET", path+"?by=count&n=2", nil, &split))
	assert.Equal(t, []int{2, 2, 1}, split.Counts)
	assert.Equal(t, http.StatusUnprocessableEntity, c.do("GET", path+"?by=magic", nil, nil))

	e := c.finished(id, map[string]any{"pages": []packet.PageID{part.Pages[1].ID, part.Pages[4].ID}})
	assert.Equal(t, 2, e.Total)
	assert.Equal(t, 2, e.Receipt.Pages)
}
