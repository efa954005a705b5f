package folders

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"io/fs"
	"net"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"syscall"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/problem"
)

func TestFoldersAreNamed(t *testing.T) {
	all, err := Parse(" Outbox=/srv/outbox, Records = /srv/records ,")
	require.NoError(t, err)
	assert.Equal(t, List{{"Outbox", "/srv/outbox"}, {"Records", "/srv/records"}}, all)
	assert.Equal(t, []string{"Outbox", "Records"}, all.Names())
	for _, wrong := range []string{"/srv/outbox", "Outbox=srv", "=/srv", "A=/a,A=/b"} {
		_, err := Parse(wrong)
		require.Error(t, err, wrong)
	}
	_, err = all.Named("Other")
	require.ErrorIs(t, err, problem.Invalid)
}

// opened is a folder with files in it, whose text is given.
func opened(t *testing.T, files map[string]string) *Opened {
	t.Helper()
	path := t.TempDir()
	for name, text := range files {
		require.NoError(t, os.MkdirAll(filepath.Dir(filepath.Join(path, name)), 0o700))
		require.NoError(t, os.WriteFile(filepath.Join(path, name), []byte(text), 0o600))
	}
	o, err := Folder{"Records", path}.Open()
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, o.Close()) })
	return o
}

func contents(t *testing.T, o *Opened) map[string]string {
	t.Helper()
	all := map[string]string{}
	require.NoError(t, filepath.WalkDir(o.Path, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		text, err := os.ReadFile(path) //nolint:gosec // of the test
		name, _ := filepath.Rel(o.Path, path)
		all[filepath.ToSlash(name)] = string(text)
		return err
	}))
	return all
}

func hashOf(text string) string {
	sum := sha256.Sum256([]byte(text))
	return hex.EncodeToString(sum[:])
}

func TestNothingOutsideAFolderIsReached(t *testing.T) {
	t.Parallel()
	outside := filepath.Join(t.TempDir(), "secret.pdf")
	require.NoError(t, os.WriteFile(outside, []byte("secret"), 0o600))
	o := opened(t, map[string]string{"letter.pdf": "letter", "older/letter.pdf": "older"})
	for _, name := range []string{"../secret.pdf", outside, "older/../../secret.pdf"} {
		_, _, err := o.Read(name)
		require.Error(t, err, name)
		require.Error(t, o.Write(t.Context(), name, strings.NewReader("x")), name)
		require.Error(t, o.Remove(name), name)
	}
	if runtime.GOOS != "windows" {
		require.NoError(t, os.Symlink(outside, filepath.Join(o.Path, "link.pdf")))
		socket, err := net.Listen("unix", filepath.Join(o.Path, "socket.pdf")) //nolint:noctx // closed below
		require.NoError(t, err)
		defer socket.Close() //nolint:errcheck // nobody calls
		for _, name := range []string{"link.pdf", "socket.pdf", "older"} {
			_, _, err := o.Read(name)
			require.Error(t, err, name)
		}
	}
	entries, more, err := o.Entries(".", 10)
	require.NoError(t, err)
	assert.False(t, more)
	var names []string
	for _, entry := range entries {
		names = append(names, entry.Name())
	}
	assert.Subset(t, names, []string{"letter.pdf", "older"})
	assert.NotContains(t, names, "link.pdf")
	_, more, err = o.Entries(".", 1)
	require.NoError(t, err)
	assert.True(t, more)
	_, _, err = o.Entries("none", 10)
	require.ErrorIs(t, err, fs.ErrNotExist)
}

func TestAFileIsReplacedOnlyWhileItIsAsItWas(t *testing.T) {
	t.Parallel()
	o := opened(t, map[string]string{"older/letter.pdf": "one", "older/letter (before).pdf": "zero", "part": "two"})
	kept, err := o.Replace("part", "older/letter.pdf", hashOf("one"), "older/letter (before).pdf")
	require.NoError(t, err)
	assert.Equal(t, "older/letter (before)-2.pdf", kept)
	want := map[string]string{"older/letter.pdf": "two", "older/letter (before).pdf": "zero", "older/letter (before)-2.pdf": "one"}
	assert.Equal(t, want, contents(t, o))

	require.NoError(t, o.Write(t.Context(), "part", strings.NewReader("three")))
	_, err = o.Replace("part", "older/letter.pdf", hashOf("one"), "kept.pdf")
	require.ErrorIs(t, err, ErrChanged)
	_, err = o.Replace("part", "older/none.pdf", hashOf("one"), "kept.pdf")
	require.ErrorIs(t, err, fs.ErrNotExist)
	want["part"] = "three"
	assert.Equal(t, want, contents(t, o), "nothing was replaced, and nothing is left")
}

func TestAFileIsPlacedWhereNoneIs(t *testing.T) {
	t.Parallel()
	o := opened(t, map[string]string{"letter.pdf": "one", "part": "two"})
	isFree, err := o.Place("part", "letter.pdf")
	require.NoError(t, err)
	assert.False(t, isFree)
	name, err := FreeName("letter.pdf", func(name string) (bool, error) { return o.Place("part", name) })
	require.NoError(t, err)
	assert.Equal(t, "letter-2.pdf", name)
	require.NoError(t, o.Remove("part"))
	assert.Equal(t, map[string]string{"letter.pdf": "one", "letter-2.pdf": "two"}, contents(t, o))
	_, err = FreeName("letter.pdf", func(string) (bool, error) { return false, nil })
	require.ErrorIs(t, err, ErrNamesTaken)
}

func TestWhatIsWrongWithAFolderIsTold(t *testing.T) {
	t.Parallel()
	f := Folder{"Records", filepath.Join(t.TempDir(), "gone")}
	_, err := f.Open()
	require.ErrorContains(t, err, "The folder Records is not there")
	require.ErrorIs(t, err, problem.Invalid)
	for cause, words := range map[error]string{
		syscall.ENOSPC: "is full", fs.ErrPermission: "may not write", fs.ErrNotExist: "went away", ErrNamesTaken: "too many files",
	} {
		require.ErrorContains(t, f.Problem(cause), words)
	}
	other := errors.New("something else")
	assert.Equal(t, other, f.Problem(other))
}
