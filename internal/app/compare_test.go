package app_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/hostile"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
)

// comparedExport exports a packet and waits until its pages are compared with the bench.
func comparedExport(t *testing.T, a *app.App, id string, order export.ExportOrder) *export.Receipt {
	t.Helper()
	started, err := a.Export.Start(t.Context(), id, order)
	require.NoError(t, err)
	e := waitFor(t, a, started.ID)
	require.Equal(t, "done", e.State, e.Problem)
	return compared(t, a, started.ID).Receipt
}

// compared waits until all pages of an export were compared with the bench.
func compared(t *testing.T, a *app.App, id string) (e export.Export) {
	t.Helper()
	await.Until(t, func() bool {
		var err error
		e, err = a.Export.Get(t.Context(), id)
		require.NoError(t, err)
		return *e.Receipt.Compared == e.Receipt.Pages
	})
	return e
}

// TestPagesLookAsOnTheBench exports papers of the demo, with every kind of adjustment, in
// every way, and has no page look otherwise than on the bench.
func TestPagesLookAsOnTheBench(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", scans(t, 0, 1, 3))
	for _, name := range []string{"application-form.pdf", "site-plan.pdf", "roof-1.jpg"} {
		add(t, a, id, name, paper(t, name))
	}
	apply(t, a, id,
		packet.Turn{Selected: packet.InRange("1, 8"), By: 90},
		packet.Turn{Selected: packet.InRange("4"), By: 180},
		packet.Flip{Selected: packet.InRange("2, 5"), Axis: "leftRight"},
		packet.Crop{Selected: packet.InRange("3, 6"), Box: millimetres(20, 20, 190, 200)},
		packet.Straighten{Selected: packet.InRange("7"), Angle: -2.4},
	)
	for name, order := range map[string]export.ExportOrder{
		"as it is": {}, "lighter": {Size: planning.Smaller}, "parts": {Make: export.PDFPerPart},
	} {
		receipt := comparedExport(t, a, id, order)
		assert.Empty(t, receipt.Differences, name)
	}
}

// TestWhatCannotBeReadIsSaid has pictures that no decoder of ours reads: there is a finding with
// the reason, and the receipt names the page.
func TestWhatCannotBeReadIsSaid(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "site-plan.pdf", paper(t, "site-plan.pdf"))
	add(t, a, id, "letter.jpg", hostile.Named("no Huffman table.jpg"))
	add(t, a, id, "scan.pdf", hostile.Named("picture that cannot be decoded.pdf"))
	receipt := comparedExport(t, a, id, export.ExportOrder{})
	await.Until(t, func() bool {
		findings, err := a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		return findings.Waiting == 0
	})
	findings, err := a.Checking.Findings(t.Context(), id)
	require.NoError(t, err)
	var unread []string
	for _, finding := range findings.Findings {
		if finding.Kind == check.Unread {
			unread = append(unread, finding.Sentence.English)
			assert.NotEmpty(t, finding.Settle)
		}
	}
	assert.Equal(t, []string{
		"Page 2 (page 1 of letter.jpg) is damaged and cannot be shown",
		"Page 3 (page 1 of scan.pdf) looks blank, but has a picture that cannot be read: its file is damaged",
	}, unread)
	assert.Equal(t, []string{
		"Page 2 (page 1 of letter.jpg) went in as it is, and it could not be shown: it is damaged and cannot be shown.",
		"Page 3 (page 1 of scan.pdf) looks blank, but has a picture that cannot be read: its file is damaged.",
	}, inEnglish(receipt.Differences))
}

func inEnglish(texts []message.Text) []string {
	var english []string
	for _, text := range texts {
		english = append(english, text.English)
	}
	return english
}

// TestPicturesOfWhatCannotBeReadAreNotSilent makes pictures of a page that other readers show
// blank.
func TestPicturesOfWhatCannotBeReadAreNotSilent(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "letter.jpg", hostile.Named("no Huffman table.jpg"))
	add(t, a, id, "site-plan.pdf", paper(t, "site-plan.pdf"))
	for _, kind := range []export.Make{export.JPEGs, export.TIFF} {
		receipt := comparedExport(t, a, id, export.ExportOrder{Make: kind, DPI: 72})
		assert.Equal(t, []string{"Page 1 (page 1 of letter.jpg) went in as it is, and it could not be shown: it is damaged and cannot be shown."}, inEnglish(receipt.Differences))
	}
}

func TestComparisonGoesOnAfterARestart(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	add(t, a, id, "application-form.pdf", paper(t, "application-form.pdf"))
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{})
	require.NoError(t, err)
	waitFor(t, a, started.ID)
	require.NoError(t, a.Close())
	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	await.Until(t, func() bool {
		e, err := a.Export.Get(t.Context(), started.ID)
		require.NoError(t, err)
		return *e.Receipt.Compared == 4
	})
}
