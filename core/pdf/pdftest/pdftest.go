package pdftest

import (
	"bytes"
	"compress/zlib"
	"fmt"
)

// File writes a PDF of objects, numbered from 1, of which the first is the catalog. Its
// cross-reference table is as it should be (ISO 32000-2:2020, 7.5.4).
func File(objects ...string) []byte {
	var out bytes.Buffer
	offsets := make([]int, len(objects))
	out.WriteString("%PDF-1.7\n")
	for i, object := range objects {
		offsets[i] = out.Len()
		fmt.Fprintf(&out, "%d 0 obj\n%s\nendobj\n", i+1, object)
	}
	table := out.Len()
	fmt.Fprintf(&out, "xref\n0 %d\n0000000000 65535 f \n", len(objects)+1)
	for _, offset := range offsets {
		fmt.Fprintf(&out, "%010d 00000 n \n", offset)
	}
	fmt.Fprintf(&out, "trailer\n<< /Size %d /Root 1 0 R >>\nstartxref\n%d\n%%%%EOF\n", len(objects)+1, table)
	return out.Bytes()
}

// Stream spells out a stream with the entries of its dictionary, but for the length.
func Stream(entries, content string) string {
	return fmt.Sprintf("<< %s /Length %d >>\nstream\n%s\nendstream", entries, len(content), content)
}

// Deflated compresses data for FlateDecode (7.4.4).
func Deflated(data []byte) string {
	var out bytes.Buffer
	w := zlib.NewWriter(&out)
	_, _ = w.Write(data) // a buffer takes everything
	_ = w.Close()
	return out.String()
}
