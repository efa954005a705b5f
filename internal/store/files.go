package store

import (
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
)

// ErrDiskFull is returned when a file would leave the disk nearly full.
var ErrDiskFull = errors.New("the disk is nearly full")

// ErrTooLarge is returned for a file over the limit that Save was given.
var ErrTooLarge = errors.New("the file is too large")

// reserveBytes stays free on the disk, for the database and for exports.
const reserveBytes = 256 << 20

// Files is a folder of immutable files named by the SHA-256 of their bytes.
type Files struct {
	blobs, temporary, cache string
	free                    func(path string) (int64, error)
}

// Blob is a file that was saved.
type Blob struct {
	SHA256 string
	Bytes  int64
}

func openFiles(folder string) (*Files, error) {
	f := &Files{
		blobs:     filepath.Join(folder, "files"),
		temporary: filepath.Join(folder, "incoming"),
		cache:     filepath.Join(folder, "cache"),
		free:      freeBytes,
	}
	// What an interrupted write left behind belongs to nobody.
	if err := os.RemoveAll(f.temporary); err != nil {
		return nil, fmt.Errorf("clear %s: %w", f.temporary, err)
	}
	for _, path := range []string{f.blobs, f.temporary, f.cache} {
		if err := os.MkdirAll(path, 0o700); err != nil {
			return nil, fmt.Errorf("make the data folder: %w", err)
		}
	}
	return f, nil
}

// Cache is the folder for what can be made again.
func (f *Files) Cache() string { return f.cache }

// Save reads r to its end and keeps its bytes. It returns ErrTooLarge above
// limit bytes and ErrDiskFull when the disk would be left nearly full; in both
// cases nothing is kept.
func (f *Files) Save(r io.Reader, limit int64) (Blob, error) {
	return f.Write(func(w io.Writer) error {
		n, err := io.Copy(w, io.LimitReader(r, limit+1))
		if err != nil {
			return fmt.Errorf("receive file: %w", err)
		}
		if n > limit {
			return ErrTooLarge
		}
		return nil
	})
}

// Write keeps what fill writes, under the name of its hash. When fill fails
// nothing is kept.
func (f *Files) Write(fill func(io.Writer) error) (blob Blob, err error) {
	file, err := os.CreateTemp(f.temporary, "new-*")
	if err != nil {
		return Blob{}, fmt.Errorf("make a temporary file: %w", err)
	}
	defer os.Remove(file.Name()) //nolint:errcheck // gone already once it is renamed
	defer file.Close()           //nolint:errcheck // closed below where it matters
	sink := &guardedSink{files: f, file: file}
	digest := sha256.New()
	if err := fill(io.MultiWriter(sink, digest)); err != nil {
		return Blob{}, err
	}
	if err := errors.Join(file.Sync(), file.Close()); err != nil {
		return Blob{}, fmt.Errorf("write file: %w", err)
	}
	blob = Blob{SHA256: hex.EncodeToString(digest.Sum(nil)), Bytes: sink.written}
	if err := f.adopt(file.Name(), blob.SHA256); err != nil {
		return Blob{}, err
	}
	return blob, nil
}

func (f *Files) adopt(temporary, sum string) error {
	path := f.Path(sum)
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return fmt.Errorf("keep file: %w", err)
	}
	if err := os.Rename(temporary, path); err != nil {
		return fmt.Errorf("keep file: %w", err)
	}
	return nil
}

// Path is where the file with this hash is kept.
func (f *Files) Path(sum string) string { return filepath.Join(f.blobs, sum[:2], sum) }

// Open opens a kept file for reading.
func (f *Files) Open(sum string) (*os.File, error) {
	file, err := os.Open(f.Path(sum))
	if err != nil {
		return nil, fmt.Errorf("open file: %w", notFound(err))
	}
	return file, nil
}

// Remove deletes a file that nothing refers to any more.
func (f *Files) Remove(sum string) error {
	if err := os.Remove(f.Path(sum)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("delete file: %w", err)
	}
	return nil
}

// guardedSink writes to a file and looks at the free space now and then.
type guardedSink struct {
	files     *Files
	file      *os.File
	written   int64
	nextCheck int64
}

const checkEveryBytes = 16 << 20

func (s *guardedSink) Write(b []byte) (int, error) {
	if s.written >= s.nextCheck {
		s.nextCheck = s.written + checkEveryBytes
		if free, err := s.files.free(s.files.temporary); err == nil && free < reserveBytes+checkEveryBytes {
			return 0, ErrDiskFull
		}
	}
	n, err := s.file.Write(b)
	s.written += int64(n)
	return n, err
}
