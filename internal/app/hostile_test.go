package app_test

import (
	"bytes"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/planning"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/gather"
	"dorbin/internal/hostile"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
)

// TestHostileFiles adds files that are meant to stop the program, each to a packet of its own,
// and does with them what users do. Each is refused with a sentence that names it, or shown,
// checked and exported as far as it can be; a good file beside it is not hurt, also after a
// restart.
func TestHostileFiles(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	var names []string
	packets := map[string]string{}
	for _, file := range sampling.Of(t, hostile.Files(), 5) {
		name := file.Name
		names = append(names, name)
		packets[name] = newPacket(t, a)
		begun := time.Now()
		outcome, err := a.Gather.AddFile(t.Context(), packets[name], name, gather.Placement{}, bytes.NewReader(file.Data()))
		if !assert.NoError(t, err, name) {
			continue
		}
		t.Logf("%s: %s after %v: %s", name, outcome.Result, time.Since(begun).Round(time.Millisecond), outcome.Sentence)
		assert.Contains(t, outcome.Sentence.English, name, "the file is named")
	}
	good := newPacket(t, a)
	add(t, a, good, "site-plan.pdf", paper(t, "site-plan.pdf"))
	survive := func(a *app.App) {
		for _, name := range names {
			survived(t, a, packets[name], name)
		}
		path, e := exportAsItIs(t, a, good)
		require.Equal(t, "done", e.State, e.Problem)
		assert.Contains(t, run(t, "pdfinfo", path), "Pages:           1\n")
	}
	survive(a)
	require.NoError(t, a.Close())
	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	survive(a)
}

// survived looks at the pages of a packet, waits until they are analysed, and exports them.
func survived(t *testing.T, a *app.App, id, name string) {
	t.Helper()
	p := get(t, a, id)
	pages := 0
	for _, part := range p.Parts {
		for _, page := range part.Pages {
			if pages++; pages > 3 {
				break
			}
			_, _ = a.Packets.PagePicture(t.Context(), id, page.ID, 240) // some cannot be shown
		}
	}
	await.Until(t, func() bool {
		findings, err := a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		return findings.Waiting == 0
	}, name)
	if pages == 0 {
		return
	}
	for _, order := range []export.ExportOrder{{}, {Size: planning.Smaller}} {
		t.Logf("exporting %s, size %q", name, order.Size)
		started, err := a.Export.Start(t.Context(), id, order)
		require.NoError(t, err)
		e := waitFor(t, a, started.ID)
		if e.State == "failed" {
			assert.Contains(t, e.Problem.English, name, "the file is named")
		}
	}
}
