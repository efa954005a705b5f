package intake

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"

	"dorbin/core/jpeg"
	"dorbin/core/problem"
)

// IsTorn tells whether a JPEG or a PNG ends before it says so: a transfer broke off.
func IsTorn(path string, kind Kind) (bool, error) {
	file, err := os.Open(path)
	if err != nil {
		return false, fmt.Errorf("open picture: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	info, err := file.Stat()
	if err != nil {
		return false, fmt.Errorf("open picture: %w", err)
	}
	switch kind {
	case PNG:
		return isPNGTorn(file, info.Size())
	case JPEG:
		return isJPEGTorn(file, info.Size())
	}
	return false, nil
}

// isJPEGTorn tells whether a JPEG has no end marker near its end.
func isJPEGTorn(file io.ReaderAt, size int64) (bool, error) {
	const tail = 64 << 10 // some cameras write a preview behind the picture
	from := max(0, size-tail)
	end, err := io.ReadAll(io.NewSectionReader(file, from, tail))
	if err != nil {
		return false, fmt.Errorf("read picture: %w", err)
	}
	return !bytes.Contains(end, []byte{0xFF, markerEOI}), nil
}

// Mend has a worker write what is left of a torn picture as a whole one, with white in place of
// what is missing, and tells which share of the picture is there. Name is what its user calls
// the file; the error is a *problem.Error when nothing can be seen of it.
func (in *Inspector) Mend(ctx context.Context, kind Kind, path, name string, w io.Writer) (share float64, err error) {
	err = in.Pool.Written(w, func(file string) error {
		share, _, err = mendTask.Do(ctx, in.Pool, convertInput{imagesInput{path, name, kind, in.Limits}, file})
		return ofFile(name, err)
	})
	return share, err
}

// mendJPEG writes what is left of a torn JPEG as a whole one, with white in
// place of what is missing, and tells which share of the picture is there.
// The error is a *problem.Error when nothing can be seen of it.
func mendJPEG(in imagesInput, w io.Writer) (share float64, err error) {
	data, err := os.ReadFile(in.Path)
	if err != nil {
		return 0, fmt.Errorf("read picture: %w", err)
	}
	whole, share, err := in.mendedJPEG(data)
	if err := in.checkSeen(share, err); err != nil {
		return 0, err
	}
	if _, err := w.Write(whole); err != nil {
		return 0, fmt.Errorf("mend %s: %w", in.Name, err)
	}
	return share, nil
}

// checkSeen refuses a torn picture of which no share can be seen, if it is not refused already.
func (in imagesInput) checkSeen(share float64, err error) error {
	var told *problem.Error
	switch {
	case errors.As(err, &told):
		return err
	case err == nil && share > 0:
		return nil
	case err == nil:
		err = errors.New("it ends before the picture begins")
	}
	return refuse(Damaged, err, "%s is damaged: it breaks off before anything can be seen of it. Ask for it again.", in.Name)
}

// mendedJPEG writes what is left of a torn JPEG as a whole one, and tells which share of the picture it is.
func (in imagesInput) mendedJPEG(data []byte) ([]byte, float64, error) {
	picture, err := jpeg.Open(data)
	if err != nil {
		return nil, 0, err //nolint:wrapcheck // says what it is about
	}
	const mostBytes = 4 // of a pixel
	if err := in.Limits.checkPixels(in.Name, 1, picture.Width, picture.Height, mostBytes); err != nil {
		return nil, 0, err
	}
	return jpeg.Mend(data) //nolint:wrapcheck // says what it is about
}
