package jpeg

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
)

// Extent is a run of bytes of a file.
type Extent struct{ Offset, Length int64 }

// Markers (table B.1).
const (
	firstFrame   = 0xC0 // those below are reserved
	startOfImage = 0xD8
	endOfImage   = 0xD9
	startOfScan  = 0xDA
	temporary    = 0x01
	firstRestart = 0xD0
	lastRestart  = 0xD7
	app0         = 0xE0
	app2         = 0xE2
	app14        = 0xEE
	app15        = 0xEF
	jpegExtra0   = 0xF0 // JPG0 to JPG13, and COM, are for what a decoder passes over
)

// Essential finds the bytes of a JPEG of so many bytes that show its picture: the tables, the
// frame and the scans, the segments that say how its colours are meant (JFIF, ICC profile,
// Adobe), and nothing after the end of the picture. Left out are EXIF, XMP, captions, comments,
// previews, the notes of makers, and what was appended. A file that breaks off is given up to
// where it does; its last bytes are those that are there.
func Essential(r io.ReaderAt, size int64) ([]Extent, error) {
	f := file{in: bufio.NewReaderSize(io.NewSectionReader(r, 0, size), 64<<10)}
	if err := f.read(); err != nil {
		return nil, err
	}
	return f.essential, nil
}

// Strip gives the essential bytes of a JPEG in memory, and whether there were others.
func Strip(data []byte) (stripped []byte, found bool, err error) {
	extents, err := Essential(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, false, err
	}
	for _, e := range extents {
		stripped = append(stripped, data[e.Offset:e.Offset+e.Length]...)
	}
	return stripped, len(stripped) < len(data), nil
}

// file is a JPEG that is read from its beginning to its end.
type file struct {
	in        *bufio.Reader
	at        int64
	afterScan bool // the first byte of the marker at this place was read
	essential []Extent
}

func (f *file) read() error {
	head, err := f.in.Peek(2)
	if err != nil || head[0] != 0xFF || head[1] != startOfImage {
		return ErrNotJPEG
	}
	f.discard(2)
	f.keep(0, 2)
	for {
		marker, err := f.marker()
		if err != nil {
			return f.unlessEnded(err)
		}
		from := f.at - 2
		if marker == endOfImage {
			f.keep(from, f.at)
			return nil
		}
		if isAlone(marker) {
			continue
		}
		kept, err := f.segment(marker)
		if err == nil && marker == startOfScan {
			err = f.scan()
		}
		if kept {
			f.keep(from, f.at)
		}
		if err != nil {
			return f.unlessEnded(err)
		}
	}
}

// unlessEnded passes on errors of reading; the end of the file is where a picture breaks off.
func (f *file) unlessEnded(err error) error {
	if errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF) {
		return nil
	}
	return fmt.Errorf("read JPEG: %w", err)
}

// marker reads up to and with the next marker. Fill bytes and stray bytes before it are not
// essential (B.1.1.2).
func (f *file) marker() (byte, error) {
	isFill := f.afterScan
	if f.afterScan {
		f.afterScan = false
		f.at++
	}
	for {
		b, err := f.in.ReadByte()
		if err != nil {
			return 0, err
		}
		f.at++
		if isFill && b != 0 && b != 0xFF {
			return b, nil
		}
		isFill = b == 0xFF
	}
}

// isAlone tells of markers that no segment follows, and that mean nothing outside of scans.
func isAlone(marker byte) bool {
	return marker == temporary || marker == startOfImage || (marker >= firstRestart && marker <= lastRestart)
}

// segment reads a segment after its marker and tells whether it is essential.
func (f *file) segment(marker byte) (essential bool, err error) {
	length, err := f.in.Peek(2)
	if err != nil {
		return false, err
	}
	n := int(binary.BigEndian.Uint16(length))
	head, err := f.in.Peek(min(n, 16))
	essential = isEssential(marker, n, head)
	if err != nil {
		return essential, errors.Join(err, f.discard(len(head)))
	}
	return essential, f.discard(max(2, n))
}

// isEssential tells of a segment by its marker, its length and its first bytes, of which the
// first two are the length.
func isEssential(marker byte, length int, head []byte) bool {
	begins := func(signature string) bool {
		return len(head) >= 2+len(signature) && string(head[2:2+len(signature)]) == signature
	}
	switch {
	case marker == app0:
		const withoutPreview = 16 // ITU-T T.871, 10.1
		return begins("JFIF\x00") && length == withoutPreview
	case marker == app2:
		return begins("ICC_PROFILE\x00") // ICC.1:2010, B.4
	case marker == app14:
		return begins("Adobe")
	case marker < firstFrame, marker > app0 && marker <= app15, marker >= jpegExtra0:
		return false
	}
	return true
}

// scan reads the entropy-coded data of a scan, to before the next marker that is none of a
// restart (B.1.1.5).
func (f *file) scan() error {
	for {
		data, err := f.in.ReadSlice(0xFF)
		f.at += int64(len(data))
		if errors.Is(err, bufio.ErrBufferFull) {
			continue
		}
		if err != nil {
			return err
		}
		next, err := f.in.Peek(1)
		if err != nil {
			return err
		}
		if next[0] != 0 && next[0] != 0xFF && (next[0] < firstRestart || next[0] > lastRestart) {
			f.at--
			f.afterScan = true
			return nil
		}
	}
}

func (f *file) discard(n int) error {
	n, err := f.in.Discard(n)
	f.at += int64(n)
	return err
}

// keep adds a run of bytes to those that are essential, at the end of the last where they
// touch.
func (f *file) keep(from, to int64) {
	if n := len(f.essential); n > 0 && f.essential[n-1].Offset+f.essential[n-1].Length == from {
		f.essential[n-1].Length += to - from
		return
	}
	f.essential = append(f.essential, Extent{from, to - from})
}

// Bytes is the sum of the lengths of extents.
func Bytes(extents []Extent) (sum int64) {
	for _, e := range extents {
		sum += e.Length
	}
	return sum
}

// Reader reads extents of a file, one after another.
func Reader(r io.ReaderAt, extents []Extent) io.Reader {
	readers := make([]io.Reader, len(extents))
	for i, e := range extents {
		readers[i] = io.NewSectionReader(r, e.Offset, e.Length)
	}
	return io.MultiReader(readers...)
}
