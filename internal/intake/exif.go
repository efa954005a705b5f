package intake

import (
	"encoding/binary"
	"errors"

	"dorbin/core/geometry"
)

// exif is what is needed of a picture's EXIF data (CIPA DC-008, 4.6).
type exif struct {
	orientation int                 // 1 to 8; 0 is not said
	resolution  geometry.Resolution // dots an inch; zero is not said
	isCamera    bool                // it has a focal length: the paper is at no known distance
}

// Tags and types of EXIF data, which is laid out as a TIFF (TIFF 6.0, section 2).
const (
	tagOrientation    = 0x0112
	tagXResolution    = 0x011A
	tagYResolution    = 0x011B
	tagResolutionUnit = 0x0128
	tagExifDirectory  = 0x8769
	tagFocalLength    = 0x920A

	typeShort    = 3
	typeLong     = 4
	typeRational = 5

	perCentimetre = 3 // a resolution unit; 2 is per inch
	entryBytes    = 12
)

var errNoEXIF = errors.New("there is no EXIF data")

// parseEXIF reads EXIF data that begins with a TIFF header. It looks at two directories,
// the first and the one for EXIF, and at their own entries alone: what they refer to in
// circles is not followed.
func parseEXIF(data []byte) (x exif, err error) {
	if len(data) < 8 {
		return x, errNoEXIF
	}
	d := directory{data: data}
	switch string(data[:4]) {
	case "II*\x00":
		d.order = binary.LittleEndian
	case "MM\x00*":
		d.order = binary.BigEndian
	default:
		return x, errNoEXIF
	}
	first := d.entries(d.order.Uint32(data[4:]))
	x.orientation = int(d.number(first[tagOrientation]))
	if x.orientation > 8 {
		x.orientation = 0
	}
	unit := 1.0
	if d.number(first[tagResolutionUnit]) == perCentimetre {
		unit = geometry.MillimetresPerInch / 10
	}
	x.resolution = geometry.Resolution{X: unit * d.rational(first[tagXResolution]), Y: unit * d.rational(first[tagYResolution])}
	if second := d.number(first[tagExifDirectory]); second > 0 {
		_, x.isCamera = d.entries(second)[tagFocalLength]
	}
	return x, nil
}

// directory reads directories of a TIFF.
type directory struct {
	data  []byte
	order binary.ByteOrder
}

// entries gives the entries of the directory at an offset, by their tags, as far as they are
// there.
func (d directory) entries(offset uint32) map[uint16][]byte {
	if int64(offset)+2 > int64(len(d.data)) {
		return nil
	}
	rest := d.data[offset:]
	count := int(d.order.Uint16(rest))
	rest = rest[2:]
	entries := map[uint16][]byte{}
	for i := 0; i < count && len(rest) >= (i+1)*entryBytes; i++ {
		entry := rest[i*entryBytes : (i+1)*entryBytes]
		entries[d.order.Uint16(entry)] = entry
	}
	return entries
}

// number is the value of an entry that is one whole number; 0 of others.
func (d directory) number(entry []byte) uint32 {
	if entry == nil || d.order.Uint32(entry[4:]) != 1 {
		return 0
	}
	switch d.order.Uint16(entry[2:]) {
	case typeShort:
		return uint32(d.order.Uint16(entry[8:]))
	case typeLong:
		return d.order.Uint32(entry[8:])
	}
	return 0
}

// rational is the value of an entry that is one fraction; 0 of others.
func (d directory) rational(entry []byte) float64 {
	if entry == nil || d.order.Uint16(entry[2:]) != typeRational || d.order.Uint32(entry[4:]) != 1 {
		return 0
	}
	offset := d.order.Uint32(entry[8:])
	if int64(offset)+8 > int64(len(d.data)) {
		return 0
	}
	numerator, denominator := d.order.Uint32(d.data[offset:]), d.order.Uint32(d.data[offset+4:])
	if denominator == 0 {
		return 0
	}
	return float64(numerator) / float64(denominator)
}
