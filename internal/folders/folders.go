package folders

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"
	"syscall"

	"dorbin/core/message"
	"dorbin/core/problem"
)

// Folder is a folder that the installation allows.
type Folder struct {
	Name string // that users see
	Path string
}

// List is all folders that the installation allows.
type List []Folder

// Parse reads folders that are allowed: their names and paths, as Outbox=/srv/outbox, with commas
// between them.
func Parse(text string) (all List, err error) {
	for part := range strings.SplitSeq(text, ",") {
		if strings.TrimSpace(part) == "" {
			continue
		}
		name, place, _ := strings.Cut(part, "=")
		name, place = strings.TrimSpace(name), strings.TrimSpace(place)
		if name == "" || !filepath.IsAbs(place) {
			return nil, fmt.Errorf("%q is no folder: one is like Outbox=/srv/outbox", part)
		}
		if slices.ContainsFunc(all, func(f Folder) bool { return f.Name == name }) {
			return nil, fmt.Errorf("two folders have the name %s", name)
		}
		all = append(all, Folder{name, place})
	}
	return all, nil
}

// Names are what users see of the folders.
func (l List) Names() []string {
	names := make([]string, len(l))
	for i, folder := range l {
		names[i] = folder.Name
	}
	return names
}

// Named gives the folder of this name, or a problem.Invalid.
func (l List) Named(name string) (Folder, error) {
	at := slices.IndexFunc(l, func(folder Folder) bool { return folder.Name == name })
	if at < 0 {
		return Folder{}, problem.New(problem.Invalid, "there is no folder %s here: whoever runs this installation allows one with --folders", name)
	}
	return l[at], nil
}

// Opened is a folder that is read and written. Names of files in it have slashes, and stay within it.
type Opened struct {
	Folder
	root *os.Root
}

// Open opens a folder. It returns a problem.Invalid where it is not there.
func (f Folder) Open() (*Opened, error) {
	root, err := os.OpenRoot(f.Path)
	if err != nil {
		return nil, &problem.Error{Kind: problem.Invalid, Cause: err, Sentence: message.Of(
			"The folder %s is not there: it may be on a disk that is not connected.", f.Name)}
	}
	return &Opened{f, root}, nil
}

// Close closes the folder.
func (o *Opened) Close() error {
	if err := o.root.Close(); err != nil {
		return fmt.Errorf("close the folder %s: %w", o.Name, err)
	}
	return nil
}

// Read opens a file to read it, and tells what it is. It returns fs.ErrNotExist for what is no plain
// file: a pipe would be waited for.
func (o *Opened) Read(name string) (*os.File, fs.FileInfo, error) {
	info, err := o.root.Stat(name)
	if err == nil && !info.Mode().IsRegular() {
		err = fs.ErrNotExist
	}
	if err != nil {
		return nil, nil, fmt.Errorf("look for %s: %w", name, err)
	}
	file, err := o.root.Open(name)
	if err != nil {
		return nil, nil, fmt.Errorf("open %s: %w", name, err)
	}
	if info, err = file.Stat(); err != nil {
		return nil, nil, errors.Join(fmt.Errorf("look at %s: %w", name, err), file.Close())
	}
	return file, info, nil
}

// Entries lists what is in a folder within this one, "." for its own: at most so many entries, in no
// order, and whether there are more. Links are what they lead to.
func (o *Opened) Entries(in string, most int) (entries []fs.FileInfo, more bool, err error) {
	folder, err := o.root.Open(in)
	if err != nil {
		return nil, false, fmt.Errorf("open the folder %s: %w", in, err)
	}
	defer folder.Close() //nolint:errcheck // only read from
	names, err := folder.Readdirnames(most + 1)
	if err != nil && len(names) == 0 && !errors.Is(err, io.EOF) {
		return nil, false, fmt.Errorf("list the folder %s: %w", in, err)
	}
	for _, name := range names[:min(most, len(names))] {
		info, err := o.root.Stat(path.Join(in, name))
		if err != nil {
			continue // it went away, or is a link that leads out of the folder
		}
		entries = append(entries, named{info, name})
	}
	return entries, len(names) > most, nil
}

// named is a file under the name of the link that leads to it.
type named struct {
	fs.FileInfo
	name string
}

// Name gives the name.
func (n named) Name() string { return n.name }

// Problem says what is wrong with a folder that could not be written, where its user can do something
// about it; other errors are given as they are.
func (f Folder) Problem(err error) error {
	told := func(sentence message.Text) error {
		return &problem.Error{Kind: problem.Invalid, Sentence: sentence, Cause: err}
	}
	switch {
	case errors.Is(err, syscall.ENOSPC), errors.Is(err, syscall.EDQUOT):
		return told(message.Of("The folder %s is full: nothing was placed there.", f.Name))
	case errors.Is(err, fs.ErrPermission):
		return told(message.Of("Dorbin may not write to the folder %s.", f.Name))
	case errors.Is(err, ErrNamesTaken):
		return told(message.Of("The folder %s has too many files of that name.", f.Name))
	case errors.Is(err, fs.ErrNotExist):
		return told(message.Of("The folder %s went away.", f.Name))
	}
	return err
}
