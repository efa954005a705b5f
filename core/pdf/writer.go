package pdf

import (
	"bytes"
	"compress/zlib"
	"crypto/md5"
	"fmt"
	"hash"
	"io"
	"strconv"
	"sync"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// writer streams numbered objects into a file with compressed object streams
// (7.5.7) and a cross-reference stream (7.5.8).
type writer struct {
	out     io.Writer
	offset  int64
	digest  hash.Hash // of everything written, for the file identifier (14.4)
	entries []entry   // by object number
	err     error

	encryption *encryption // nil where nothing is encrypted

	packed      bytes.Buffer // objects waiting for their object stream
	packedIndex []packedObject
}

type entryKind byte

const (
	free     entryKind = 0
	atOffset entryKind = 1
	inStream entryKind = 2
)

// entry is a row of the cross-reference stream (7.5.8.3, table 18).
type entry struct {
	kind  entryKind
	where int64 // offset in the file, or number of the object stream
	index int   // place in the object stream
}

type packedObject struct{ number, offset int }

// Limits of one object stream: readers must unpack it whole to get at one
// object in it.
const (
	maxPackedObjects = 200
	maxPackedBytes   = 1 << 16
)

func newWriter(out io.Writer) *writer {
	w := &writer{out: out, digest: md5.New(), entries: []entry{{}}}
	// The comment with high bytes marks the file as binary (7.5.2).
	w.write([]byte("%PDF-1.7\n%\xe2\xe3\xcf\xd3\n"))
	return w
}

func (w *writer) write(b []byte) {
	if w.err != nil {
		return
	}
	n, err := w.out.Write(b)
	w.offset += int64(n)
	w.digest.Write(b[:n])
	w.err = err
}

// allocate reserves an object number. One that is never written stays free.
func (w *writer) allocate() int {
	w.entries = append(w.entries, entry{})
	return len(w.entries) - 1
}

// release gives back the number that was allocated last.
func (w *writer) release(number int) {
	if number == len(w.entries)-1 {
		w.entries = w.entries[:number]
	}
}

// object writes an object that is no stream, given in the file's syntax.
func (w *writer) object(number int, body []byte) {
	w.packedIndex = append(w.packedIndex, packedObject{number, w.packed.Len()})
	w.packed.Write(body)
	w.packed.WriteByte('\n')
	if len(w.packedIndex) >= maxPackedObjects || w.packed.Len() >= maxPackedBytes {
		w.flushPacked()
	}
}

func (w *writer) flushPacked() {
	if len(w.packedIndex) == 0 {
		return
	}
	number := w.allocate()
	var header []byte
	for i, object := range w.packedIndex {
		header = strconv.AppendInt(header, int64(object.number), 10)
		header = append(header, ' ')
		header = strconv.AppendInt(header, int64(object.offset), 10)
		header = append(header, ' ')
		w.entries[object.number] = entry{kind: inStream, where: int64(number), index: i}
	}
	dict := types.Dict{
		"Type":   types.Name("ObjStm"),
		"N":      types.Integer(len(w.packedIndex)),
		"First":  types.Integer(len(header)),
		"Filter": types.Name("FlateDecode"),
	}
	data := deflate(header, w.packed.Bytes())
	w.packed.Reset()
	w.packedIndex = w.packedIndex[:0]
	w.stream(number, dict, bytes.NewReader(data), int64(len(data)))
}

// stream writes a stream object of exactly length encoded bytes.
func (w *writer) stream(number int, dict types.Dict, data io.Reader, length int64) {
	if w.encryption != nil {
		dict, _ = w.encryption.strings(dict).(types.Dict)
		data, length = w.encryption.encrypted(data), encryptedLength(length)
	}
	w.plainStream(number, dict, data, length)
}

func (w *writer) plainStream(number int, dict types.Dict, data io.Reader, length int64) {
	dict["Length"] = types.Integer(length)
	w.entries[number] = entry{kind: atOffset, where: w.offset}
	head := fmt.Appendf(nil, "%d 0 obj\n", number)
	head = appendDict(head, dict)
	w.write(append(head, "\nstream\n"...))
	if w.err == nil {
		n, err := io.Copy(streamSink{w}, data)
		if err == nil && n != length {
			err = fmt.Errorf("a stream has %d bytes where %d were announced", n, length)
		}
		if w.err == nil {
			w.err = err
		}
	}
	w.write([]byte("\nendstream\nendobj\n"))
}

type streamSink struct{ w *writer }

func (s streamSink) Write(b []byte) (int, error) {
	s.w.write(b)
	return len(b), s.w.err
}

// finish writes the cross-reference stream and the end of the file.
func (w *writer) finish(root, info int) error {
	w.flushPacked()
	number := w.allocate()
	start := w.offset
	w.entries[number] = entry{kind: atOffset, where: start}
	id := types.NewHexLiteral(w.digest.Sum(nil))
	dict := types.Dict{
		"Type":   types.Name("XRef"),
		"Size":   types.Integer(len(w.entries)),
		"W":      types.Array{types.Integer(1), types.Integer(5), types.Integer(2)},
		"Root":   reference(root),
		"Info":   reference(info),
		"ID":     types.Array{id, id},
		"Filter": types.Name("FlateDecode"),
	}
	if w.encryption != nil {
		dict["Encrypt"] = w.encryption.dict
	}
	data := deflate(w.crossReference())
	w.plainStream(number, dict, bytes.NewReader(data), int64(len(data)))
	w.write(fmt.Appendf(nil, "startxref\n%d\n%%%%EOF\n", start))
	if w.err != nil {
		return fmt.Errorf("write PDF: %w", w.err)
	}
	return nil
}

func (w *writer) crossReference() []byte {
	const rowBytes = 8
	table := make([]byte, 0, rowBytes*len(w.entries))
	for number, e := range w.entries {
		index := e.index
		if number == 0 {
			index = 0xFFFF // the head of the list of free objects (7.5.4)
		}
		table = append(table, byte(e.kind),
			byte(e.where>>32), byte(e.where>>24), byte(e.where>>16), byte(e.where>>8), byte(e.where),
			byte(index>>8), byte(index))
	}
	return table
}

// compressors are used again: making one takes longer than to compress what a page has of its own.
var compressors = sync.Pool{New: func() any { return zlib.NewWriter(nil) }}

// deflate compresses the concatenation of chunks in zlib format (7.4.4).
func deflate(chunks ...[]byte) []byte {
	var out bytes.Buffer
	z, _ := compressors.Get().(*zlib.Writer) // which it always is
	defer compressors.Put(z)
	z.Reset(&out)
	for _, chunk := range chunks {
		_, _ = z.Write(chunk) // writing to memory does not fail
	}
	_ = z.Close()
	return out.Bytes()
}
