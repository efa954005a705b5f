package store

import (
	"os"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/requirements"
)

// TestALineOfWhatWasHandedInHasNoContent deletes a packet of which an e-mail was sent.
func TestALineOfWhatWasHandedInHasNoContent(t *testing.T) {
	folder := t.TempDir()
	s := open(t, folder)
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("Roof")))
	pin := save(t, s, "the document")
	d := Delivery{
		ID: "d1", Packet: "k", Export: "e1", Name: "roof.pdf", Blob: pin.SHA256, Bytes: 12, Pages: 3, State: DeliveryDone, Answer: message.Plain("250 taken"), Ended: time.Now(),
		Delivery: requirements.Delivery{By: requirements.ByMail, Address: "post@fund.example", Subject: "confidential subject", Text: "confidential text"},
	}
	require.NoError(t, s.AddDelivery(t.Context(), d))
	failed := d
	failed.ID, failed.State = "d2", DeliveryFailed
	require.NoError(t, s.AddDelivery(t.Context(), failed))
	pin.Release()
	_, err := os.Stat(s.FilePath(d.Blob))
	require.NoError(t, err, "a delivery owns its file")
	last, err := s.LastDeliveries(t.Context())
	require.NoError(t, err)
	require.Len(t, last, 1)
	assert.Equal(t, "d1", last[0].ID)

	require.NoError(t, s.DeletePacket(t.Context(), "k"))
	lines, err := s.HandedIn(t.Context())
	require.NoError(t, err)
	require.Len(t, lines, 1, "what did not arrive leaves no line")
	assert.Equal(t, requirements.Delivery{By: requirements.ByMail, Address: "post@fund.example"}, lines[0].Delivery)
	assert.Equal(t, "Roof", lines[0].Packet)
	_, err = os.Stat(s.FilePath(d.Blob))
	require.ErrorIs(t, err, os.ErrNotExist)
	require.NoError(t, s.Close())
	data, err := os.ReadFile(folder + "/dorbin.db") //nolint:gosec // of the test
	require.NoError(t, err)
	assert.False(t, strings.Contains(string(data), "confidential"), "nothing is left in the database")
}

func TestDeliveriesOfDeletedPacketsAreGone(t *testing.T) {
	s := open(t, t.TempDir())
	d := Delivery{ID: "d1", Packet: "k", Delivery: requirements.Delivery{By: requirements.ByDownload}}
	require.ErrorIs(t, s.AddDelivery(t.Context(), d), ErrNotFound)
	require.ErrorIs(t, s.UpdateDelivery(t.Context(), d), ErrNotFound)
	_, err := s.Delivery(t.Context(), "d1")
	require.ErrorIs(t, err, ErrNotFound)
	require.ErrorIs(t, s.SetKeeping(t.Context(), "k", Keeping{}), ErrNotFound)
}

// TestAPacketIsNotDeletedWhileItIsChanged lists a packet as due only if nobody has changed it for a while.
func TestAPacketIsNotDeletedWhileItIsChanged(t *testing.T) {
	s := open(t, t.TempDir())
	require.NoError(t, s.CreatePacket(t.Context(), "k", packet.New("Roof")))
	require.NoError(t, s.SetKeeping(t.Context(), "k", Keeping{Until: "2026-03-03"}))
	due := func(day string, since time.Time) []string {
		ids, err := s.PacketsKeptUntilBefore(t.Context(), day, since)
		require.NoError(t, err)
		return ids
	}
	hour := time.Hour
	assert.Empty(t, due("2026-03-03", time.Now().Add(hour)), "it is the last day")
	assert.Empty(t, due("2026-03-04", time.Now().Add(-hour)), "it was changed a moment ago")
	assert.Equal(t, []string{"k"}, due("2026-03-04", time.Now().Add(hour)))
}
