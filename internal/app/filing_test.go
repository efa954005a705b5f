package app_test

import (
	"bytes"
	"image/jpeg"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/app"
	"dorbin/internal/export"
	"dorbin/internal/filing"
	"dorbin/internal/folders"
	"dorbin/internal/handin"
	"dorbin/internal/intake"
	"dorbin/internal/keeping"
	"dorbin/internal/ocr"
	"dorbin/internal/sampling"
)

// newFilingApp is an application with a folder of records, in which are these files, and one that is
// not there.
func newFilingApp(t *testing.T, files map[string][]byte) (*app.App, string) {
	t.Helper()
	records := t.TempDir()
	for name, data := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(records, name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(records, name), data, 0o600))
	}
	a := openWith(t, app.Options{
		Folder: t.TempDir(), Limits: intake.DefaultLimits, Reader: ocr.Reader{Program: "none"},
		HandIn: handin.Settings{Folders: folders.List{{Name: "Records", Path: records}, {Name: "Away", Path: filepath.Join(records, "none")}}},
	})
	t.Cleanup(func() { require.NoError(t, a.Close()) })
	return a, records
}

// contentsOf are the files of a folder.
func contentsOf(t *testing.T, folder string) map[string]string {
	t.Helper()
	all := map[string]string{}
	require.NoError(t, filepath.WalkDir(folder, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		data, err := os.ReadFile(path) //nolint:gosec // of the test
		name, _ := filepath.Rel(folder, path)
		all[filepath.ToSlash(name)] = string(data)
		return err
	}))
	return all
}

// openedForm is a packet that is opened from form.pdf.
func openedForm(t *testing.T, a *app.App) (packetID string) {
	t.Helper()
	opened, err := a.Filing.Open(t.Context(), "Records", "form.pdf")
	require.NoError(t, err)
	require.Equal(t, "added", opened.Outcome.Result)
	return opened.Packet
}

// turnedAndMade turns the first page of a packet and exports it.
func turnedAndMade(t *testing.T, a *app.App, id string) (made export.Export, data string) {
	t.Helper()
	first := get(t, a, id).Parts[0].Pages[0].ID
	apply(t, a, id, packet.Turn{Selected: packet.On(first), By: 90})
	path, made := exportAsItIs(t, a, id)
	bytes, err := os.ReadFile(path) //nolint:gosec // of the test
	require.NoError(t, err)
	return made, string(bytes)
}

func origin(t *testing.T, a *app.App, id string) *filing.Origin {
	t.Helper()
	o, err := a.Filing.Origin(t.Context(), id)
	require.NoError(t, err)
	return o
}

func TestAFolderIsLookedThrough(t *testing.T) {
	t.Parallel()
	form := paper(t, "application-form.pdf")
	a, records := newFilingApp(t, map[string][]byte{
		"b.pdf": form, "A.PDF": form, "notes.txt": nil, ".hidden.pdf": form, "2025/c.pdf": form, "broken.pdf": []byte("no PDF"),
	})
	assert.Equal(t, []string{"Records", "Away"}, a.Filing.Folders())
	listing, err := a.Filing.List(t.Context(), "Records", "")
	require.NoError(t, err)
	assert.Equal(t, []string{"2025"}, listing.Folders)
	var names []string
	for _, file := range listing.Files {
		names = append(names, file.Name)
	}
	assert.Equal(t, []string{"A.PDF", "b.pdf", "broken.pdf"}, names)
	assert.Equal(t, int64(len(form)), listing.Files[0].Bytes)
	listing, err = a.Filing.List(t.Context(), "Records", "2025")
	require.NoError(t, err)
	require.Len(t, listing.Files, 1)

	look, err := a.Filing.Look(t.Context(), "Records", "2025/c.pdf")
	require.NoError(t, err)
	assert.Equal(t, 4, look.Pages)
	picture, err := jpeg.Decode(bytes.NewReader(look.Picture))
	require.NoError(t, err)
	assert.Equal(t, 900, picture.Bounds().Dy())

	for name, words := range map[string]string{
		"../x.pdf": "is no name of something", ".hidden.pdf": "is no name of something", "none.pdf": "not there any more",
		"notes.txt": "is not a PDF", "broken.pdf": "damaged, or is no PDF", "2025": "is not a PDF",
	} {
		_, err := a.Filing.Look(t.Context(), "Records", name)
		require.ErrorContains(t, err, words, name)
	}
	_, err = a.Filing.Look(t.Context(), "Other", "b.pdf")
	require.ErrorContains(t, err, "There is no folder Other")
	_, err = a.Filing.List(t.Context(), "Away", "")
	require.ErrorContains(t, err, "The folder Away is not there")
	_, err = a.Filing.Open(t.Context(), "Records", "broken.pdf")
	require.ErrorIs(t, err, problem.Invalid)
	cards, err := a.Packets.List(t.Context())
	require.NoError(t, err)
	assert.Empty(t, cards, "no packet is left of what could not be opened")
	assert.Len(t, contentsOf(t, records), 6)
}

func TestAFileIsOpenedAndSavedBack(t *testing.T) {
	t.Parallel()
	form := paper(t, "application-form.pdf")
	a, records := newFilingApp(t, map[string][]byte{"form.pdf": form})
	id := openedForm(t, a)
	p := get(t, a, id)
	assert.Equal(t, "form", p.Name)
	o := origin(t, a, id)
	assert.Equal(t, &filing.Origin{Folder: "Records", Path: "form.pdf", State: filing.OriginSame, Earlier: []filing.Earlier{}}, o)

	made, data := turnedAndMade(t, a, id)
	o, err := a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
	require.NoError(t, err)
	assert.Equal(t, filing.OriginSame, o.State)
	assert.NotNil(t, o.Saved)
	assert.Nil(t, o.Since)
	require.Len(t, o.Earlier, 1)
	assert.True(t, strings.HasPrefix(o.Earlier[0].Path, "form (before 20"), o.Earlier[0].Path)
	assert.Equal(t, map[string]string{"form.pdf": data, o.Earlier[0].Path: string(form)}, contentsOf(t, records))

	listing, err := a.Filing.List(t.Context(), "Records", "")
	require.NoError(t, err)
	require.Len(t, listing.Files, 2)
	assert.True(t, listing.Files[0].IsEarlier)
	assert.Equal(t, id, listing.Files[1].Packet)

	again, dataAgain := turnedAndMade(t, a, id)
	assert.NotNil(t, origin(t, a, id).Since, "it changed since it was saved")
	o, err = a.Filing.SaveBack(t.Context(), again.ID, filing.SaveOrder{})
	require.NoError(t, err)
	require.Len(t, o.Earlier, 2)
	saved := contentsOf(t, records)
	assert.Equal(t, dataAgain, saved["form.pdf"])
	assert.Len(t, saved, 3)
	info, err := os.Stat(filepath.Join(records, "form.pdf"))
	require.NoError(t, err)
	assert.Equal(t, fs.FileMode(0o600), info.Mode().Perm(), "the same people may read it")

	holdings, err := a.Keeping.Get(t.Context(), id)
	require.NoError(t, err)
	assert.Equal(t, 2, holdings.Holdings.Earlier)
}

func TestWhatWasChangedOutsideIsNotOverwritten(t *testing.T) {
	t.Parallel()
	form := paper(t, "application-form.pdf")
	a, records := newFilingApp(t, map[string][]byte{"form.pdf": form})
	path := filepath.Join(records, "form.pdf")
	id := openedForm(t, a)
	made, data := turnedAndMade(t, a, id)

	require.NoError(t, os.Chtimes(path, time.Now(), time.Now().Add(time.Hour)))
	assert.Equal(t, filing.OriginSame, origin(t, a, id).State, "only its time is another")
	require.NoError(t, os.WriteFile(path, []byte("theirs"), 0o600))
	assert.Equal(t, filing.OriginChanged, origin(t, a, id).State)
	_, err := a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
	require.ErrorIs(t, err, problem.Conflict)
	require.ErrorContains(t, err, "form.pdf was changed by somebody else in the folder Records")
	assert.Equal(t, map[string]string{"form.pdf": "theirs"}, contentsOf(t, records))
	o, err := a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{Beside: true})
	require.NoError(t, err)
	assert.Equal(t, "form-2.pdf", o.Path)
	assert.Equal(t, filing.OriginSame, o.State)
	assert.Equal(t, map[string]string{"form.pdf": "theirs", "form-2.pdf": data}, contentsOf(t, records))

	require.NoError(t, os.Remove(filepath.Join(records, "form-2.pdf")))
	assert.Equal(t, filing.OriginGone, origin(t, a, id).State)
	_, err = a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
	require.ErrorContains(t, err, "form-2.pdf is not in the folder Records any more")
	o, err = a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{Beside: true})
	require.NoError(t, err)
	assert.Equal(t, "form-2.pdf", o.Path)

	require.NoError(t, os.Rename(records, records+"-away"))
	defer func() { assert.NoError(t, os.Rename(records+"-away", records)) }()
	assert.Equal(t, filing.OriginAway, origin(t, a, id).State)
	_, err = a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
	require.ErrorContains(t, err, "The folder Records is not there")
}

func TestTwoPacketsOfOneFileSaveOneAfterAnother(t *testing.T) {
	t.Parallel()
	form := paper(t, "application-form.pdf")
	a, records := newFilingApp(t, map[string][]byte{"form.pdf": form})
	var made [2]export.Export
	for i := range made {
		made[i], _ = turnedAndMade(t, a, openedForm(t, a))
	}
	var errs [2]error
	var saves sync.WaitGroup
	for i := range made {
		saves.Go(func() { _, errs[i] = a.Filing.SaveBack(t.Context(), made[i].ID, filing.SaveOrder{}) })
	}
	saves.Wait()
	if errs[0] != nil {
		errs[0], errs[1] = errs[1], errs[0]
	}
	require.NoError(t, errs[0])
	require.ErrorIs(t, errs[1], problem.Conflict, "the other one changed the file")
	assert.Len(t, contentsOf(t, records), 2)
}

func TestWhatCannotBeSavedBack(t *testing.T) {
	sampling.Slow(t)
	t.Parallel()
	a, _ := newFilingApp(t, map[string][]byte{"form.pdf": paper(t, "application-form.pdf")})
	_, made := formMade(t, a)
	_, err := a.Filing.SaveBack(t.Context(), made, filing.SaveOrder{})
	require.ErrorContains(t, err, "was not opened from a folder")
	id := openedForm(t, a)
	started, err := a.Export.Start(t.Context(), id, export.ExportOrder{Make: "png"})
	require.NoError(t, err)
	_, err = a.Filing.SaveBack(t.Context(), started.ID, filing.SaveOrder{})
	require.Error(t, err)
	require.Equal(t, "done", string(waitFor(t, a, started.ID).State))
	_, err = a.Filing.SaveBack(t.Context(), started.ID, filing.SaveOrder{})
	require.ErrorContains(t, err, "is not one PDF")
}

func TestEarlierVersionsGoWhenThePacketsDayHasCome(t *testing.T) {
	t.Parallel()
	form := paper(t, "application-form.pdf")
	a, records := newFilingApp(t, map[string][]byte{"form.pdf": form})
	deleted, due := openedForm(t, a), openedForm(t, a)
	made, _ := turnedAndMade(t, a, deleted)
	o, err := a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
	require.NoError(t, err)
	byHand := o.Earlier[0].Path
	require.NoError(t, a.Packets.Delete(t.Context(), deleted))
	assert.Contains(t, contentsOf(t, records), byHand, "who deletes a packet keeps the file as it was")

	made, _ = turnedAndMade(t, a, due)
	_, err = a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{Beside: true})
	require.NoError(t, err)
	for range 2 {
		made, _ = turnedAndMade(t, a, due)
		o, err = a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
		require.NoError(t, err)
	}
	require.Len(t, o.Earlier, 2)
	require.NoError(t, os.WriteFile(filepath.Join(records, o.Earlier[1].Path), []byte("theirs"), 0o600))
	today := time.Now()
	_, err = a.Keeping.Set(t.Context(), due, keeping.KeepOrder{Until: today.Format(time.DateOnly)})
	require.NoError(t, err)
	require.NoError(t, a.Keeping.DeleteDue(t.Context(), today.AddDate(0, 0, 1)))
	left := contentsOf(t, records)
	assert.NotContains(t, left, o.Earlier[0].Path)
	assert.Equal(t, "theirs", left[o.Earlier[1].Path], "somebody else has written it")
	assert.Contains(t, left, "form.pdf")
	assert.Contains(t, left, "form-2.pdf")
	assert.Len(t, left, 4)
}

func TestAFileThatIsLockedIsOpenedWithItsPassword(t *testing.T) {
	t.Parallel()
	a, records := newFilingApp(t, map[string][]byte{"form.pdf": locked(t)})
	look, err := a.Filing.Look(t.Context(), "Records", "form.pdf")
	require.NoError(t, err)
	assert.Equal(t, filing.Look{IsLocked: true}, look)
	opened, err := a.Filing.Open(t.Context(), "Records", "form.pdf")
	require.NoError(t, err)
	assert.Equal(t, "locked", opened.Outcome.Result)
	id := opened.Packet
	_, err = a.Gather.Unlock(t.Context(), id, string(*opened.Outcome.Source), "oar")
	require.NoError(t, err)
	assert.True(t, origin(t, a, id).Locked, "who saves it is to know that it will not be")

	made, data := turnedAndMade(t, a, id)
	o, err := a.Filing.SaveBack(t.Context(), made.ID, filing.SaveOrder{})
	require.NoError(t, err)
	assert.False(t, o.Locked)
	assert.Equal(t, data, contentsOf(t, records)["form.pdf"])
}
