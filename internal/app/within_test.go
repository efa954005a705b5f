package app_test

import (
	"bytes"
	"image/jpeg"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/core/shrink"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/sampling"
)

// mixed is a packet of text, scans, a photograph of paper and one of a roof.
func mixed(t *testing.T, a *app.App) string {
	t.Helper()
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "quotes.tif", scans(t, 0, 1))
	add(t, a, id, "insurance.jpg", paper(t, "insurance.jpg"))
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	return id
}

// planned waits until all pages of a plan are measured.
func planned(t *testing.T, a *app.App, id string) export.Plan {
	t.Helper()
	return plannedUntil(t, a, id, func(plan export.Plan) bool { return plan.Waiting == 0 })
}

// plannedUntil waits until a plan is as is said.
func plannedUntil(t *testing.T, a *app.App, id string, isSo func(export.Plan) bool) (plan export.Plan) {
	t.Helper()
	await.Until(t, func() bool {
		var err error
		plan, err = a.Export.Plan(t.Context(), id, "")
		require.NoError(t, err)
		return isSo(plan)
	}, &plan)
	return plan
}

func TestADocumentFitsUnderItsLimit(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := mixed(t, a)
	first, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Fit, Limit: 1_000_000})
	require.NoError(t, err)
	assert.Equal(t, 4, first.Waiting, "scans and photographs are measured; text is not touched")
	plan := planned(t, a, id)
	assert.True(t, plan.Fits)
	assert.LessOrEqual(t, plan.After, int64(1_000_000))
	assert.Less(t, plan.Smallest, int64(500_000))
	assert.Equal(t, shrink.Original, plan.Pages[0].Encoding)

	for _, limit := range []int64{1_500_000, plan.Smallest + 60_000} {
		path, e := exportSized(t, a, id, export.ExportOrder{Size: planning.Fit, Limit: limit})
		assert.LessOrEqual(t, e.Receipt.Bytes, limit)
		assert.GreaterOrEqual(t, e.Receipt.Bytes, limit*85/100, "of %d bytes", limit)
		_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Fit, Limit: limit})
		require.NoError(t, err)
		foretold := planned(t, a, id)
		assert.InDelta(t, e.Receipt.Bytes, foretold.After, float64(foretold.Uncertainty), "as was foretold")
		assert.LessOrEqual(t, foretold.After+foretold.Uncertainty, limit+1)
		info, err := os.Stat(path)
		require.NoError(t, err)
		assert.Equal(t, e.Receipt.Bytes, info.Size())
		assert.Equal(t, limit, e.Receipt.Limit)
		assert.Empty(t, e.Receipt.Differences)
		for _, page := range e.Receipt.Became {
			assert.GreaterOrEqual(t, page.Kept, 0.97, "page %d", page.Number)
		}
	}

	path, _ := exportSized(t, a, id, export.ExportOrder{Make: export.PDFPerPart, Names: "{packet} - {part}", Size: planning.Fit, Limit: 700_000})
	info, err := os.Stat(path)
	require.NoError(t, err)
	assert.LessOrEqual(t, info.Size(), int64(700_000), "all of them together")
	assert.GreaterOrEqual(t, info.Size(), int64(595_000))
	assert.Equal(t, "Test packet - Form.pdf", filepath.Base(unzip(t, path)[0]))

	_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Fit, Limit: 80_000})
	require.NoError(t, err)
	plan = planned(t, a, id)
	assert.False(t, plan.Fits, "a limit that cannot be met")
	assert.Greater(t, plan.Smallest, int64(80_000))
	require.NotEmpty(t, plan.Helps)
	assert.Zero(t, plan.Files, "a photograph alone is heavier")
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Size: planning.Fit, Limit: 80_000})
	require.NoError(t, err)
	done := waitFor(t, a, started.ID)
	assert.Equal(t, "failed", done.State)
	assert.Contains(t, done.Problem.English, "cannot go below")
	assert.Contains(t, done.Problem.English, "Page ")

	some, err := a.Export.Plan(t.Context(), id, "7-8")
	require.NoError(t, err)
	require.Len(t, some.Pages, 2)
	assert.Equal(t, []int{7, 8}, []int{some.Pages[0].Number, some.Pages[1].Number}, "as in the packet")
	assert.Equal(t, plan.Pages[6].Before+plan.Pages[7].Before, some.Before)
	assert.Len(t, some.Only, 2)
	started, err = a.Export.Start(t.Context(), id, export.ExportOrder{Size: planning.Fit, Limit: 10_000, Range: "7-8"})
	require.NoError(t, err)
	done = waitFor(t, a, started.ID)
	assert.Regexp(t, "Page [78] is", done.Problem.English, "as in the packet")
	_, err = a.Export.Plan(t.Context(), id, "7-99")
	require.ErrorContains(t, err, "There is no page 99")
}

func TestAPhotographInGrey(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "roof.jpg", paper(t, "roof-1.jpg"))
	page := get(t, a, id).Parts[0].Pages[0].ID
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller})
	require.NoError(t, err)
	colour := planned(t, a, id).Pages[0]
	assert.Contains(t, colour.Overrides, shrink.InGrey)
	_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller, Overrides: map[packet.PageID]shrink.Override{page: shrink.InGrey}})
	require.NoError(t, err)
	grey := planned(t, a, id).Pages[0]
	assert.True(t, grey.Grey)
	assert.Less(t, grey.After, colour.After)

	for _, planned := range []export.PlannedPage{colour, grey} {
		path, err := a.Export.Proof(t.Context(), id, page, planned.EncodingParams, 960)
		require.NoError(t, err)
		data, err := os.ReadFile(path)
		require.NoError(t, err)
		img, err := jpeg.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		assert.Equal(t, planned.Grey, raster.IsGrey(img))
	}
	path, e := exportLighter(t, a, id)
	assert.True(t, e.Receipt.Became[0].Grey)
	assert.Contains(t, run(t, "pdfimages", "-list", path), "gray")
}

func TestPagesAreHeld(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "quotes.tif", scans(t, 0, 1, 2, 3))
	pages := map[int]packet.PageID{}
	for _, part := range get(t, a, id).Parts {
		for _, page := range part.Pages {
			pages[page.Number] = page.ID
		}
	}
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller, Overrides: map[packet.PageID]shrink.Override{
		pages[5]: shrink.KeepAsItIs, pages[6]: shrink.InBlack, pages[7]: shrink.AsPhoto, pages[8]: shrink.KeepColour, "gone": shrink.InBlack,
	}})
	require.NoError(t, err)
	plan := planned(t, a, id)
	assert.Len(t, plan.Overrides, 4, "of pages that are there")
	ways := map[int]shrink.Encoding{}
	for _, page := range plan.Pages {
		ways[page.Number] = page.Encoding
	}
	assert.Equal(t, shrink.Original, ways[5])
	assert.Equal(t, shrink.OneBit, ways[6])
	assert.Equal(t, shrink.Original, ways[7], "a JPEG of 200 dots an inch is not made of one")
	assert.Equal(t, shrink.Layers, ways[8])
	_, e := exportLighter(t, a, id)
	became := map[int]shrink.Encoding{}
	for _, page := range e.Receipt.Became {
		became[page.Number] = page.Encoding
	}
	assert.NotContains(t, became, 5)
	assert.Equal(t, shrink.OneBit, became[6])

	_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Fit})
	require.ErrorIs(t, err, problem.Invalid)
	_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Overrides: map[packet.PageID]shrink.Override{pages[5]: "upside down"}})
	require.ErrorIs(t, err, problem.Invalid)
}

func TestADocumentThatDoesNotFitIsSplit(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", scans(t, 0, 1, 3))
	_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Fit, Limit: 23_000})
	require.NoError(t, err)
	plan := planned(t, a, id)
	assert.False(t, plan.Fits)
	assert.Greater(t, plan.Files, 1)
	_, e := exportSized(t, a, id, export.ExportOrder{Make: export.PDFsBySize, Size: planning.Smaller, Limit: 23_000})
	assert.Len(t, e.Receipt.Files, plan.Files, "as many as was said")
	for _, file := range e.Receipt.Files {
		assert.LessOrEqual(t, file.Bytes, int64(23_000), file.Name)
	}
}

func TestCancellingWhileADocumentIsFittedLeavesNothing(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", scans(t, 0, 1, 3))
	before := keptFiles(t, folder)
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Size: planning.Fit, Limit: 90_000})
	require.NoError(t, err)
	await.Until(t, func() bool {
		e, err := a.Export.Get(t.Context(), started.ID)
		require.NoError(t, err)
		require.NotEqual(t, "done", e.State, "it was to be cancelled before")
		return e.Done > 0 || e.Measured > 1
	})
	_, err = a.Export.Cancel(t.Context(), started.ID)
	require.NoError(t, err)
	assert.Equal(t, "cancelled", waitFor(t, a, started.ID).State)
	assert.Equal(t, before, keptFiles(t, folder))
	left, err := filepath.Glob(filepath.Join(folder, "incoming", "*"))
	require.NoError(t, err)
	assert.Empty(t, left)
	_, e := exportSized(t, a, id, export.ExportOrder{Size: planning.Fit, Limit: 90_000})
	assert.LessOrEqual(t, e.Receipt.Bytes, int64(90_000), "it can be made afterwards")
}
