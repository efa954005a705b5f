package pdf

import (
	"bytes"
	"encoding/binary"
	"testing"

	"github.com/stretchr/testify/assert"
)

func box(kind, content string) []byte {
	head := binary.BigEndian.AppendUint32(nil, uint32(8+len(content)))
	return append(append(head, kind...), content...)
}

func TestJPEG2000TellsNothingAboutItself(t *testing.T) {
	picture := bytes.Join([][]byte{jp2Signature, box("ftyp", "jp2 \x00\x00\x00\x00jp2 "), box("jp2h", "header")}, nil)
	stream := box("jp2c", "\xFF\x4F\xFF\x51")
	long := append([]byte("\x00\x00\x00\x01uuid\x00\x00\x00\x00\x00\x00\x00\x16"), "SECRET"...)
	toEnd := append([]byte("\x00\x00\x00\x00jp2c"), "\xFF\x4F to the end"...)
	whole := append(bytes.Clone(picture), stream...)
	for name, tc := range map[string]struct{ in, want []byte }{
		"nothing else":         {whole, whole},
		"XML, UUID, addresses": {bytes.Join([][]byte{picture, box("xml ", "SECRET"), box("uuid", "SECRET"), box("url ", "SECRET"), long, stream}, nil), whole},
		"to the end":           {bytes.Join([][]byte{picture, box("xml ", "SECRET"), toEnd}, nil), append(bytes.Clone(picture), toEnd...)},
		"a bare codestream":    {[]byte("\xFF\x4F\xFF\x51 xml "), []byte("\xFF\x4F\xFF\x51 xml ")},
		"damaged":              {append(bytes.Clone(picture), "\x7F\xFF\xFF\xFFjp2c"...), append(bytes.Clone(picture), "\x7F\xFF\xFF\xFFjp2c"...)},
	} {
		t.Run(name, func(t *testing.T) {
			got, found := stripJPX(tc.in)
			assert.Equal(t, tc.want, got)
			assert.Equal(t, len(tc.in) != len(tc.want), found)
		})
	}
}

// FuzzStripJPX strips whatever comes, and finds nothing the second time.
func FuzzStripJPX(f *testing.F) {
	f.Add(bytes.Join([][]byte{jp2Signature, box("xml ", "x"), box("jp2c", "y")}, nil))
	f.Add([]byte{})
	f.Fuzz(func(t *testing.T, data []byte) {
		stripped, found := stripJPX(data)
		assert.LessOrEqual(t, len(stripped), len(data))
		if again, more := stripJPX(stripped); found {
			assert.False(t, more)
			assert.Equal(t, stripped, again)
		}
	})
}
