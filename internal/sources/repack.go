package sources

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"dorbin/internal/intake"
	"dorbin/internal/store"
	"dorbin/internal/worker"
)

// repackedNames are those of pictures in fewer bytes, beside what else is derived from their files. They
// are empty where the file itself is as small.
var repackedNames = map[intake.Kind]string{intake.JPEG: "repacked.jpg", intake.PNG: "repacked.png"}

// IsJPEG tells whether a source is a JPEG.
func IsJPEG(source store.Source) bool { return source.Kind == string(intake.JPEG) }

// CanBeRepacked tells whether a source is of a kind that may be written in fewer bytes, with every pixel
// the same.
func CanBeRepacked(source store.Source) bool { return repackedNames[intake.Kind(source.Kind)] != "" }

// Repacked gives the path of a source's picture in fewer bytes, with every pixel the same, and how many
// they are fewer: 0 for its own file, where there is nothing to gain. It is made once.
func (o *Opener) Repacked(ctx context.Context, source store.Source) (path string, saved int64, err error) {
	own := o.store.FilePath(source.Working)
	path = filepath.Join(o.store.DerivedFolder(source.Working), repackedNames[intake.Kind(source.Kind)])
	info, err := os.Stat(path)
	if errors.Is(err, fs.ErrNotExist) {
		err = o.store.WriteDerived(source.Working, filepath.Base(path), func(file *os.File) error {
			_, err := intake.Repack(ctx, o.pool, own, file)
			return err
		})
		if err == nil {
			info, err = os.Stat(path)
		}
	}
	switch {
	case worker.GaveUp(err):
		return own, 0, nil
	case err != nil:
		return "", 0, fmt.Errorf("write source %s in fewer bytes: %w", source.ID, err)
	case info.Size() == 0:
		return own, 0, nil
	}
	before, err := os.Stat(own)
	if err != nil {
		return "", 0, fmt.Errorf("look at source %s: %w", source.ID, err)
	}
	return path, before.Size() - info.Size(), nil
}
