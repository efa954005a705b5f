package app_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/export"
)

// TestAnExportThatIsCancelledAsItBeginsEnds cancels exports at every moment of their beginning: none is left as one that
// waits or runs.
func TestAnExportThatIsCancelledAsItBeginsEnds(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "letter.pdf", book(1))
	for i := range 40 {
		started, err := a.Export.Start(t.Context(), id, export.ExportOrder{})
		require.NoError(t, err)
		time.Sleep(time.Duration(i) * 50 * time.Microsecond)
		_, err = a.Export.Cancel(t.Context(), started.ID)
		require.NoError(t, err)
		assert.Contains(t, []string{"cancelled", "done"}, waitFor(t, a, started.ID).State)
	}
}
