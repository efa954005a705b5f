package intake

import (
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"image/draw"
	stdjpeg "image/jpeg"
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
	img, share, err := in.decodeTorn(data)
	var told *problem.Error
	if errors.As(err, &told) {
		return 0, err
	}
	if err == nil && share == 0 {
		err = errors.New("it ends before the picture begins")
	}
	if err != nil {
		return 0, refuse(Damaged, err, "%s is damaged: it breaks off before anything can be seen of it. Ask for it again.", in.Name)
	}
	var whole bytes.Buffer
	if err := stdjpeg.Encode(&whole, img, &stdjpeg.Options{Quality: convertedQuality}); err != nil {
		return 0, fmt.Errorf("mend %s: %w", in.Name, err)
	}
	// The segments before the picture say how it stands and how large it is.
	out := append([]byte{0xFF, markerSOI}, applicationSegments(data)...)
	for _, part := range [][]byte{out, whole.Bytes()[2:]} {
		if _, err := w.Write(part); err != nil {
			return 0, fmt.Errorf("mend %s: %w", in.Name, err)
		}
	}
	return share, nil
}

// decodeTorn decodes what is left of a torn JPEG, and tells which share of the picture it is.
func (in imagesInput) decodeTorn(data []byte) (image.Image, float64, error) {
	picture, err := jpeg.Open(data)
	if err != nil {
		return nil, 0, err //nolint:wrapcheck // says what it is about
	}
	const mostBytes = 4 // of a pixel
	if err := in.Limits.checkPixels(in.Name, 1, picture.Width, picture.Height, mostBytes); err != nil {
		return nil, 0, err
	}
	img, err := picture.Decode(jpeg.Full)
	var damaged *jpeg.DamagedError
	switch {
	case err == nil:
		return img, 1, nil
	case !errors.As(err, &damaged):
		return nil, 0, err //nolint:wrapcheck // says what it is about
	case damaged.Progressive && damaged.Scans > 1:
		return img, 1, nil // each scan is of the whole picture: without the last, it is less sharp
	}
	return whiteBelow(img, damaged.Rows), float64(damaged.Rows) / float64(picture.Height), nil
}

// whiteBelow is a picture without what comes after some rows.
func whiteBelow(img image.Image, rows int) image.Image {
	canvas := image.NewRGBA(image.Rectangle{Max: img.Bounds().Size()})
	draw.Draw(canvas, canvas.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(canvas, image.Rect(0, 0, canvas.Rect.Dx(), rows), img, img.Bounds().Min, draw.Src)
	return canvas
}

// applicationSegments are the segments at the beginning that hold the
// resolution, the orientation and the colour profile.
func applicationSegments(data []byte) []byte {
	var kept []byte
	for at := 2; at+4 <= len(data) && data[at] == 0xFF && data[at+1]&0xF0 == markerAPP0; {
		end := at + 2 + int(binary.BigEndian.Uint16(data[at+2:]))
		if end > len(data) {
			break
		}
		if data[at+1] <= markerAPP2 {
			kept = append(kept, data[at:end]...)
		}
		at = end
	}
	return kept
}
