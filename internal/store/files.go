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

// files is the folder of immutable files, named by the SHA-256 of their bytes, and of
// what is derived from them.
type files struct {
	stored, incoming, derived string
	free                      func(path string) (int64, error)
}

func openFiles(folder string) (*files, error) {
	f := &files{
		stored:   filepath.Join(folder, "files"),
		incoming: filepath.Join(folder, "incoming"),
		derived:  filepath.Join(folder, "cache", "derived"),
		free:     freeBytes,
	}
	// An interrupted write left its file behind, which nobody owns.
	if err := os.RemoveAll(f.incoming); err != nil {
		return nil, fmt.Errorf("clear %s: %w", f.incoming, err)
	}
	for _, path := range []string{f.stored, f.incoming, f.derived} {
		if err := os.MkdirAll(path, 0o700); err != nil {
			return nil, fmt.Errorf("make the data folder: %w", err)
		}
	}
	return f, nil
}

// path is where the file with this hash is kept.
func (f *files) path(sum string) string { return filepath.Join(f.stored, sum[:2], sum) }

// derivedFrom is the folder for what was made from the file with this hash.
func (f *files) derivedFrom(sum string) string { return filepath.Join(f.derived, sum[:2], sum) }

// incomingFile is a file that is being written. It is hashed on the way.
type incomingFile struct {
	name  string
	sum   string
	bytes int64
}

// receive writes what fill writes to a temporary file, and syncs it to the disk. When
// fill fails nothing is left.
func (f *files) receive(fill func(io.Writer) error) (in incomingFile, err error) {
	file, err := os.CreateTemp(f.incoming, "new-*")
	if err != nil {
		return in, fmt.Errorf("make a temporary file: %w", err)
	}
	in.name = file.Name()
	defer func() {
		if err != nil {
			err = errors.Join(err, os.Remove(in.name))
		}
	}()
	sink := &guardedSink{files: f, file: file}
	digest := sha256.New()
	if err := fill(io.MultiWriter(sink, digest)); err != nil {
		return in, errors.Join(err, file.Close())
	}
	if err := errors.Join(file.Sync(), file.Close()); err != nil {
		return in, fmt.Errorf("write file: %w", err)
	}
	in.sum, in.bytes = hex.EncodeToString(digest.Sum(nil)), sink.written
	return in, nil
}

// receiveFile has fill write a temporary file, by its path, hashes what it wrote, and syncs it to
// the disk. When fill fails nothing is left.
func (f *files) receiveFile(fill func(path string) error) (in incomingFile, err error) {
	file, err := os.CreateTemp(f.incoming, "new-*")
	if err != nil {
		return in, fmt.Errorf("make a temporary file: %w", err)
	}
	in.name = file.Name()
	defer func() {
		err = errors.Join(err, file.Close())
		if err != nil {
			err = errors.Join(err, os.Remove(in.name))
		}
	}()
	if err := fill(in.name); err != nil {
		return in, err
	}
	if free, err := f.free(f.incoming); err == nil && free < reserveBytes {
		return in, ErrDiskFull
	}
	digest := sha256.New()
	if in.bytes, err = io.Copy(digest, file); err != nil {
		return in, fmt.Errorf("read what was written: %w", err)
	}
	if err := file.Sync(); err != nil {
		return in, fmt.Errorf("write file: %w", err)
	}
	in.sum = hex.EncodeToString(digest.Sum(nil))
	return in, nil
}

// adopt gives a received file its place, unless a file with the same bytes is there.
func (f *files) adopt(in incomingFile) error {
	path := f.path(in.sum)
	if _, err := os.Stat(path); err == nil {
		return os.Remove(in.name)
	}
	folder := filepath.Dir(path)
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return errors.Join(fmt.Errorf("keep file: %w", err), os.Remove(in.name))
	}
	if err := os.Rename(in.name, path); err != nil {
		return errors.Join(fmt.Errorf("keep file: %w", err), os.Remove(in.name))
	}
	return errors.Join(syncFolder(folder), syncFolder(f.stored))
}

// remove deletes a file with all that is derived from it.
func (f *files) remove(sum string) error {
	if err := os.Remove(f.path(sum)); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("delete file: %w", err)
	}
	// Pictures are written only while their file is there, and looked at once more when
	// they have been: removing the file first leaves none behind.
	if err := os.RemoveAll(f.derivedFrom(sum)); err != nil {
		return fmt.Errorf("delete what was made from a file: %w", err)
	}
	_ = os.Remove(filepath.Dir(f.path(sum)))        // unless other files are in it
	_ = os.Remove(filepath.Dir(f.derivedFrom(sum))) // likewise
	return nil
}

// each calls visit with the hash of every file of which something is on the disk.
func (f *files) each(visit func(sum string) error) error {
	for _, root := range []string{f.stored, f.derived} {
		found, err := filepath.Glob(filepath.Join(root, "[0-9a-f][0-9a-f]", "*"))
		if err != nil {
			return fmt.Errorf("list files: %w", err)
		}
		for _, path := range found {
			sum := filepath.Base(path)
			if _, err := hex.DecodeString(sum); err != nil || len(sum) != hex.EncodedLen(sha256.Size) {
				continue // somebody else's
			}
			if err := visit(sum); err != nil {
				return err
			}
		}
	}
	return nil
}

// guardedSink writes to a file and asks for the free space now and then.
type guardedSink struct {
	files     *files
	file      *os.File
	written   int64
	nextCheck int64
}

const checkEveryBytes = 16 << 20

func (s *guardedSink) Write(b []byte) (int, error) {
	if s.written >= s.nextCheck {
		s.nextCheck = s.written + checkEveryBytes
		if free, err := s.files.free(s.files.incoming); err == nil && free < reserveBytes+checkEveryBytes {
			return 0, ErrDiskFull
		}
	}
	n, err := s.file.Write(b)
	s.written += int64(n)
	return n, err
}
