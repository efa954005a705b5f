package intake

import (
	"bytes"
	"compress/zlib"
	"errors"
	"fmt"
	"io"
	"os"

	"dorbin/core/png"
)

// isPNGTorn tells whether a PNG ends before its last chunk.
func isPNGTorn(file io.ReaderAt, size int64) (bool, error) {
	ended := false
	err := eachChunk(file, size, func(kind string, _ extent) error {
		ended = kind == "IEND"
		return nil
	})
	return !ended, err
}

// mendPNG writes what is left of a torn PNG as a whole one, with white in place of what is
// missing, and tells which share of the picture is there. Nothing is made of one whose rows are
// interlaced. The error is a *problem.Error when nothing can be seen of it.
func mendPNG(in imagesInput, w io.Writer) (share float64, err error) {
	file, err := os.Open(in.Path)
	if err != nil {
		return 0, fmt.Errorf("read picture: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	info, err := file.Stat()
	if err != nil {
		return 0, fmt.Errorf("read picture: %w", err)
	}
	header, err := readPNGHeader(file, info.Size())
	switch {
	case err != nil:
	case header.interlaced:
		err = errors.New("it is interlaced")
	default:
		if err := in.Limits.checkPixels(in.Name, 1, header.width, header.height, header.pixelBytes()); err != nil {
			return 0, err
		}
		share, err = header.mend(file, info.Size(), w)
	}
	return share, in.checkSeen(share, err)
}

// headerChunks are those before the picture that are copied (ISO/IEC 15948:2004, 11.3).
var headerChunks = map[string]bool{"IHDR": true, "PLTE": true, "tRNS": true, "pHYs": true, "gAMA": true, "sRGB": true}

func (h pngHeader) mend(file io.ReaderAt, size int64, w io.Writer) (share float64, err error) {
	if _, err := io.WriteString(w, png.Signature); err != nil {
		return 0, err
	}
	err = eachChunk(file, size, func(kind string, body extent) error {
		if !headerChunks[kind] {
			return nil
		}
		content := make([]byte, body.length)
		if _, err := file.ReadAt(content, body.offset); err != nil {
			return err
		}
		return writeChunk(w, kind, content)
	})
	if err != nil {
		return 0, err
	}
	data := zlib.NewWriter(chunkWriter{w})
	rows, err := h.copyRows(data, h.rows(file, size))
	if err := errors.Join(err, data.Close(), writeChunk(w, "IEND", nil)); err != nil {
		return 0, err
	}
	return float64(rows) / float64(h.height), nil
}

// rows is the data of the picture as far as it is there.
func (h pngHeader) rows(file io.ReaderAt, size int64) io.Reader {
	var readers []io.Reader
	for _, e := range h.data {
		readers = append(readers, io.NewSectionReader(file, e.offset, min(e.length, size-e.offset)))
	}
	unpacked, err := zlib.NewReader(io.MultiReader(readers...))
	if err != nil {
		return bytes.NewReader(nil)
	}
	return unpacked
}

// lastFilter is the greatest of the filters that a row can have (ISO/IEC 15948:2004, 9.2).
const lastFilter = 4

// copyRows copies the rows that are there, each with its filter, and goes on with white ones. It
// tells how many were there.
func (h pngHeader) copyRows(w io.Writer, in io.Reader) (there int, err error) {
	row := make([]byte, 1+(h.width*png.Channels(h.colour)*int(h.bits)+7)/8)
	for ; there < h.height; there++ {
		if _, err := io.ReadFull(in, row); err != nil || row[0] > lastFilter {
			break
		}
		if _, err := w.Write(row); err != nil {
			return there, err
		}
	}
	white := bytes.Repeat([]byte{h.white()}, len(row))
	white[0] = 0 // no filter
	for range h.height - there {
		if _, err := w.Write(white); err != nil {
			return there, err
		}
	}
	return there, nil
}

// white is a byte of white pixels: of those of a palette, the lightest.
func (h pngHeader) white() byte {
	if h.colour != pngIndexed {
		return 0xFF
	}
	lightest, entry := -1, byte(0)
	for i := 0; i+2 < len(h.palette) && i/3 < 1<<h.bits; i += 3 {
		if sum := int(h.palette[i]) + int(h.palette[i+1]) + int(h.palette[i+2]); sum > lightest {
			lightest, entry = sum, byte(i/3)
		}
	}
	white := byte(0)
	for shift := 0; shift < 8; shift += max(1, int(h.bits)) {
		white |= entry << shift
	}
	return white
}

// chunkWriter writes the data of a picture, a chunk for each piece.
type chunkWriter struct{ out io.Writer }

func (c chunkWriter) Write(piece []byte) (int, error) {
	return len(piece), writeChunk(c.out, "IDAT", piece)
}

func writeChunk(w io.Writer, kind string, content []byte) error {
	_, err := w.Write(png.AppendChunk(nil, kind, content))
	return err
}
