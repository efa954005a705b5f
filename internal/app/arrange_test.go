package app_test

import (
	"image"
	"math/rand/v2"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/app"
	"dorbin/internal/arrange"
	"dorbin/internal/await"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/intake"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

// seen waits until all pages of a packet have been looked at.
func seen(t testing.TB, a *app.App, id string) checking.Findings {
	t.Helper()
	var found checking.Findings
	await.Until(t, func() bool {
		var err error
		found, err = a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		return found.Waiting == 0
	})
	return found
}

func kinds(found checking.Findings) []string {
	out := []string{}
	for _, f := range found.Findings {
		out = append(out, f.Kind+": "+f.Sentence.English)
	}
	return out
}

func measuredOne(t testing.TB, a *app.App, id string) {
	t.Helper()
	await.Until(t, func() bool {
		for _, source := range get(t, a, id).Sources {
			if !source.Measured {
				return false
			}
		}
		return true
	})
}

func TestEveryCommandSaysWhatItChanged(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "accounts 10.pdf", paper(t, "accounts.pdf"))
	measuredOne(t, a, id)
	p := get(t, a, id)
	at := 0
	for _, c := range []packet.Command{
		packet.Turn{Selected: packet.InRange("odd"), By: 90},
		packet.Reverse{Selected: packet.InRange("2-6")},
		packet.Interleave{Selected: packet.InRange("all"), Backwards: true},
		packet.Deal{Selected: packet.InRange("all")},
		packet.Sort{Selected: packet.InRange("part 1")},
		packet.Swap{Selected: packet.InRange("1, last")},
		packet.InsertBlank{Size: geometry.A5, Destination: packet.Destination{Before: p.Parts[0].Pages[0].ID}},
		packet.Duplicate{Selected: packet.InRange("2, 3")},
		packet.Note{Selected: packet.InRange("2"), Title: "Is this the right one?"},
		packet.Divide{Selected: packet.InRange("3, 5")},
		packet.MovePart{Part: p.Parts[1].ID, At: at},
		packet.KeepOnly{Selected: packet.InRange("not 4")},
		packet.PartPerSource{},
		packet.Expect{Count: 12},
		packet.RemoveSource{Source: p.Sources[1].ID},
	} {
		apply(t, a, id, c)
	}
	steps, err := a.Packets.History(t.Context(), id)
	require.NoError(t, err)
	require.Len(t, steps, 17)
	assert.Equal(t, "Turned 4 pages right", steps[2].Words.English)
	assert.Equal(t, "Removed “accounts 10.pdf” from the packet", steps[16].Words.English)
	now := get(t, a, id)

	change, err := a.Packets.GoToStep(t.Context(), id, get(t, a, id).Revision, 2)
	require.NoError(t, err)
	back := get(t, a, id)
	requireChange(t, now, change, back)
	assert.Equal(t, p.Parts, back.Parts)
	change, err = a.Packets.GoToStep(t.Context(), id, get(t, a, id).Revision, 17)
	require.NoError(t, err)
	requireChange(t, back, change, get(t, a, id))
	assert.Equal(t, now.Parts, get(t, a, id).Parts)
	_, err = a.Packets.GoToStep(t.Context(), id, get(t, a, id).Revision, 18)
	require.ErrorIs(t, err, packets.ErrNotFound)
	for range 17 {
		undo(t, a, id)
	}
}

func TestBlankPagesAndDoublesAreExported(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	first := get(t, a, id).Parts[0].Pages[0].ID
	a5 := geometry.A5.Landscape()
	apply(t, a, id, packet.InsertBlank{Size: a5, Destination: packet.Destination{After: first}}, packet.Duplicate{Selected: packet.On(first)})
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, e.Receipt.Differences)
	info := run(t, "pdfinfo", "-f", "1", "-l", "6", path)
	assert.Contains(t, info, "Pages:           6")
	assert.Contains(t, strings.Join(strings.Fields(info), " "), "Page 3 size: 595.276 x 419.528 pts")
	assert.Empty(t, strings.TrimSpace(run(t, "pdftotext", "-f", "3", "-l", "3", path, "-")))
	assert.Equal(t, run(t, "pdftotext", "-f", "1", "-l", "1", path, "-"), run(t, "pdftotext", "-f", "2", "-l", "2", path, "-"))
	picture, err := a.Packets.PagePicture(t.Context(), id, get(t, a, id).Parts[0].Pages[2].ID, 100)
	require.NoError(t, err)
	assert.NotEmpty(t, picture)
}

func TestPagesTakenOut(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	p := get(t, a, id)
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Name: "two of them", Pages: []packet.PageID{p.Parts[0].Pages[3].ID, p.Parts[0].Pages[1].ID}})
	require.NoError(t, err)
	e := waitFor(t, a, started.ID)
	require.Equal(t, "done", e.State, e.Problem)
	path, name, err := a.Export.File(t.Context(), e.ID)
	require.NoError(t, err)
	assert.Equal(t, "two of them.pdf", name)
	assert.Contains(t, run(t, "pdfinfo", path), "Pages:           2")
	whole, _ := exportAsItIs(t, a, id)
	assert.Equal(t, run(t, "pdftotext", "-f", "2", "-l", "2", whole, "-"), run(t, "pdftotext", "-f", "1", "-l", "1", path, "-"))
	assert.Equal(t, p.Revision, get(t, a, id).Revision, "the packet stays as it is")
	_, err = a.Export.Start(t.Context(), id, export.ExportOrder{Pages: []packet.PageID{"p99"}})
	require.ErrorIs(t, err, problem.Invalid)
}

func TestWhatWasLookedAtIsForgottenWhenThePageChanges(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	pages := get(t, a, id).Parts[0].Pages
	require.NoError(t, a.Checking.MarkReviewed(t.Context(), id, []packet.PageID{pages[0].ID, pages[1].ID}, true))
	apply(t, a, id, packet.Turn{Selected: packet.On(pages[1].ID), By: 90},
		packet.Move{Selected: packet.On(pages[0].ID), Destination: packet.Destination{After: pages[3].ID}},
		packet.Note{Selected: packet.On(pages[0].ID), Title: "Fine"})
	require.NoError(t, a.Close())
	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	looked := func() (all []string) {
		for _, page := range get(t, a, id).Parts[0].Pages {
			all = append(all, page.Reviewed)
		}
		return all
	}
	assert.Equal(t, []string{"changed", "no", "no", "yes"}, looked(), "neither its place nor a note changes a page")
	chosen, err := a.Packets.Select(t.Context(), id, "not checked")
	require.NoError(t, err)
	assert.Len(t, chosen, 3)
	undo(t, a, id)
	assert.Equal(t, []string{"yes", "yes", "no", "no"}, looked(), "as it was checked")
	require.NoError(t, a.Checking.MarkReviewed(t.Context(), id, []packet.PageID{pages[0].ID, "p99"}, false))
	assert.Equal(t, []string{"no", "yes", "no", "no"}, looked())
}

func TestFindingsOfTextPages(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	assert.Empty(t, kinds(seen(t, a, id)))
	apply(t, a, id, packet.Turn{Selected: packet.InRange("2"), By: 180}, packet.Turn{Selected: packet.InRange("3"), By: 270},
		packet.Duplicate{Selected: packet.InRange("1")})
	found := seen(t, a, id)
	require.Equal(t, []string{
		"sideways: Page 3 is upside down", "sideways: Page 4 lies on its side", "twice: Page 2 is the same page as page 1",
	}, kinds(found))
	chosen, err := a.Packets.Select(t.Context(), id, "sideways, twice")
	require.NoError(t, err)
	assert.Len(t, chosen, 3)

	left, err := a.Checking.AcceptFindings(t.Context(), id, []string{found.Findings[0].Key}, true)
	require.NoError(t, err)
	assert.Len(t, left.Findings, 2)
	assert.Equal(t, 1, left.Accepted)
	apply(t, a, id, found.Findings[1].Settle...)
	require.NoError(t, a.Close())
	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	assert.Equal(t, []string{"twice: Page 2 is the same page as page 1"}, kinds(seen(t, a, id)), "what is accepted stays so")
	apply(t, a, id, packet.Turn{Selected: packet.InRange("3"), By: 90})
	assert.Equal(t, []string{"sideways: Page 3 lies on its side", "twice: Page 2 is the same page as page 1"}, kinds(seen(t, a, id)),
		"what was accepted is another finding once the page has changed")
}

func TestFindingsOfScans(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "quotes.tif", paper(t, "quotes-scan.tif"))
	apply(t, a, id, packet.Turn{Selected: packet.InRange("1"), By: 90})
	// How surely is told by a few strokes of a letter.
	assert.Equal(t, []string{
		"sideways: Page 1 lies on its side", "sideways: Page 2 seems to lie on its side", "sideways: Page 5 is upside down",
		"tilted: Page 1 leans by 0.4°", "tilted: Page 3 leans by 0.6°", "tilted: Page 4 leans by 2.4°", "tilted: Page 5 leans by 0.5°",
	}, kinds(seen(t, a, id)))
}

func TestSplitsAreProposed(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	part := get(t, a, id).Parts[0]
	blank := packet.InsertBlank{Size: geometry.A4, Destination: packet.Destination{After: part.Pages[1].ID}}
	apply(t, a, id, blank, blank)
	measuredOne(t, a, id)
	seen(t, a, id)
	split := func(by string, n int64) arrange.Split {
		s, err := a.Arrange.FindSplit(t.Context(), id, part.ID, by, n)
		require.NoError(t, err)
		return s
	}
	assert.Equal(t, []int{4, 2}, split(arrange.ByCount, 4).Counts)
	blanks := split(arrange.ByBlank, 0)
	assert.Equal(t, []packet.PageID{part.Pages[0].ID, part.Pages[2].ID}, blanks.Pages)
	assert.Len(t, blanks.Blanks, 2)
	compressed := split(arrange.ByBytes, 2*get(t, a, id).Parts[0].Pages[0].Bytes+500)
	assert.Equal(t, []int{4, 2}, compressed.Counts, "blank pages weigh nothing")
	assert.Len(t, compressed.Bytes, 2)
	assert.Equal(t, []string{"Form"}, split(arrange.BySource, 0).Titles)
	_, err := a.Arrange.FindSplit(t.Context(), id, part.ID, "magic", 1)
	require.ErrorIs(t, err, problem.Invalid)
	_, err = a.Arrange.FindSplit(t.Context(), id, "s99", arrange.ByCount, 1)
	require.ErrorIs(t, err, packets.ErrNotFound)
	p := apply(t, a, id, packet.Divide{Selected: packet.On(blanks.Pages...)}, packet.SetAside{Selected: packet.On(blanks.Blanks...)})
	assert.Equal(t, []string{"Form", "Form, 2"}, []string{p.Parts[0].Title, p.Parts[1].Title})
	assert.Len(t, p.SetAside, 2)
}

func fileAt(t *testing.T, path string) []byte {
	t.Helper()
	data, err := os.ReadFile(path)
	require.NoError(t, err)
	return data
}

func TestBookmarksSplitAndNameParts(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "one.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "two.pdf", paper(t, "accounts.pdf"))
	path, _ := exportAsItIs(t, a, id) // its parts are bookmarks
	other := newPacket(t, a)
	add(t, a, other, "both.pdf", fileAt(t, path))
	part := get(t, a, other).Parts[0]
	split, err := a.Arrange.FindSplit(t.Context(), other, part.ID, arrange.ByBookmarks, 0)
	require.NoError(t, err)
	assert.Equal(t, []string{"One", "Two"}, split.Titles)
	assert.Equal(t, []packet.PageID{part.Pages[0].ID, part.Pages[4].ID}, split.Pages)
}

// TestBlankAndDoubleScans scans blank paper, and a sheet twice.
func TestBlankAndDoubleScans(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	random := rand.New(rand.NewPCG(4, 4))
	sheet := image.NewGray(image.Rect(0, 0, 620, 877))
	for i := range sheet.Pix {
		sheet.Pix[i] = uint8(228 + random.IntN(12))
	}
	add(t, a, id, "blank.png", pngFile(t, sheet))
	assert.Equal(t, []string{"blank: Page 1 is blank"}, kinds(seen(t, a, id)))
	assert.Equal(t, check.Blank, seen(t, a, id).Findings[0].Kind)
}
