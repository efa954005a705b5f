package handin

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"syscall"

	"dorbin/core/problem"
)

// folders are those that the installation allows, as a channel. A document is written beside its place,
// synced, and then given its name, which nothing else has.
type folders []Folder

// ParseFolders reads folders that are allowed: their names and paths, as Outbox=/srv/outbox, with
// commas between them.
func ParseFolders(text string) (all []Folder, err error) {
	for part := range strings.SplitSeq(text, ",") {
		if strings.TrimSpace(part) == "" {
			continue
		}
		name, path, _ := strings.Cut(part, "=")
		name, path = strings.TrimSpace(name), strings.TrimSpace(path)
		if name == "" || !filepath.IsAbs(path) {
			return nil, fmt.Errorf("%q is no folder: one is like Outbox=/srv/outbox", part)
		}
		if slices.ContainsFunc(all, func(f Folder) bool { return f.Name == name }) {
			return nil, fmt.Errorf("two folders have the name %s", name)
		}
		all = append(all, Folder{name, path})
	}
	return all, nil
}

// named gives the folder of this name.
func (f folders) named(name string) (Folder, error) {
	at := slices.IndexFunc(f, func(folder Folder) bool { return folder.Name == name })
	if at < 0 {
		return Folder{}, problem.New(problem.Invalid, "there is no folder %s that documents may go to: whoever runs this installation allows one with --folders", name)
	}
	return f[at], nil
}

func (f folders) send(ctx context.Context, s *sending) (answer string, err error) {
	folder, err := f.named(s.delivery.Address)
	if err != nil {
		return "", err
	}
	if info, err := os.Stat(folder.Path); err != nil || !info.IsDir() {
		return "", problem.New(problem.Invalid, "the folder %s is not there: it may be on a disk that is not connected", folder.Name)
	}
	if before := s.placedBefore(); before != "" && isSame(filepath.Join(folder.Path, before), s.sha256) {
		return placedAnswer(s.name, before), nil
	}
	part := filepath.Join(folder.Path, s.partName())
	defer os.Remove(part) //nolint:errcheck // it has its name, or is of no use
	if err := s.writeTo(ctx, part); err != nil {
		return "", folder.problem(err)
	}
	name, err := freeName(s.name, func(name string) (bool, error) {
		if err := s.note(placing + name); err != nil {
			return false, err
		}
		return place(part, filepath.Join(folder.Path, name))
	})
	if err != nil {
		return "", folder.problem(err)
	}
	return placedAnswer(s.name, name), nil
}

// writeTo writes the document to a file, and syncs it.
func (s *sending) writeTo(ctx context.Context, path string) error {
	in, err := s.open()
	if err != nil {
		return err
	}
	defer in.Close()                                                         //nolint:errcheck // only read from
	out, err := os.OpenFile(path, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o640) //nolint:gosec // others are to read it
	if err != nil {
		return fmt.Errorf("make the file: %w", err)
	}
	_, err = io.Copy(out, untilDone{ctx, in})
	if err = errors.Join(err, out.Sync(), out.Close()); err != nil {
		return fmt.Errorf("write the file: %w", err)
	}
	return nil
}

// untilDone reads until a context ends.
type untilDone struct {
	ctx context.Context //nolint:containedctx // of one copy
	in  io.Reader
}

func (u untilDone) Read(p []byte) (int, error) {
	if err := u.ctx.Err(); err != nil {
		return 0, err //nolint:wrapcheck // told as it is
	}
	return u.in.Read(p) //nolint:wrapcheck // io.EOF is told as it is
}

// place gives a written file its name, unless something has that name. Both are in one folder.
func place(part, path string) (isFree bool, err error) {
	err = os.Link(part, path)
	if errors.Is(err, fs.ErrExist) {
		return false, nil
	}
	if err == nil {
		return true, nil
	}
	// Not every disk knows two names of a file: an empty file takes the name, and is replaced.
	reserved, err := os.OpenFile(path, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o640) //nolint:gosec // others are to read it
	if errors.Is(err, fs.ErrExist) {
		return false, nil
	}
	if err != nil {
		return false, fmt.Errorf("place the file: %w", err)
	}
	if err := errors.Join(reserved.Close(), os.Rename(part, path)); err != nil {
		return false, errors.Join(fmt.Errorf("place the file: %w", err), os.Remove(path))
	}
	return true, nil
}

// isSame tells whether a file has the bytes of this hash.
func isSame(path, sum string) bool {
	file, err := os.Open(path) //nolint:gosec // in an allowed folder
	if err != nil {
		return false
	}
	defer file.Close() //nolint:errcheck // only read from
	digest := sha256.New()
	_, err = io.Copy(digest, file)
	return err == nil && hex.EncodeToString(digest.Sum(nil)) == sum
}

// problem says what is wrong with a folder.
func (f Folder) problem(err error) error {
	switch {
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return &problem.Error{Kind: problem.Invalid, Sentence: fmt.Sprintf("The folder %s is full: nothing was placed there.", f.Name), Cause: err}
	case errors.Is(err, fs.ErrPermission):
		return &problem.Error{Kind: problem.Invalid, Sentence: fmt.Sprintf("Dorbin may not write to the folder %s.", f.Name), Cause: err}
	case errors.Is(err, fs.ErrNotExist):
		return broke(err, "The folder %s went away.", f.Name)
	case errors.Is(err, errNamesTaken):
		return problem.New(problem.Invalid, "the folder %s has too many files of that name", f.Name)
	}
	return err
}
