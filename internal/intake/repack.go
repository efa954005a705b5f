package intake

import (
	"context"
	"fmt"
	"io"
	"os"

	"dorbin/core/jpeg"
	"dorbin/internal/worker"
)

// RepackJPEG has a worker write a JPEG in fewer bytes, with every pixel the same, and gives how many there
// are; 0 where nothing was written, as there would not be fewer, or it is damaged.
func RepackJPEG(ctx context.Context, pool *worker.Pool, path string, w io.Writer) (bytes int64, err error) {
	err = pool.Written(w, func(file string) (err error) {
		bytes, _, err = repackTask.Do(ctx, pool, repackInput{path, file})
		return err
	})
	return bytes, err
}

func repackJPEG(path string, w io.Writer) (int64, error) {
	data, err := os.ReadFile(path) //nolint:gosec // a file that workers may read
	if err != nil {
		return 0, fmt.Errorf("read picture: %w", err)
	}
	small, err := jpeg.Repack(data)
	if err != nil {
		return 0, nil //nolint:nilerr // it stays as it is
	}
	if _, err := w.Write(small); err != nil {
		return 0, fmt.Errorf("write picture: %w", err)
	}
	return int64(len(small)), nil
}
