package app_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/app"
	"dorbin/internal/await"
	"dorbin/internal/demo"
	"dorbin/internal/export"
	"dorbin/internal/gather"
	"dorbin/internal/intake"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

func picture(w, h int) *image.RGBA {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(img, img.Bounds(), image.White, image.Point{}, draw.Src)
	draw.Draw(img, image.Rect(0, 0, w/2, h/2), image.NewUniform(color.RGBA{200, 30, 30, 255}), image.Point{}, draw.Src)
	return img
}

func pngFile(t testing.TB, img image.Image) []byte {
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, img))
	return out.Bytes()
}

func jpegFile(t testing.TB, img image.Image) []byte {
	var out bytes.Buffer
	require.NoError(t, jpeg.Encode(&out, img, nil))
	return out.Bytes()
}

// papers are those of the demo that were drawn for a test, by their names: each is drawn
// once.
var papers sync.Map

// paper is a file of the demo by its name.
func paper(t testing.TB, name string) []byte {
	t.Helper()
	draw, _ := papers.LoadOrStore(name, sync.OnceValues(func() (demo.Paper, error) { return demo.Draw(name) }))
	drawn, err := draw.(func() (demo.Paper, error))() //nolint:forcetypeassert // stored above
	require.NoError(t, err)
	return drawn.Data
}

func newPacket(t testing.TB, a *app.App) string {
	t.Helper()
	p, err := a.Packets.Create(t.Context(), "Test packet")
	require.NoError(t, err)
	return p.ID
}

func add(t testing.TB, a *app.App, packetID, name string, data []byte) gather.Outcome {
	t.Helper()
	outcome, err := a.Gather.AddFile(t.Context(), packetID, name, gather.Placement{}, bytes.NewReader(data))
	require.NoError(t, err)
	return outcome
}

func get(t testing.TB, a *app.App, id string) packets.Packet {
	t.Helper()
	p, err := a.Packets.Get(t.Context(), id)
	require.NoError(t, err)
	return p
}

func TestAFileMakesAPart(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	outcome := add(t, a, id, `C:\scans\site-plan_new.pdf`, paper(t, "site-plan.pdf"))
	assert.Equal(t, "added", outcome.Result)
	add(t, a, id, "wrong-name.pdf", pngFile(t, picture(300, 200)))
	p := get(t, a, id)
	require.Len(t, p.Parts, 2)
	assert.Equal(t, "Site plan new", p.Parts[0].Title)
	assert.Equal(t, "png", p.Sources[1].Kind, "the type is found from the bytes, not the name")
	assert.Equal(t, "Added 1 page as “Wrong name”", p.Undo.English)
	assert.Equal(t, 1, p.Sources[0].Placed)
	assert.InDelta(t, 1190.55, p.Parts[0].Pages[0].Width, 0.5)
}

func TestTheSameBytesAreStoredOnce(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	data := pngFile(t, picture(300, 200))
	add(t, a, id, "one.png", data)
	outcome := add(t, a, id, "two.png", data)
	assert.Equal(t, "duplicate", outcome.Result)
	assert.Equal(t, "two.png is the same file as one.png, which is in this packet already. It was not stored twice.", outcome.Sentence.English)
	assert.Len(t, get(t, a, id).Sources, 1)
}

func TestRefusals(t *testing.T) {
	t.Parallel()
	limits := intake.Limits{FileBytes: 1 << 20, Pages: 3, Pixels: 60_000, PixelBytes: 240_000}
	a := openApp(t, t.TempDir(), limits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	id := newPacket(t, a)
	cases := map[string]struct {
		data   []byte
		reason problem.Reason
		says   string
	}{
		"large.bin":   {bytes.Repeat([]byte("x"), 1<<20+1), intake.TooLarge, "1 MB"},
		"form.pdf":    {paper(t, "application-form.pdf"), intake.TooManyPages, "4 pages"},
		"picture.png": {pngFile(t, picture(300, 201)), intake.TooManyPixels, "300 × 201"},
		"letter.docx": {[]byte("PK\x03\x04whatever"), intake.UnknownKind, "ZIP"},
		"nothing.pdf": {nil, intake.Empty, "no bytes"},
		"broken.pdf":  {[]byte("%PDF-1.7\ngarbage"), intake.Damaged, "damaged"},
		"broken.jpg":  {[]byte("\xFF\xD8\xFF\xE0garbage"), intake.Damaged, "damaged"},
		"broken.tif":  {[]byte("II*\x00\xFF\xFF\xFF\x0Fxx"), intake.Damaged, "damaged"},
		"notes.bin":   {[]byte("just text"), intake.UnknownKind, "unknown kind"},
	}
	for name, c := range cases {
		t.Run(name, func(t *testing.T) {
			outcome := add(t, a, id, name, c.data)
			assert.Equal(t, "refused", outcome.Result)
			assert.Equal(t, c.reason, outcome.Reason)
			assert.Contains(t, outcome.Sentence.English, name, "the message names the file")
			assert.Contains(t, outcome.Sentence.English, c.says)
		})
	}
	p := get(t, a, id)
	assert.Empty(t, p.Parts)
	assert.Empty(t, p.Sources)
}

func TestRefusedFilesLeaveNothingBehind(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	add(t, a, newPacket(t, a), "notes.bin", []byte("just text"))
	assert.Empty(t, keptFiles(t, folder))
}

func keptFiles(t testing.TB, folder string) []string {
	t.Helper()
	files, err := filepath.Glob(filepath.Join(folder, "files", "*", "*"))
	require.NoError(t, err)
	return files
}

// locked is a paper of the demo under the password "oar".
func locked(t testing.TB) []byte { return protected(t, paper(t, "application-form.pdf"), "oar") }

func TestProtectedPDF(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	outcome := add(t, a, id, "secret.pdf", locked(t))
	require.Equal(t, "locked", outcome.Result)
	assert.Equal(t, "secret.pdf is protected with a password. Enter it to add the file.", outcome.Sentence.English)
	source := string(*outcome.Source)

	_, err := a.Gather.Unlock(t.Context(), id, source, "wrong")
	var trouble *problem.Error
	require.ErrorAs(t, err, &trouble)
	assert.Equal(t, intake.WrongPassword, trouble.Reason)
	assert.Empty(t, get(t, a, id).Parts)

	outcome, err = a.Gather.Unlock(t.Context(), id, source, "oar")
	require.NoError(t, err)
	assert.Equal(t, "added", outcome.Result)
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Contains(t, run(t, "pdftotext", path, "-"), "Who is applying")
	assert.Contains(t, run(t, "pdfinfo", path), "Encrypted:       no")
}

func TestProtectedPDFCanBeRemoved(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	id := newPacket(t, a)
	outcome := add(t, a, id, "secret.pdf", locked(t))
	p, err := a.Gather.RemoveLocked(t.Context(), id, string(*outcome.Source))
	require.NoError(t, err)
	assert.Empty(t, p.Sources)
	assert.Empty(t, keptFiles(t, folder))
}

// TestDamagedPDF spoils a PDF's table of objects and the pointer to it.
func TestDamagedPDF(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	torn := bytes.Clone(paper(t, "application-form.pdf"))
	table := torn[bytes.LastIndex(torn, []byte("\nxref"))+1:]
	copy(table, bytes.Repeat([]byte("?"), bytes.Index(table, []byte("trailer"))-1))
	outcome := add(t, a, id, "torn.pdf", torn)
	require.Equal(t, "added", outcome.Result, outcome.Sentence)
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, e.Receipt.Differences)
	assert.Contains(t, run(t, "pdftotext", path, "-"), "Who is applying")
}

// turnedByEXIF is a photograph of the demo as if the camera had been held upright.
func turnedByEXIF(photo []byte) []byte {
	photo = bytes.Clone(photo)
	at := bytes.Index(photo, []byte{0x01, 0x12, 0, 3, 0, 0, 0, 1, 0, 1})
	photo[at+9] = 6
	return photo
}

func TestImagesGoInUnchanged(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	photo := turnedByEXIF(paper(t, "roof-1.jpg"))
	add(t, a, id, "roof.jpg", photo)
	add(t, a, id, "drawing.png", pngFile(t, picture(400, 300)))
	p := get(t, a, id)
	assert.Less(t, p.Parts[0].Pages[0].Width, p.Parts[0].Pages[0].Height, "the photograph stands upright")
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	folder := t.TempDir()
	run(t, "pdfimages", "-all", path, filepath.Join(folder, "image"))
	embedded, err := os.ReadFile(filepath.Join(folder, "image-000.jpg"))
	require.NoError(t, err)
	assert.True(t, bytes.HasSuffix(photo, embedded[2:]), "the JPEG is embedded byte for byte, from behind its EXIF data on")
	drawn, err := os.ReadFile(filepath.Join(folder, "image-001.png"))
	require.NoError(t, err)
	got, err := png.Decode(bytes.NewReader(drawn))
	require.NoError(t, err)
	assert.Equal(t, picture(400, 300).At(10, 10), color.RGBAModel.Convert(got.At(10, 10)))
	assert.Equal(t, picture(400, 300).At(399, 299), color.RGBAModel.Convert(got.At(399, 299)))
}

func TestFaxTIFFGoesInAsItIs(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	folder := t.TempDir()
	pbm, plain, fax := filepath.Join(folder, "a.pbm"), filepath.Join(folder, "a.tif"), filepath.Join(folder, "fax.tif")
	bits := append([]byte("P4\n800 600\n"), bytes.Repeat([]byte("\x00\x0F\xFF\x3C\x81"), 100*600/5)...)
	require.NoError(t, os.WriteFile(pbm, bits, 0o600))
	require.NoError(t, exec.Command("ppm2tiff", "-R", "200", pbm, plain).Run())
	for _, compression := range []string{"g4", "g3:2d", "packbits"} {
		require.NoError(t, exec.Command("tiffcp", "-c", compression, "-r", "600", plain, fax).Run())
		data, err := os.ReadFile(fax)
		require.NoError(t, err)
		require.Equal(t, "added", add(t, a, id, compression+".tif", data).Result)
	}
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State, e.Problem)
	list := run(t, "pdfimages", "-list", path)
	assert.Equal(t, 3, strings.Count(list, "ccitt"), list)
	run(t, "pdfimages", path, filepath.Join(folder, "out"))
	for _, name := range []string{"out-000.pbm", "out-001.pbm", "out-002.pbm"} {
		got, err := os.ReadFile(filepath.Join(folder, name))
		require.NoError(t, err)
		assert.Equal(t, bits[len("P4\n800 600\n"):], got[len(got)-60000:], name)
	}
}

func TestUndoSurvivesARestart(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	await.Until(t, func() bool { return get(t, a, id).Sources[0].Measured })
	p := get(t, a, id)
	pages := p.Parts[0].Pages
	apply(t, a, id, packet.Move{Selected: packet.On(pages[3].ID), Destination: packet.Destination{Before: pages[0].ID}})
	p = apply(t, a, id, packet.SetAside{Selected: packet.On(pages[1].ID)})
	require.NoError(t, a.Close())

	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	reopened := get(t, a, id)
	assert.Equal(t, p.Parts, reopened.Parts)
	undo(t, a, id)
	assert.Equal(t, pages, undo(t, a, id).Parts[0].Pages)
	_, err := a.Packets.Redo(t.Context(), id, get(t, a, id).Revision)
	require.NoError(t, err)
	assert.Equal(t, pages[3].ID, get(t, a, id).Parts[0].Pages[0].ID)
	undo(t, a, id)
	undo(t, a, id) // the adding itself
	_, err = a.Packets.Undo(t.Context(), id, get(t, a, id).Revision)
	require.ErrorIs(t, err, packets.ErrNothingToUndo)
	assert.Zero(t, get(t, a, id).Sources[0].Placed, "the source stays in the intake")
}

func TestSetAsidePagesAreNotInTheFile(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	p := get(t, a, id)
	apply(t, a, id, packet.SetAside{Selected: packet.On(p.Parts[0].Pages[2].ID)})
	path, e := exportAsItIs(t, a, id)
	require.Equal(t, "done", e.State)
	assert.Equal(t, 3, e.Receipt.Pages)
	unpacked := run(t, "qpdf", "--qdf", "--object-streams=disable", path, "-")
	assert.NotContains(t, run(t, "pdftotext", path, "-"), "What it costs")
	assert.Equal(t, 3, strings.Count(unpacked, "/Type /Page\n"))
}

func TestWaitingExportCanBeCancelledAndAnInterruptedOneGoesOn(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	first, err := a.Export.Start(t.Context(), id, export.ExportOrder{Name: "first"})
	require.NoError(t, err)
	second, err := a.Export.Start(t.Context(), id, export.ExportOrder{Name: "second"})
	require.NoError(t, err)
	_, err = a.Export.Cancel(t.Context(), second.ID)
	require.NoError(t, err)
	assert.NotEqual(t, "waiting", waitFor(t, a, second.ID).State)
	third, err := a.Export.Start(t.Context(), id, export.ExportOrder{Name: "third"})
	require.NoError(t, err)
	require.NoError(t, a.Close()) // with some export under way or waiting

	a = openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	assert.Equal(t, "done", waitFor(t, a, first.ID).State)
	assert.Equal(t, "done", waitFor(t, a, third.ID).State)
	assert.Equal(t, "third.pdf", waitFor(t, a, third.ID).Name)
}

func TestDeletingAPacketDeletesItsFiles(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	a := openApp(t, folder, intake.DefaultLimits)
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	shared, own := pngFile(t, picture(200, 200)), jpegFile(t, picture(90, 120))
	one, two := newPacket(t, a), newPacket(t, a)
	add(t, a, one, "shared.png", shared)
	add(t, a, two, "shared.png", shared)
	add(t, a, two, "own.jpg", own)
	exportAsItIs(t, a, two)
	require.Len(t, keptFiles(t, folder), 3)
	require.NoError(t, a.Packets.Delete(t.Context(), two))
	assert.Len(t, keptFiles(t, folder), 1, "what the other packet uses stays")
	_, err := a.Packets.Get(t.Context(), two)
	require.ErrorIs(t, err, packets.ErrNotFound)
}

func TestWeightsAreMeasured(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "form.pdf", paper(t, "application-form.pdf"))
	await.Until(t, func() bool { return get(t, a, id).Sources[0].Measured })
	var total int64
	for _, page := range get(t, a, id).Parts[0].Pages {
		assert.Positive(t, page.Bytes)
		total += page.Bytes
	}
	_, made := exportAsItIs(t, a, id)
	assert.InEpsilon(t, made.Receipt.Bytes, total, 0.1)
}

func TestPicturesStandAsThePageDoes(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id := newPacket(t, a)
	add(t, a, id, "plan.pdf", paper(t, "site-plan.pdf"))
	p := get(t, a, id)
	page := p.Parts[0].Pages[0]
	apply(t, a, id, packet.Turn{Selected: packet.On(page.ID), By: 90})
	upright := decoded(t, func() (string, error) {
		return a.Packets.SourcePicture(t.Context(), string(page.Source), 1, packets.Adjustments{}, 200)
	})
	assert.Equal(t, 240, upright.Bounds().Dx(), "the next of the widths")
	turned := decoded(t, func() (string, error) { return a.Packets.PagePicture(t.Context(), id, page.ID, 100) })
	assert.Greater(t, turned.Bounds().Dy(), turned.Bounds().Dx())
	_, err := a.Packets.SourcePicture(t.Context(), string(page.Source), 2, packets.Adjustments{}, 200)
	require.ErrorIs(t, err, packets.ErrNotFound)
	cancelled, cancel := context.WithCancel(t.Context())
	cancel()
	_, err = a.Packets.SourcePicture(cancelled, string(page.Source), 1, packets.Adjustments{}, 960)
	require.ErrorIs(t, err, context.Canceled)
}

func decoded(t *testing.T, picture func() (string, error)) image.Image {
	t.Helper()
	path, err := picture()
	require.NoError(t, err)
	file, err := os.Open(path)
	require.NoError(t, err)
	defer file.Close() //nolint:errcheck // only read from
	img, err := jpeg.Decode(file)
	require.NoError(t, err)
	return img
}

func TestEventsTellOfChanges(t *testing.T) {
	t.Parallel()
	a := newApp(t)
	id, other := newPacket(t, a), newPacket(t, a)
	events, stop := a.Listen(id)
	defer stop()
	add(t, a, other, "x.png", pngFile(t, picture(20, 20)))
	add(t, a, id, "x.png", pngFile(t, picture(20, 20)))
	event := <-events
	assert.Equal(t, []string{"packet", id}, []string{event.Kind, event.Packet})
	assert.Equal(t, []int{1, 2}, []int{event.Change.From, event.Change.Revision})
	assert.Len(t, event.Change.Hunks[0].Rows, 2, "another tab needs to ask for nothing")
}

func TestTheDemoLoadsAndExports(t *testing.T) {
	sampling.Heavy(t)
	t.Parallel()
	a := newApp(t)
	require.NoError(t, demo.Load(t.Context(), a, "http://127.0.0.1:8383/upload"))
	require.NoError(t, demo.Load(t.Context(), a, "http://127.0.0.1:8383/upload"), "a second time does nothing")
	packets, err := a.Packets.List(t.Context())
	require.NoError(t, err)
	require.Len(t, packets, 2)
	require.Equal(t, demo.PacketName, packets[0].Name, "what was changed last comes first")
	assert.Equal(t, demo.OldName, packets[1].Name)
	path, e := exportAsItIs(t, a, packets[0].ID)
	require.Equal(t, "done", e.State, e.Problem)
	assert.Empty(t, e.Receipt.Differences)
	assert.Equal(t, packets[0].PageCount, e.Receipt.Pages)
	text := run(t, "pdftotext", path, "-")
	assert.Contains(t, text, "Tarn Valley Fund")
	outline := run(t, "qpdf", "--json", "--json-key=outlines", path)
	for _, title := range []string{"Application form", "Roofing quotes", "Photographs of the roof", "2025"} {
		assert.Contains(t, outline, title)
	}
	assert.Contains(t, run(t, "pdfinfo", path), "AcroForm")
}
