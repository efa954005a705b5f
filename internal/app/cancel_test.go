package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/export"
	"dorbin/internal/handin/sim"
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
