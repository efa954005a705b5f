package main

import (
	"bytes"
	"context"
	"io"
	"log/slog"
	"net/http"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/internal/await"
)

func TestFlagsWinOverTheEnvironment(t *testing.T) {
	t.Setenv("DORBIN_DATA", "/from/environment")
	t.Setenv("DORBIN_MAX_FILE_MB", "7")
	s, err := readSettings("serve", []string{"--data", "given"}, io.Discard)
	require.NoError(t, err)
	assert.Equal(t, settings{data: "given", listen: "127.0.0.1:8181", maxFileMB: 7, tesseract: "tesseract"}, s)
	s, err = readSettings("demo", nil, io.Discard)
	require.NoError(t, err)
	assert.Equal(t, "/from/environment", s.data)
	assert.True(t, s.demo)

	t.Setenv("DORBIN_MAX_FILE_MB", "many")
	_, err = readSettings("serve", nil, io.Discard)
	require.ErrorContains(t, err, "DORBIN_MAX_FILE_MB")
	_, err = readSettings("serve", []string{"stray"}, io.Discard)
	require.Error(t, err)
}

func TestVersionAndHelp(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, run(t.Context(), []string{"version"}, &out, io.Discard))
	assert.Equal(t, "dorbin development\n", out.String())
	out.Reset()
	require.NoError(t, run(t.Context(), nil, &out, io.Discard))
	assert.Contains(t, out.String(), "DORBIN_DATA")
	require.ErrorContains(t, run(t.Context(), []string{"juggle"}, &out, io.Discard), "juggle")
}

// lockedBuffer can be read while it is written.
type lockedBuffer struct {
	mutex sync.Mutex
	text  bytes.Buffer
}

func (b *lockedBuffer) Write(p []byte) (int, error) {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	return b.text.Write(p)
}

func (b *lockedBuffer) String() string {
	b.mutex.Lock()
	defer b.mutex.Unlock()
	return b.text.String()
}

// newDataFolder makes a data folder that shares its compiled PDFium with other tests.
func newDataFolder(t *testing.T) string {
	t.Helper()
	folder := t.TempDir()
	cache := filepath.Join(os.TempDir(), "dorbin-test-pdfium")
	require.NoError(t, os.MkdirAll(cache, 0o700))
	require.NoError(t, os.MkdirAll(filepath.Join(folder, "cache"), 0o700))
	require.NoError(t, os.Symlink(cache, filepath.Join(folder, "cache", "pdfium")))
	require.NoError(t, os.WriteFile(filepath.Join(folder, "dorbin.db"), nil, 0o600)) // a folder of its own
	return folder
}

// TestServeStartsAndShutsDownInOrder has an event stream open, which would keep
// the server from ending for as long as it listens.
func TestServeStartsAndShutsDownInOrder(t *testing.T) {
	folder := newDataFolder(t)
	ctx, cancel := context.WithCancel(t.Context())
	var out, logs lockedBuffer
	ended := make(chan error, 1)
	go func() {
		ended <- serve(ctx, settings{data: folder, listen: "127.0.0.1:0", maxFileMB: 1}, &out, slog.New(slog.NewTextHandler(&logs, nil)))
	}()
	address := regexp.MustCompile(`http://\S+/`)
	await.Until(t, func() bool { return address.MatchString(out.String()) })
	url := address.FindString(out.String())
	response, err := http.Get(url + "api/events") //nolint:noctx // closed below
	require.NoError(t, err)
	defer response.Body.Close() //nolint:errcheck // only read from
	cancel()
	require.NoError(t, <-ended)
	assert.True(t, strings.Contains(logs.String(), "shutting down"))
}

func TestSettingsThatAreRefused(t *testing.T) {
	for _, wrong := range [][]string{{"--max-file-mb", "0"}, {"--max-file-mb", "-5"}, {"--listen", "0.0.0.0:8181"}, {"--listen", ":8181"}, {"--listen", "192.0.2.7:8181"}} {
		_, err := readSettings("serve", wrong, io.Discard)
		require.Error(t, err, wrong)
	}
	for _, right := range [][]string{{"--listen", "localhost:8181"}, {"--listen", "[::1]:8181"}, {"--listen", "0.0.0.0:8181", "--without-sign-in"}} {
		_, err := readSettings("serve", right, io.Discard)
		require.NoError(t, err, right)
	}
}

// TestWhatIsAddedToNewPacketsIsReadAtTheStart refuses a file that makes no sense before anything is opened.
func TestWhatIsAddedToNewPacketsIsReadAtTheStart(t *testing.T) {
	file := filepath.Join(t.TempDir(), "house.json")
	_, err := readFinish(file)
	require.ErrorContains(t, err, "--finish")
	require.NoError(t, os.WriteFile(file, []byte(`{"properties": {"on": true, "author": "Larkmere Rowing Club"}}`), 0o600))
	added, err := readFinish(file)
	require.NoError(t, err)
	assert.Equal(t, "Larkmere Rowing Club", added.Properties.Author)
	require.NoError(t, os.WriteFile(file, []byte(`{"sender": 1}`), 0o600))
	_, err = readFinish(file)
	require.ErrorContains(t, err, "house.json")
	added, err = readFinish("")
	require.NoError(t, err)
	assert.Zero(t, added)
}
