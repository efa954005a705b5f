package jpeg

import (
	"encoding/binary"
	"errors"
)

// errEnded is returned where a scan's data end before its blocks do.
var errEnded = errors.New("its data end")

// errCode is returned for bits that are no Huffman code, or lead beyond a block.
var errCode = errors.New("its data make no sense")

// bitReader reads the bits of a scan's data (F.2.2.5), up to the next marker. Behind it come zeros,
// which are counted.
type bitReader struct {
	data []byte
	at   int    // of the next byte
	bits uint64 // the next bits, the first in the highest place
	n    int    // how many of them there are
	// made is how many of the bits are zeros that are not in the data.
	made int
}

// enough is how many bits are there after filling: more than the longest code with the bits that
// follow it.
const enough = 32

// fill makes enough bits.
func (r *bitReader) fill() {
	if r.n >= enough {
		return
	}
	if r.at+4 <= len(r.data) {
		if word := binary.BigEndian.Uint32(r.data[r.at:]); !hasMarkerByte(word) {
			r.bits |= uint64(word) << (32 - r.n)
			r.n += 32
			r.at += 4
			return
		}
	}
	r.fillBytes()
}

// hasMarkerByte tells whether one of four bytes is 0xFF.
func hasMarkerByte(word uint32) bool { return (^word-0x01010101)&word&0x80808080 != 0 }

// fillBytes fills one byte after another, where a marker or a stuffed byte may be among them.
func (r *bitReader) fillBytes() {
	for r.n <= 56 {
		next := byte(0)
		switch {
		case r.at >= len(r.data):
			r.made += 8
		case r.data[r.at] != 0xFF:
			next = r.data[r.at]
			r.at++
		case r.at+1 < len(r.data) && r.data[r.at+1] == 0:
			next = 0xFF
			r.at += 2
		default:
			r.made += 8 // a marker: the data end here
		}
		r.bits |= uint64(next) << (56 - r.n)
		r.n += 8
	}
}

// ended tells whether bits were used that are not there.
func (r *bitReader) ended() bool { return r.made > r.n }

// take takes bits, at most 16, of those that are there.
func (r *bitReader) take(count int) int {
	value := int(r.bits >> (64 - count))
	r.bits <<= count
	r.n -= count
	return value
}

// bit takes a single bit.
func (r *bitReader) bit() int {
	r.fill()
	return r.take(1)
}

// signed takes a number of so many bits (F.2.2.1, EXTEND).
func (r *bitReader) signed(size int) int {
	if size == 0 {
		return 0
	}
	value := r.take(size)
	if value < 1<<(size-1) {
		value += -1<<size + 1
	}
	return value
}

// align drops the bits that are left before a marker.
func (r *bitReader) align() { r.bits, r.n, r.made = 0, 0, 0 }
