package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/export"
	"dorbin/internal/handin/sim"
	"dorbin/internal/intake"
	"dorbin/internal/jobs"
	"dorbin/internal/store"
)

// sweep calls cancel at 40 moments of what start begins.
func sweep(t *testing.T, start func() string, cancel func(id string), state func(id string) string) {
	t.Helper()
	for i := range 40 {
		id := start()
		time.Sleep(time.Duration(i) * 50 * time.Microsecond)
		cancel(id)
		assert.Contains(t, []string{"cancelled", "done"}, state(id))
	}
}

// TestAnExportThatIsCancelledAsItBeginsEnds cancels exports at every moment of their beginning: none is left as one that
// waits or runs.
func TestAnExportThatIsCancelledAsItBeginsEnds(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "letter.pdf", book(1))
	sweep(t, func() string {
		started, err := a.Export.Start(t.Context(), id, export.ExportOrder{})
		require.NoError(t, err)
		return started.ID
	}, func(id string) {
		_, err := a.Export.Cancel(t.Context(), id)
		require.NoError(t, err)
	}, func(id string) string { return waitFor(t, a, id).State })
}

// TestADeliveryThatIsCancelledAsItBeginsEnds does so with deliveries.
func TestADeliveryThatIsCancelledAsItBeginsEnds(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	_, order := newPortal(t, sim.State{})
	_, made := formMade(t, a)
	sweep(t, func() string {
		started, err := a.HandIn.Start(t.Context(), made, order)
		require.NoError(t, err)
		return started.ID
	}, func(id string) {
		_, err := a.HandIn.Cancel(t.Context(), id)
		require.NoError(t, err)
	}, func(id string) string { return string(ended(t, a, id).State) })
}

// TestWhatIsCancelledAsTheProgramEndsStaysSo opens a folder in which an export and a delivery are cancelled, whose jobs were
// not removed any more.
func TestWhatIsCancelledAsTheProgramEndsStaysSo(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	office, order := newPortal(t, sim.State{})
	a := openApp(t, folder, intake.DefaultLimits)
	packetID, made := formMade(t, a)
	started, err := a.HandIn.Start(t.Context(), made, order)
	require.NoError(t, err)
	ended(t, a, started.ID)
	require.NoError(t, a.Close())

	s, err := store.Open(folder)
	require.NoError(t, err)
	e, err := s.Export(t.Context(), made)
	require.NoError(t, err)
	e.ID, e.State, e.Blob = "cancelled-export", store.ExportCancelled, ""
	require.NoError(t, s.AddExport(t.Context(), e, jobs.Job{Kind: store.JobExport, Key: e.ID}))
	require.NoError(t, s.UpdateExport(t.Context(), e))
	d, err := s.Delivery(t.Context(), started.ID)
	require.NoError(t, err)
	d.ID, d.State = "cancelled-delivery", store.DeliveryCancelled
	require.NoError(t, s.AddDelivery(t.Context(), d, jobs.Job{Kind: store.JobHandIn, Key: d.ID}))
	require.NoError(t, s.Close())

	a = openApp(t, folder, intake.DefaultLimits)
	_, again := exportAsItIs(t, a, packetID) // the jobs before it have been taken
	last, err := a.HandIn.Start(t.Context(), again.ID, order)
	require.NoError(t, err)
	ended(t, a, last.ID)
	assert.Equal(t, "cancelled", waitFor(t, a, e.ID).State)
	assert.Equal(t, "cancelled", string(ended(t, a, d.ID).State))
	require.NoError(t, a.Close())
	assert.Equal(t, 2, office.Attempts(), "the first and the last")
}
