package export

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"path/filepath"

	"dorbin/internal/store"
)

// ContentType is the type of a file by its name.
func ContentType(name string) string { return contentTypes[filepath.Ext(name)] }

// File returns the path of a finished export and its file name.
func (s *Service) File(ctx context.Context, id string) (path, name string, err error) {
	e, err := s.store.Export(ctx, id)
	if err != nil {
		return "", "", err
	}
	if e.State != store.ExportDone {
		return "", "", fmt.Errorf("%w: export %s is not finished", store.ErrNotFound, id)
	}
	return s.store.FilePath(e.Blob), e.Name, nil
}

// FileIn opens one of several files that an export made, by its place from 1, and gives its name.
// It is closed by whoever reads it.
func (s *Service) FileIn(ctx context.Context, id string, place int) (io.ReadCloser, string, error) {
	path, _, err := s.File(ctx, id)
	if err != nil {
		return nil, "", err
	}
	e, err := s.Get(ctx, id)
	if err != nil {
		return nil, "", err
	}
	if e.Receipt == nil || place < 1 || place > len(e.Receipt.Files) {
		return nil, "", fmt.Errorf("%w: file %d of export %s", store.ErrNotFound, place, id)
	}
	name := e.Receipt.Files[place-1].Name
	archive, err := zip.OpenReader(path)
	if err != nil {
		return nil, "", fmt.Errorf("open the files of export %s: %w", id, err)
	}
	file, err := archive.Open(name)
	if err != nil {
		return nil, "", errors.Join(fmt.Errorf("open %s: %w", name, err), archive.Close())
	}
	return fileInZip{file, archive}, name, nil
}

// fileInZip is a file that is read from a zip, which is closed with it.
type fileInZip struct {
	fs.File
	zip *zip.ReadCloser
}

func (f fileInZip) Close() error { return errors.Join(f.File.Close(), f.zip.Close()) }
