package intake

import (
	"bufio"
	"bytes"
	"context"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"image/draw"
	"image/jpeg"
	"io"
	"os"

	"dorbin/core/raster"
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

// mcuRows is the most rows of pixels that are coded together (ITU-T T.81, A.2).
const mcuRows = 32

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
	torn, err := scanTorn(data)
	if err == nil {
		if err := in.Limits.checkPixels(in.Name, 1, torn.header.width, torn.header.height, torn.header.components); err != nil {
			return 0, err
		}
	}
	var img image.Image
	if err == nil {
		img, share, err = torn.decode(data)
	}
	if err == nil && share == 0 {
		err = errors.New("it ends before the picture begins")
	}
	if err != nil {
		return 0, refuse(Damaged, err, "%s is damaged: it breaks off before anything can be seen of it. Ask for it again.", in.Name)
	}
	var whole bytes.Buffer
	if err := jpeg.Encode(&whole, img, &jpeg.Options{Quality: convertedQuality}); err != nil {
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

// tornJPEG is what the markers of a torn JPEG say.
type tornJPEG struct {
	header      jpegHeader
	progressive bool
	scans       []int // where scans begin
	interval    int   // blocks between restart markers; 0 is none
	restarts    int   // restart markers that are there
}

func (t tornJPEG) decode(data []byte) (image.Image, float64, error) {
	if t.progressive {
		// Each scan is of the whole picture: without the last, it is less sharp.
		if len(t.scans) < 2 {
			return nil, 0, errors.New("it ends within the first scan")
		}
		img, err := decodeBytes(append(bytes.Clone(data[:t.scans[len(t.scans)-1]]), 0xFF, markerEOI))
		return img, 1, err
	}
	// Two ways of going on: where the pictures part, the data ended.
	first, err := decodeBytes(append(bytes.Clone(data), t.padding(0x00)...))
	if err != nil {
		return nil, 0, err
	}
	second, err := decodeBytes(append(bytes.Clone(data), t.padding(0x55)...))
	if err != nil {
		return nil, 0, err
	}
	rows := commonRows(first, second) / mcuRows * mcuRows
	height := first.Bounds().Dy()
	canvas := image.NewRGBA(first.Bounds())
	draw.Draw(canvas, canvas.Rect, image.White, image.Point{}, draw.Src)
	top := image.Rect(0, 0, canvas.Rect.Dx(), rows)
	draw.Draw(canvas, top, raster.ToRGBA(first), image.Point{}, draw.Src)
	return canvas, float64(rows) / float64(height), nil
}

func decodeBytes(data []byte) (image.Image, error) {
	return guarded(func() (image.Image, error) { return jpeg.Decode(bytes.NewReader(data)) })
}

// scanTorn goes through the segments and the data of a torn JPEG.
func scanTorn(data []byte) (tornJPEG, error) {
	header, err := readJPEGHeader(bufio.NewReader(bytes.NewReader(data)))
	t := tornJPEG{header: header}
	if err != nil {
		return t, err
	}
	for at := 2; at+4 <= len(data); {
		if data[at] != 0xFF {
			at++
			continue
		}
		marker := data[at+1]
		switch {
		case marker == 0 || marker == 0xFF:
			at++
			continue
		case marker >= 0xD0 && marker <= 0xD7:
			t.restarts++
			at += 2
			continue
		case isFrame(marker):
			t.progressive = marker == 0xC2
		case marker == 0xDD && at+6 <= len(data): // restart interval
			t.interval = int(binary.BigEndian.Uint16(data[at+4:]))
		case marker == markerSOS:
			t.scans = append(t.scans, at)
		}
		at += 2 + int(binary.BigEndian.Uint16(data[at+2:]))
	}
	if len(t.scans) == 0 {
		return t, errNoFrame
	}
	return t, nil
}

// padding goes on with the data of a torn JPEG until its decoder has enough,
// with the restart markers it looks for.
func (t tornJPEG) padding(fill byte) []byte {
	const perBlock = 32 // bytes; a block has at most 64 coefficients of few bits
	blocks := (t.header.width/8 + 4) * (t.header.height/8 + 4) * t.header.components
	var out []byte
	if t.interval > 0 {
		run := bytes.Repeat([]byte{fill}, t.interval*6*perBlock)
		for n := t.restarts; len(out) < blocks*perBlock+2*len(run); n++ {
			out = append(append(out, run...), 0xFF, 0xD0+byte(n%8))
		}
	} else {
		out = bytes.Repeat([]byte{fill}, blocks*perBlock)
	}
	return append(out, 0xFF, markerEOI)
}

func commonRows(a, b image.Image) int {
	first, second := raster.ToRGBA(a), raster.ToRGBA(b)
	for y := range first.Rect.Dy() {
		if !bytes.Equal(first.Pix[y*first.Stride:(y+1)*first.Stride], second.Pix[y*second.Stride:(y+1)*second.Stride]) {
			return y
		}
	}
	return first.Rect.Dy()
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
