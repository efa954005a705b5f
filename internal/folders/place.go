package folders

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"strings"
)

// filePermissions let others read what is placed.
const filePermissions = 0o640

// Write makes a file, or writes it anew, and syncs it. It stops when the context ends.
func (o *Opened) Write(ctx context.Context, name string, in io.Reader) error {
	out, err := o.root.OpenFile(name, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, filePermissions)
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

// Remove removes a file.
func (o *Opened) Remove(name string) error {
	if err := o.root.Remove(name); err != nil {
		return fmt.Errorf("remove %s: %w", name, err)
	}
	return nil
}

// Place gives a written file its name, unless something has that name. The file may keep its old name
// too, which the caller removes.
func (o *Opened) Place(part, name string) (isFree bool, err error) {
	err = o.root.Link(part, name)
	if errors.Is(err, fs.ErrExist) {
		return false, nil
	}
	if err == nil {
		return true, nil
	}
	// Not every disk knows two names of a file: an empty file takes the name, and is replaced.
	reserved, err := o.root.OpenFile(name, os.O_CREATE|os.O_EXCL|os.O_WRONLY, filePermissions)
	if errors.Is(err, fs.ErrExist) {
		return false, nil
	}
	if err != nil {
		return false, fmt.Errorf("place the file: %w", err)
	}
	if err := errors.Join(reserved.Close(), o.root.Rename(part, name)); err != nil {
		return false, errors.Join(fmt.Errorf("place the file: %w", err), o.root.Remove(name))
	}
	return true, nil
}

// ErrChanged is returned instead of replacing a file that has other bytes than it should have.
var ErrChanged = errors.New("the file has changed")

// Replace gives a written file the name of another, if that one has the bytes of a hash, and keeps the
// other one under a name that is free, which keepAs begins. It returns that name; ErrChanged where the
// other file has other bytes, and fs.ErrNotExist where it is gone. Then nothing is replaced.
func (o *Opened) Replace(part, name, sha256, keepAs string) (kept string, err error) {
	kept, err = FreeName(keepAs, func(candidate string) (bool, error) { return o.keep(name, candidate) })
	if err != nil {
		return "", fmt.Errorf("keep %s: %w", name, err)
	}
	if err := o.replaceKept(part, name, sha256, kept); err != nil {
		return "", errors.Join(err, o.Remove(kept))
	}
	return kept, nil
}

func (o *Opened) replaceKept(part, name, sha256, kept string) error {
	before, err := o.root.Stat(name)
	if err != nil {
		return fmt.Errorf("look for %s: %w", name, err)
	}
	if same, err := o.HasHash(kept, sha256); err != nil || !same {
		return errors.Join(err, ErrChanged)
	}
	if err := o.root.Chmod(part, before.Mode().Perm()); err != nil {
		return fmt.Errorf("let the same people read %s: %w", name, err)
	}
	// Reading a large file took its time: another may have its name by now.
	now, err := o.root.Stat(name)
	if err != nil {
		return fmt.Errorf("look for %s again: %w", name, err)
	}
	if !os.SameFile(before, now) || now.Size() != before.Size() || !now.ModTime().Equal(before.ModTime()) {
		return ErrChanged
	}
	if err := o.root.Rename(part, name); err != nil {
		return fmt.Errorf("replace %s: %w", name, err)
	}
	return nil
}

// keep gives a file a second name, or copies it where the disk knows no second names, unless something
// has that name.
func (o *Opened) keep(name, kept string) (isFree bool, err error) {
	err = o.root.Link(name, kept)
	switch {
	case err == nil:
		return true, nil
	case errors.Is(err, fs.ErrExist):
		return false, nil
	case errors.Is(err, fs.ErrNotExist):
		return false, fmt.Errorf("look for %s: %w", name, err)
	}
	in, _, err := o.Read(name)
	if err != nil {
		return false, err
	}
	defer in.Close() //nolint:errcheck // only read from
	out, err := o.root.OpenFile(kept, os.O_CREATE|os.O_EXCL|os.O_WRONLY, filePermissions)
	if errors.Is(err, fs.ErrExist) {
		return false, nil
	}
	if err != nil {
		return false, fmt.Errorf("make a copy: %w", err)
	}
	_, err = io.Copy(out, in)
	if err := errors.Join(err, out.Sync(), out.Close()); err != nil {
		return false, errors.Join(fmt.Errorf("copy %s: %w", name, err), o.Remove(kept))
	}
	return true, nil
}

// HasHash tells whether a file has the bytes of a SHA-256, in hexadecimal digits.
func (o *Opened) HasHash(name, sum string) (bool, error) {
	file, _, err := o.Read(name)
	if err != nil {
		return false, err
	}
	defer file.Close() //nolint:errcheck // only read from
	digest := sha256.New()
	if _, err := io.Copy(digest, file); err != nil {
		return false, fmt.Errorf("read %s: %w", name, err)
	}
	return hex.EncodeToString(digest.Sum(nil)) == sum, nil
}

// mostSameNames is how many files may have a name already.
const mostSameNames = 1000

// ErrNamesTaken is returned when a file finds no name that is free.
var ErrNamesTaken = errors.New("all names are taken")

// FreeName gives the names that a file can have, until place takes one: name.pdf, name-2.pdf. Place
// tells whether a name was free.
func FreeName(name string, place func(name string) (isFree bool, err error)) (string, error) {
	extension := path.Ext(name)
	stem := strings.TrimSuffix(name, extension)
	for i := 1; i <= mostSameNames; i++ {
		candidate := name
		if i > 1 {
			candidate = fmt.Sprintf("%s-%d%s", stem, i, extension)
		}
		isFree, err := place(candidate)
		if isFree || err != nil {
			return candidate, err
		}
	}
	return "", ErrNamesTaken
}
