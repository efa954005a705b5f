package pdf

import (
	"bytes"
	"encoding/binary"
)

// jp2Signature begins a JPEG 2000 file, as opposed to a bare codestream (ISO/IEC 15444-1, I.5.1).
var jp2Signature = []byte("\x00\x00\x00\x0CjP  \r\n\x87\n")

// toldBoxes are those that tell about a picture and do not show it (ISO/IEC 15444-1, I.6, I.7).
var toldBoxes = map[string]bool{"xml ": true, "uuid": true, "uinf": true, "url ": true, "jp2i": true}

// stripJPX gives a JPEG 2000 file without the boxes that do not show its picture, and tells whether
// there were any. What is damaged is passed on from there.
func stripJPX(data []byte) (stripped []byte, found bool) {
	if !bytes.HasPrefix(data, jp2Signature) {
		return data, false
	}
	for at := 0; at < len(data); {
		length, ok := boxLength(data[at:])
		if !ok {
			return append(stripped, data[at:]...), found
		}
		if box := data[at : at+length]; toldBoxes[string(box[4:8])] {
			found = true
		} else {
			stripped = append(stripped, box...)
		}
		at += length
	}
	return stripped, found
}

// boxLength is how many bytes a box has with its header (I.4); it is not ok for one that does not
// fit into what is there.
func boxLength(data []byte) (length int, ok bool) {
	if len(data) < 8 {
		return 0, false
	}
	header, n := uint64(8), uint64(binary.BigEndian.Uint32(data))
	switch {
	case n == 0: // up to the end
		return len(data), true
	case n == 1 && len(data) >= 16:
		header, n = 16, binary.BigEndian.Uint64(data[8:])
	}
	if n < header || n > uint64(len(data)) {
		return 0, false
	}
	return int(n), true //nolint:gosec // not more than there is
}
