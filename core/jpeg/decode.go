package jpeg

import (
	"encoding/binary"
	"errors"
	"image"
)

// Scale is how many samples a block of 8 × 8 becomes, across and down.
type Scale int

// The scales.
const (
	Full    Scale = 8
	Half    Scale = 4
	Quarter Scale = 2
	Eighth  Scale = 1
)

// ScaleFor gives the smallest scale at which a picture, whose longer edge has so many pixels, is not
// smaller than wanted.
func ScaleFor(edge, wanted int) Scale {
	for _, scale := range []Scale{Eighth, Quarter, Half} {
		if scale.of(edge) >= wanted {
			return scale
		}
	}
	return Full
}

// of is how many pixels so many become.
func (s Scale) of(pixels int) int { return ceil(pixels*int(s), 8) }

// Picture is a JPEG in memory.
type Picture struct {
	Width, Height int // pixels, at full size
	data          []byte
}

// Open reads of a JPEG how large its picture is. Errors are ErrNotJPEG, a FormatError or an
// UnsupportedError.
func Open(data []byte) (*Picture, error) {
	d := decoder{data: data}
	if err := d.readHead(); err != nil {
		return nil, err
	}
	return &Picture{d.frame.width, d.frame.height, data}, nil
}

// Decode decodes a picture. It is a *image.Gray, *image.YCbCr, *image.RGBA or *image.CMYK, whose inks
// are as image.CMYK has them. With a *DamagedError, the picture is there as far as it could be decoded;
// other errors are a FormatError or an UnsupportedError.
func (p *Picture) Decode(scale Scale) (image.Image, error) {
	d := decoder{data: p.data, scale: scale}
	err := d.decode()
	var damaged *DamagedError
	if err != nil && !errors.As(err, &damaged) {
		return nil, err
	}
	return d.picture(), err
}

// decoder is a picture that is decoded.
type decoder struct {
	data  []byte
	at    int
	scale Scale

	frame    *frame
	colours  colours
	quants   [4]*[64]uint16
	huffman  [2][4]*huffman
	interval int // units between restart markers; 0 is none

	scans int
	keeps bool // coefficients are kept until all scans are read
	// coefficientsOnly says that no samples are wanted.
	coefficientsOnly bool
	eobRun           int // blocks that end where they are (G.1.2.2)
	current          scan
}

// readHead reads up to and with the header of the frame.
func (d *decoder) readHead() error {
	if len(d.data) < 2 || d.data[0] != 0xFF || d.data[1] != startOfImage {
		return ErrNotJPEG
	}
	d.at = 2
	for d.frame == nil {
		marker, err := d.next()
		if errors.Is(err, errEnded) || err == nil && marker == endOfImage {
			return errNoPicture
		}
		if err != nil {
			return err
		}
	}
	return nil
}

const errNoPicture = FormatError("it has no picture in it")

func (d *decoder) decode() error {
	if err := d.readHead(); err != nil {
		return err
	}
	for {
		if marker, err := d.next(); err != nil || marker == endOfImage {
			return d.end(marker, err)
		}
	}
}

// next takes in the next segment, unless that is the end.
func (d *decoder) next() (marker byte, err error) {
	marker, segment, err := d.segment()
	if err == nil && marker != endOfImage {
		err = d.take(marker, segment)
	}
	return marker, err
}

// end ends a picture, whose data may have ended before.
func (d *decoder) end(marker byte, err error) error {
	if d.scans == 0 {
		if err == nil || errors.Is(err, errEnded) {
			return errNoPicture
		}
		return err
	}
	damage := d.damage(err)
	if marker == endOfImage || errors.Is(err, errEnded) && damage.Rows >= d.frame.height {
		damage = nil // whole, though its end may not be marked
		if err := d.missing(); err != nil {
			damage = d.damage(err)
		}
	}
	if d.keeps && !d.coefficientsOnly {
		d.transformKept()
	}
	if damage == nil {
		return nil
	}
	return damage
}

// segment reads the next marker and what follows it, without its length (B.1.1.4). What lies before the
// marker is passed over.
func (d *decoder) segment() (marker byte, segment []byte, err error) {
	for {
		for d.at < len(d.data) && d.data[d.at] != 0xFF {
			d.at++
		}
		for d.at < len(d.data) && d.data[d.at] == 0xFF {
			d.at++
		}
		if d.at >= len(d.data) {
			return 0, nil, errEnded
		}
		marker = d.data[d.at]
		d.at++
		if marker == 0 || isAlone(marker) {
			continue
		}
		if marker == endOfImage {
			return marker, nil, nil
		}
		if d.at+2 > len(d.data) {
			return 0, nil, errEnded
		}
		length := int(binary.BigEndian.Uint16(d.data[d.at:]))
		if length < 2 {
			return 0, nil, FormatError("a segment has no length")
		}
		if d.at+length > len(d.data) {
			return 0, nil, errEnded
		}
		segment = d.data[d.at+2 : d.at+length]
		d.at += length
		return marker, segment, nil
	}
}

// take takes in a segment.
func (d *decoder) take(marker byte, segment []byte) (err error) {
	switch {
	case marker == defineHuffman:
		return readHuffman(segment, &d.huffman)
	case marker == defineQuants:
		return readQuants(segment, &d.quants)
	case marker == defineInterval && len(segment) >= 2:
		d.interval = int(binary.BigEndian.Uint16(segment))
	case marker == startOfScan:
		return d.scan(segment)
	case marker == arithmetic:
		return UnsupportedError("its coding is arithmetic")
	case marker >= firstFrame && marker <= lastFrame && marker != reservedFrame:
		if d.frame != nil {
			return FormatError("it has several pictures in one")
		}
		d.frame, err = readFrame(marker, segment)
		return err
	default:
		d.colours.readApplication(marker, segment)
	}
	return nil
}
