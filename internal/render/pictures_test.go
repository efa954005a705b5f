package render

import (
	"context"
	"errors"
	"image"
	"io/fs"
	"math"
	"os"
	"path/filepath"
	"sync"
	"sync/atomic"
	"testing"
	"testing/synctest"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
)

// photo is a page of an image file; no PDFium is needed for it.
var photo = Page{File: "abcdef", Path: "photo.jpg", Number: 1, Size: geometry.Size{Width: 400, Height: 300}}

func newPictures(t *testing.T, decode DecodeImage) *Pictures {
	t.Helper()
	files := folderOfFiles(t.TempDir())
	for _, page := range []Page{photo, quartered} {
		require.NoError(t, os.WriteFile(files.FilePath(page.File), nil, 0o600))
	}
	p, err := NewPictures(nil, files, decode, func() func() { return func() {} })
	require.NoError(t, err)
	return p
}

// folderOfFiles keeps files in a folder, and beside each what is derived from it.
type folderOfFiles string

func (f folderOfFiles) FilePath(sum string) string { return filepath.Join(string(f), sum) }

func (f folderOfFiles) DerivedFolder(sum string) string { return filepath.Join(string(f), "of-"+sum) }

func (f folderOfFiles) CacheFolder() string { return string(f) }

func TestNoPictureIsKeptOfAFileThatIsDeletedMeanwhile(t *testing.T) {
	var p *Pictures
	p = newPictures(t, func(ctx context.Context, path string, page, edge int) (image.Image, error) {
		assert.NoError(t, os.Remove(p.files.FilePath(photo.File)))
		return blank(ctx, path, page, edge)
	})
	_, err := p.Picture(t.Context(), photo, 120)
	require.ErrorIs(t, err, fs.ErrNotExist)
	assert.NoDirExists(t, p.files.DerivedFolder(photo.File))
}

// blank is a large photograph, decoded at the size asked for.
func blank(_ context.Context, _ string, _, edge int) (image.Image, error) {
	return image.NewGray(image.Rect(0, 0, edge, edge*3/4)), nil
}

func sizeOf(t *testing.T, path string, err error) image.Point {
	t.Helper()
	require.NoError(t, err)
	img, err := readPicture(path, math.MaxInt)
	require.NoError(t, err)
	return img.Bounds().Size()
}

func TestPicturesComeInFewWidths(t *testing.T) {
	p := newPictures(t, blank)
	for asked, want := range map[int]int{1: 120, 120: 120, 121: 240, 500: 960, 9999: 3200} {
		path, err := p.Picture(t.Context(), photo, asked)
		assert.Equal(t, image.Pt(want, want*3/4), sizeOf(t, path, err), asked)
	}
	turned := photo
	turned.Turn = 90
	path, err := p.Picture(t.Context(), turned, 240)
	assert.Equal(t, image.Pt(240, 320), sizeOf(t, path, err))
}

// TestAPictureIsDrawnOnceForAllWhoAsk decodes for as long as it takes all of them to ask: in its bubble, time passes when
// everybody waits.
func TestAPictureIsDrawnOnceForAllWhoAsk(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		var decoded atomic.Int32
		p := newPictures(t, func(ctx context.Context, path string, page, edge int) (image.Image, error) {
			decoded.Add(1)
			time.Sleep(time.Second)
			return blank(ctx, path, page, edge)
		})
		var wait sync.WaitGroup
		for _, width := range []int{120, 240, 120, 480, 240, 120} {
			wait.Go(func() {
				_, err := p.Picture(t.Context(), photo, width)
				assert.NoError(t, err)
			})
		}
		wait.Wait()
		assert.EqualValues(t, 1, decoded.Load(), "smaller pictures are made of one copy")
	})
}

// TestWhoWaitsIsNotCancelledWithOthers has one caller give up while another
// waits for the same picture.
func TestWhoWaitsIsNotCancelledWithOthers(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		p := newPictures(t, blank)
		first, cancel := context.WithCancel(t.Context())
		draw := func(ctx context.Context) (image.Image, error) {
			select {
			case <-ctx.Done():
				return nil, ctx.Err()
			case <-time.After(time.Second):
				return blank(t.Context(), "", 0, 400)
			}
		}
		var wait sync.WaitGroup
		wait.Go(func() {
			_, err := p.cached(first, photo.File, "picture.jpg", draw)
			assert.ErrorIs(t, err, context.Canceled)
		})
		synctest.Wait() // it draws
		wait.Go(func() {
			path, err := p.cached(t.Context(), photo.File, "picture.jpg", draw)
			assert.NoError(t, err)
			assert.FileExists(t, path)
		})
		synctest.Wait() // both wait
		cancel()
		wait.Wait()
	})
}

func TestAFailureIsNotCached(t *testing.T) {
	broken := errors.New("broken")
	fail := true
	p := newPictures(t, func(ctx context.Context, path string, page, edge int) (image.Image, error) {
		if fail {
			return nil, broken
		}
		return blank(ctx, path, page, edge)
	})
	_, err := p.Picture(t.Context(), photo, 120)
	require.ErrorIs(t, err, broken)
	fail = false
	_, err = p.Picture(t.Context(), photo, 120)
	require.NoError(t, err)
}

func TestTheOldestPicturesAreTrimmed(t *testing.T) {
	folder := t.TempDir()
	for i, name := range []string{"code", "old.jpg", "middle.jpg", "new.jpg"} {
		path := filepath.Join(folder, name)
		require.NoError(t, os.WriteFile(path, make([]byte, 1000), 0o600))
		at := time.Now().Add(time.Duration(i-4) * time.Hour)
		require.NoError(t, os.Chtimes(path, at, at))
	}
	require.NoError(t, trim(folder, 2500))
	assert.NoFileExists(t, filepath.Join(folder, "old.jpg"))
	for _, name := range []string{"code", "middle.jpg", "new.jpg"} {
		assert.FileExists(t, filepath.Join(folder, name))
	}
}
