package app_test

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/planning"
	"dorbin/core/requirements"
	"dorbin/internal/await"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
	"dorbin/internal/scanner/sim"
	"dorbin/internal/scanning"
)

// earlier is what a data folder of an earlier version holds: the demo with every kind of
// act, exports of all kinds and a batch that was scanned.
type earlier struct {
	ID, Name, Undo, Redo string
	Revision, Expected   int
	Parts                []struct {
		Title string
		Pages []packet.PageID
	}
	SetAside []packet.PageID
	Checked  []packet.PageID
	Sizes    map[packet.PageID][]float64
	Sources  []struct {
		Name, State   string
		Pages, Placed int
	}
	History []string
	Exports []struct{ Name, State, SHA256 string }
	Batch   []struct {
		ID   string
		Turn int
	}
	Limit            int64
	Receiver         string
	Overrides        map[packet.PageID]string `json:"holds"`
	After            int64
	AcceptedFindings int
	Findings         []string
}

func TestADataFolderOfAnEarlierVersionOpensWithNothingMissing(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	text, err := os.ReadFile("testdata/folder-1.json")
	require.NoError(t, err)
	var want earlier
	require.NoError(t, json.Unmarshal(text, &want))
	folder := t.TempDir()
	require.NoError(t, os.CopyFS(folder, os.DirFS("testdata/folder-1")))
	files := keptFiles(t, folder)
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })

	p := get(t, a, want.ID)
	assert.Equal(t, []any{want.Name, want.Undo, want.Redo, want.Expected, want.Revision}, []any{p.Name, p.Undo.English, p.Redo.English, p.Expected, p.Revision})
	require.Len(t, p.Parts, len(want.Parts))
	var checked []packet.PageID
	for i, part := range p.Parts {
		assert.Equal(t, want.Parts[i].Title, part.Title)
		assert.Equal(t, want.Parts[i].Pages, idsOf(part.Pages))
		for _, page := range part.Pages {
			assert.InDeltaSlice(t, want.Sizes[page.ID], []float64{page.Width, page.Height}, 0.01, page.ID)
			if page.Reviewed == "yes" {
				checked = append(checked, page.ID)
			}
		}
	}
	assert.Equal(t, want.SetAside, idsOf(p.SetAside))
	assert.Equal(t, want.Checked, checked, "what was checked stays checked")
	require.Len(t, p.Sources, len(want.Sources))
	for i, source := range p.Sources {
		w := want.Sources[i]
		assert.Equal(t, []any{w.Name, w.State, w.Pages, w.Placed}, []any{source.Name, source.State, source.PageCount, source.Placed})
	}
	history, err := a.Packets.History(t.Context(), want.ID)
	require.NoError(t, err)
	for i, step := range history {
		assert.Equal(t, want.History[i], step.Words.English)
	}
	exports, err := a.Export.List(t.Context(), want.ID)
	require.NoError(t, err)
	require.Len(t, exports, len(want.Exports))
	for i, e := range exports {
		assert.Equal(t, []any{want.Exports[i].Name, want.Exports[i].State}, []any{e.Name, e.State})
		if e.State == "done" {
			path, _, err := a.Export.File(t.Context(), e.ID)
			require.NoError(t, err)
			assert.FileExists(t, path)
			assert.Equal(t, want.Exports[i].SHA256, e.Receipt.SHA256)
		}
	}
	batch, err := a.Scanning.Batch(t.Context(), want.ID)
	require.NoError(t, err)
	require.Len(t, batch.Pages, len(want.Batch))
	for i, page := range batch.Pages {
		assert.Equal(t, []any{want.Batch[i].ID, want.Batch[i].Turn}, []any{page.ID, page.Turn})
	}
	plan, err := a.Export.Plan(t.Context(), want.ID, "")
	require.NoError(t, err)
	assert.Equal(t, []any{want.Limit, want.Receiver, len(want.Overrides)}, []any{plan.Limit, get(t, a, want.ID).Receiver.Name, len(plan.Overrides)})
	plan = planned(t, a, want.ID) // pages are measured anew, as their ink is told apart otherwise
	assert.LessOrEqual(t, plan.After, want.Limit)
	var findings checking.Findings
	await.Until(t, func() bool { // scans that look alike are compared first, which is newer than the folder
		findings, err = a.Checking.Findings(t.Context(), want.ID)
		require.NoError(t, err)
		return findings.Waiting == 0
	})
	assert.Equal(t, want.AcceptedFindings, findings.Accepted)
	var keys []string
	for _, finding := range findings.Findings {
		if finding.Source == "" { // findings about whole sources came later
			keys = append(keys, finding.Key)
		}
	}
	slices.Sort(keys)
	assert.Equal(t, want.Findings, keys)

	for range want.History[1:] { // all the way back, with every kind of step
		if get(t, a, want.ID).Undo.IsEmpty() {
			break
		}
		undo(t, a, want.ID)
	}
	assert.Empty(t, get(t, a, want.ID).Parts)
	assert.ElementsMatch(t, files, keptFiles(t, folder), "no file was lost or left over")

	require.NoError(t, a.Packets.Delete(t.Context(), want.ID))
	assert.Len(t, keptFiles(t, folder), 2, "those of the other packet: a file and its copy")
}

func idsOf(pages []packets.Page) (ids []packet.PageID) {
	for _, page := range pages {
		ids = append(ids, page.ID)
	}
	return ids
}

// filesWith lists the files of a data folder in which one of the texts is found.
func filesWith(t *testing.T, folder string, texts ...string) (found []string) {
	t.Helper()
	require.NoError(t, filepath.WalkDir(folder, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || !entry.Type().IsRegular() {
			return err
		}
		data, err := os.ReadFile(path)
		for _, text := range texts {
			if strings.Contains(string(data), text) {
				found = append(found, path)
			}
		}
		return err
	}))
	return found
}

// filesOf lists all files of a data folder but the compiled code.
func filesOf(t *testing.T, folder string) (names []string) {
	t.Helper()
	require.NoError(t, filepath.WalkDir(folder, func(path string, entry fs.DirEntry, err error) error {
		if err == nil && !entry.IsDir() && entry.Type().IsRegular() {
			names = append(names, strings.TrimPrefix(path, folder))
		}
		return err
	}))
	return names
}

func TestDeletingAPacketEmptiesTheFolder(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	empty := filesOf(t, folder)
	created, err := a.Packets.Create(t.Context(), "Quetzalcoatlus")
	require.NoError(t, err)
	id := created.ID
	add(t, a, id, "Pteranodon.pdf", paper(t, "application-form.pdf"))
	add(t, a, id, "Rhamphorhynchus.pdf", locked(t))
	add(t, a, id, "Dimorphodon.png", pngFile(t, picture(300, 200)))
	add(t, a, id, "Nyctosaurus.jpg", jpegFile(t, picture(1200, 900)))
	p := get(t, a, id)
	apply(t, a, id, packet.Note{Selected: packet.On(p.Parts[0].Pages[0].ID), Title: "Pterodactylus"})
	_, scannerID := scannerOf(t, a, func(s *sim.State) { s.Feeder = s.Feeder[:2] })
	scanned(t, a, id, scannerID, fast)
	_, err = a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller})
	require.NoError(t, err)
	apply(t, a, id, packet.SetReceiver{Receiver: &requirements.Receiver{Name: "Anurognathus", Rules: requirements.Rules{Searchable: true}}})
	_, made := exportSized(t, a, id, export.ExportOrder{Size: planning.Smaller})
	require.Equal(t, "done", made.State, made.Problem)
	for _, page := range p.Parts[2].Pages {
		_, err := a.Packets.PagePicture(t.Context(), id, page.ID, 480)
		require.NoError(t, err)
	}
	texts := []string{"Quetzalcoatlus", "Pteranodon", "Rhamphorhynchus", "Dimorphodon", "Nyctosaurus", "Pterodactylus", "Anurognathus"}
	require.NotEmpty(t, filesWith(t, folder, texts...))

	require.NoError(t, a.Packets.Delete(t.Context(), id))
	assert.Empty(t, filesWith(t, folder, texts...))
	assert.ElementsMatch(t, empty, filesOf(t, folder), "sources, copies, pictures, proofs, exports and scanned pages are gone")
	_, err = a.Packets.Get(t.Context(), id)
	require.ErrorIs(t, err, packets.ErrNotFound)
}

func TestAnUploadThatIsGivenUpLeavesNothing(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	id := newPacket(t, a)
	for name, data := range map[string][]byte{
		"photo.jpg": jpegFile(t, picture(3000, 2000)), "form.pdf": paper(t, "application-form.pdf"),
	} {
		// The request is given up once the last byte has arrived: while the file is looked into.
		ctx, cancel := context.WithCancel(t.Context())
		_, err := a.Gather.AddFile(ctx, id, name, gather.Placement{}, io.MultiReader(strings.NewReader(string(data)), onRead(cancel)))
		require.ErrorIs(t, err, context.Canceled, "it is not called damaged")
	}
	assert.Empty(t, keptFiles(t, folder))
	assert.Empty(t, get(t, a, id).Sources)
}

// onRead calls a function when it is read, and ends.
type onRead func()

func (f onRead) Read([]byte) (int, error) {
	f()
	return 0, io.EOF
}

func TestNamesLongerThanATitle(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	name := strings.Repeat("Überlänge ", 40) + ".pdf"
	outcome := add(t, a, id, name, paper(t, "site-plan.pdf"))
	assert.Equal(t, "added", outcome.Result)
	assert.Len(t, []rune(outcome.Name), packet.MaxTitle)
	assert.True(t, strings.HasSuffix(outcome.Name, "….pdf"), outcome.Name)
}

func TestAFileIsAddedAgainAfterItWasTakenOut(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	data := paper(t, "site-plan.pdf")
	for _, place := range []string{"", "intake"} {
		added := addAt(t, a, id, "plan.pdf", gather.Placement{}, data)
		apply(t, a, id, packet.RemoveSource{Source: *added.Source})
		require.Empty(t, get(t, a, id).Sources)
		again := addAt(t, a, id, "plan.pdf", gather.Placement{Place: place}, data)
		assert.Equal(t, "added", again.Result)
		p := get(t, a, id)
		require.Len(t, p.Sources, 1, "placed %q", place)
		assert.Equal(t, place == "intake", p.Sources[0].Placed == 0)
		apply(t, a, id, packet.RemoveSource{Source: *added.Source})
	}
}

// TestPagesArriveWhileOthersAreArranged puts the pages of a batch in order while the
// scanner sends more.
func TestPagesArriveWhileOthersAreArranged(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	_, scannerID := scannerOf(t, a, func(s *sim.State) { s.Seconds = 0.03 })
	request := fast
	request.Device = scannerID
	b, err := a.Scanning.StartScan(t.Context(), id, request)
	require.NoError(t, err)
	for b.Scanning {
		order := make([]scanning.BatchOrder, len(b.Pages))
		for i, page := range b.Pages {
			order[len(order)-1-i] = scanning.BatchOrder{ID: page.ID, Turn: 90}
		}
		b, err = a.Scanning.ArrangeBatch(t.Context(), id, b.Version, order)
		require.NoError(t, err)
	}
	assert.Len(t, settled(t, a, id).Pages, 9, "none was dropped")
}

// TestSoak does what many users do at once, for the race detector, and looks whether
// anything is left over.
func TestSoak(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	photo, form := jpegFile(t, picture(400, 300)), paper(t, "site-plan.pdf")
	var everybody sync.WaitGroup
	for user := range 3 {
		everybody.Go(func() {
			for round := range 4 {
				id := newPacket(t, a)
				add(t, a, id, "photo.jpg", photo)
				add(t, a, id, "plan.pdf", form)
				apply(t, a, id, packet.Turn{Selected: packet.InRange("all"), By: 90})
				_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Smaller})
				assert.NoError(t, err)
				started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Size: planning.Smaller})
				assert.NoError(t, err)
				switch (user + round) % 3 {
				case 0:
					assert.Equal(t, "done", waitFor(t, a, started.ID).State)
				case 1:
					_, err := a.Export.Cancel(t.Context(), started.ID)
					assert.NoError(t, err)
				}
				undo(t, a, id)
				assert.NoError(t, a.Packets.Delete(t.Context(), id))
			}
		})
	}
	everybody.Wait()
	assert.Empty(t, keptFiles(t, folder))
	derived, err := filepath.Glob(filepath.Join(folder, "cache", "derived", "*", "*"))
	require.NoError(t, err)
	assert.Empty(t, derived)
}

// TestAPacketIsDeletedWhileItsFilesAreAdded has uploads and deletions of the same bytes
// meet.
func TestAPacketIsDeletedWhileItsFilesAreAdded(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	data := pngFile(t, picture(60, 40))
	for i := range 20 {
		gone, stays := newPacket(t, a), newPacket(t, a)
		add(t, a, gone, "a.png", data)
		var both sync.WaitGroup
		both.Go(func() { assert.NoError(t, a.Packets.Delete(t.Context(), gone)) })
		both.Go(func() { add(t, a, stays, "a.png", data) })
		both.Wait()
		page := get(t, a, stays).Parts[0].Pages[0]
		_, err := a.Packets.PagePicture(t.Context(), stays, page.ID, 120)
		require.NoError(t, err, "round %d: whoever has the row has the file", i)
		require.NoError(t, a.Packets.Delete(t.Context(), stays))
	}
	assert.Empty(t, keptFiles(t, folder))
}

// TestAnExportAskedForWithALimitTypedAtOnce has the limit changed while an export goes by
// it.
func TestAnExportAskedForWithALimitTypedAtOnce(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "photo.jpg", jpegFile(t, picture(900, 700)))
	var started export.Export
	var both sync.WaitGroup
	for limit := range int64(5) {
		both.Go(func() {
			_, err := a.Export.SetSizing(t.Context(), id, export.Sizing{Size: planning.Fit, Limit: 100_000 + 10_000*limit})
			assert.NoError(t, err)
		})
	}
	both.Go(func() {
		var err error
		started, err = a.Export.Start(t.Context(), id, export.ExportOrder{Size: planning.Fit, Limit: 200_000})
		assert.NoError(t, err)
	})
	both.Wait()
	made := waitFor(t, a, started.ID)
	require.Equal(t, "done", made.State, made.Problem)
	assert.EqualValues(t, 200_000, made.Receipt.Limit, "it goes by what it was asked with")
	await.Until(t, func() bool {
		plan, err := a.Export.Plan(t.Context(), id, "")
		require.NoError(t, err)
		return plan.Waiting == 0
	}, "measuring that was asked for while it ended is done all the same")
}

func TestFilesOfARangeAreNumberedAsInThePacket(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	for i := range 3 {
		add(t, a, id, fmt.Sprintf("%d.png", i), pngFile(t, picture(60+i, 40)))
	}
	for _, order := range []export.ExportOrder{{Make: export.PDFPerPart, Range: "2-3"}, {Make: export.PNGs, DPI: 72, Range: "2-3"}} {
		_, e := exportSized(t, a, id, order)
		require.Len(t, e.Receipt.Files, 2)
		assert.Equal(t, []int{2, 3}, []int{e.Receipt.Files[0].First, e.Receipt.Files[1].First}, order.Make)
		assert.Empty(t, e.Receipt.Differences)
	}
}

// TestAShortSourceNeedNotWaitForALongOne adds a page while many are being looked at.
func TestAShortSourceNeedNotWaitForALongOne(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	long, short := newPacket(t, a), newPacket(t, a)
	add(t, a, long, "book.pdf", book(80))
	add(t, a, short, "leaf.pdf", book(1))
	waiting := func(id string) int {
		findings, err := a.Checking.Findings(t.Context(), id)
		require.NoError(t, err)
		return findings.Waiting
	}
	await.Until(t, func() bool { return waiting(short) == 0 })
	assert.Positive(t, waiting(long), "the book is not done yet")
	await.Until(t, func() bool { return waiting(long) == 0 })
}
