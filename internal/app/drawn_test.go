package app_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/sampling"
)

// TestAPageThatIsDrawnIsAsLargeAsForetold has a picture made of one page of a PDF: of several that share their fonts, and
// of one that lies on a smaller sheet.
func TestAPageThatIsDrawnIsAsLargeAsForetold(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	inGrey := func(on packet.Selected) packet.Command {
		return packet.Tone{Selected: on, Tone: raster.Tone{Mode: raster.GrayTone}}
	}
	t.Run("one of four", func(t *testing.T) {
		id := newPacket(t, a)
		add(t, a, id, "application-form.pdf", paper(t, "application-form.pdf"))
		before, err := a.Export.Plan(t.Context(), id, "")
		require.NoError(t, err)
		apply(t, a, id, inGrey(packet.On(get(t, a, id).Parts[0].Pages[0].ID)))
		guessed, err := a.Export.Plan(t.Context(), id, "")
		require.NoError(t, err)
		assert.Greater(t, guessed.After, 3*before.After, "a page of text as a picture")
		requireAsForetold(t, a, id)
	})
	t.Run("on a smaller sheet", func(t *testing.T) {
		id := newPacket(t, a)
		add(t, a, id, "site-plan.pdf", paper(t, "site-plan.pdf"))
		on := packet.On(get(t, a, id).Parts[0].Pages[0].ID)
		apply(t, a, id, packet.Fit{Selected: on, Fit: &geometry.SheetLayout{Paper: geometry.A4, Follow: true, Scale: geometry.Fill}}, inGrey(on))
		list := strings.Fields(run(t, "pdfimages", "-list", requireAsForetold(t, a, id)))
		assert.Equal(t, []string{"300", "300"}, list[len(list)-4:len(list)-2], "dots an inch, of the sheet")
	})
}

// requireAsForetold exports a packet once its plan is certain within 20 KB, and compares the document with it.
func requireAsForetold(t *testing.T, a *app.App, id string) (document string) {
	t.Helper()
	plan := plannedUntil(t, a, id, func(plan export.Plan) bool { return plan.Uncertainty < 20_000 })
	document, made := exportAsItIs(t, a, id)
	assert.InDelta(t, made.Receipt.Bytes, plan.After, float64(plan.Uncertainty))
	return document
}
