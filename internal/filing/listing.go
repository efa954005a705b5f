package filing

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/folders"
)

// Listing is what is in a folder.
type Listing struct {
	Folders []string `json:"folders" nullable:"false" doc:"Names of folders within it."`
	Files   []File   `json:"files" nullable:"false" doc:"PDFs, by name."`
	More    bool     `json:"more,omitempty" doc:"There is more in it than is listed."`
}

// File is a PDF in a folder.
type File struct {
	Name      string    `json:"name"`
	Bytes     int64     `json:"bytes"`
	Modified  time.Time `json:"modified"`
	Packet    string    `json:"packet,omitempty" doc:"The packet that was opened from it last."`
	IsEarlier bool      `json:"isEarlier,omitempty" doc:"An earlier version that was kept when a document was saved."`
}

// mostEntries is how many files and folders of a folder are looked at.
const mostEntries = 5000

// List lists what is in a folder that is allowed, or in one within it, whose names are joined by
// slashes; "" is the folder itself. What is hidden is left out.
func (s *Service) List(ctx context.Context, folder, in string) (Listing, error) {
	listing := Listing{Folders: []string{}, Files: []File{}}
	if in == "" {
		in = "."
	}
	opened, err := s.open(folder, in)
	if err != nil {
		return listing, err
	}
	defer opened.Close() //nolint:errcheck // only read from
	entries, more, err := opened.Entries(in, mostEntries)
	if err != nil {
		return listing, unreadable(err, path.Base(in))
	}
	known, err := s.known(ctx, folder)
	if err != nil {
		return listing, err
	}
	listing.More = more
	for _, entry := range entries {
		name := entry.Name()
		switch {
		case isHidden(name):
		case entry.IsDir():
			listing.Folders = append(listing.Folders, name)
		case entry.Mode().IsRegular() && isPDF(name):
			file := known[path.Join(in, name)]
			file.Name, file.Bytes, file.Modified = name, entry.Size(), entry.ModTime()
			listing.Files = append(listing.Files, file)
		}
	}
	slices.SortFunc(listing.Folders, byName)
	slices.SortFunc(listing.Files, func(a, b File) int { return byName(a.Name, b.Name) })
	return listing, nil
}

// known is what is known of files in a folder, by their path.
func (s *Service) known(ctx context.Context, folder string) (map[string]File, error) {
	origins, err := s.store.OriginsIn(ctx, folder)
	if err != nil {
		return nil, err
	}
	earlier, err := s.store.EarlierVersionsIn(ctx, folder)
	if err != nil {
		return nil, err
	}
	files := map[string]File{}
	for _, version := range earlier {
		files[version.Path] = File{IsEarlier: true}
	}
	for _, origin := range origins {
		files[origin.Path] = File{Packet: origin.Packet}
	}
	return files, nil
}

// open opens a folder, to do something with what has a name in it.
func (s *Service) open(folder, name string) (*folders.Opened, error) {
	allowed, err := s.folders.Named(folder)
	if err != nil {
		return nil, err
	}
	if !fs.ValidPath(name) || slices.ContainsFunc(strings.Split(name, "/"), func(part string) bool { return part != "." && isHidden(part) }) {
		return nil, problem.New(problem.Invalid, "“%s” is no name of something in the folder %s", name, folder)
	}
	return allowed.Open()
}

// openFile opens a PDF in a folder.
func (s *Service) openFile(folder, name string) (*folders.Opened, *os.File, fs.FileInfo, error) {
	opened, err := s.open(folder, name)
	if err != nil {
		return nil, nil, nil, err
	}
	if !isPDF(name) {
		return nil, nil, nil, errors.Join(problem.New(problem.Invalid, "%s is not a PDF", path.Base(name)), opened.Close())
	}
	file, info, err := opened.Read(name)
	if err != nil {
		return nil, nil, nil, errors.Join(unreadable(err, path.Base(name)), opened.Close())
	}
	return opened, file, info, nil
}

// unreadable says why something in a folder cannot be read, where its user can do something about it.
func unreadable(err error, name string) error {
	switch {
	case errors.Is(err, fs.ErrNotExist):
		return &problem.Error{Kind: problem.Missing, Sentence: message.Of("%s is not there any more.", name), Cause: err}
	case errors.Is(err, fs.ErrPermission):
		return &problem.Error{Kind: problem.Invalid, Sentence: message.Of("Dorbin may not read %s.", name), Cause: err}
	}
	return fmt.Errorf("read %s: %w", name, err)
}

// isHidden tells of names that are not shown: those that begin with a dot, and those that no text can
// name.
func isHidden(name string) bool { return strings.HasPrefix(name, ".") || !utf8.ValidString(name) }

func isPDF(name string) bool { return strings.EqualFold(path.Ext(name), ".pdf") }

func byName(a, b string) int {
	if c := strings.Compare(strings.ToLower(a), strings.ToLower(b)); c != 0 {
		return c
	}
	return strings.Compare(a, b)
}
