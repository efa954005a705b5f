package intake

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os"

	"dorbin/core/jpeg"
	"dorbin/core/png"
	"dorbin/internal/worker"
)

// Repack has a worker write a JPEG or a PNG in fewer bytes, with every pixel the same, and gives how many
// there are; 0 where nothing was written, as there would not be fewer, or it is damaged.
func Repack(ctx context.Context, pool *worker.Pool, path string, w io.Writer) (bytes int64, err error) {
	err = pool.Written(w, func(file string) (err error) {
		bytes, _, err = repackTask.Do(ctx, pool, repackInput{path, file})
		return err
	})
	return bytes, err
}

func repack(path string, w io.Writer) (int64, error) {
	data, err := os.ReadFile(path) //nolint:gosec // a file that workers may read
	if err != nil {
		return 0, fmt.Errorf("read picture: %w", err)
	}
	write := jpeg.Repack
	if bytes.HasPrefix(data, []byte(png.Signature)) {
		write = repackPNG
	}
	small, err := write(data)
	if err != nil {
		return 0, nil //nolint:nilerr // it stays as it is
	}
	if _, err := w.Write(small); err != nil {
		return 0, fmt.Errorf("write picture: %w", err)
	}
	return int64(len(small)), nil
}

// repackPNG leaves alone what a document cannot keep as it is: its pixels are written otherwise.
func repackPNG(data []byte) ([]byte, error) {
	header, err := readPNGHeader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, err
	}
	if !header.embeddable() {
		return nil, png.ErrUnsupported
	}
	return png.Repack(data)
}
