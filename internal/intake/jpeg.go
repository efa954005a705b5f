package intake

import (
	"bufio"
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"image"
	"io"
	"os"

	"dorbin/core/geometry"
	"dorbin/core/jpeg"
	"dorbin/core/pdf"
)

// jpegHeader is what the markers before the first scan say (ITU-T T.81, annex B).
type jpegHeader struct {
	width, height, components int
	adobe                     bool // inverted inks, in CMYK
	profile                   []byte
	resolution                geometry.Resolution
	orientation               int
}

func openJPEG(file *os.File, size int64) ([]*Picture, error) {
	header, err := readJPEGHeader(bufio.NewReader(io.NewSectionReader(file, 0, size)))
	if err != nil {
		return nil, err
	}
	return []*Picture{{
		Width: header.width, Height: header.height, Orientation: header.orientation, Resolution: header.resolution,
		Bytes: size, PixelBytes: header.components,
		decode: func(maxEdge int) (image.Image, error) {
			return header.decode(io.NewSectionReader(file, 0, size), maxEdge)
		},
		embed: func(keepFile bool) (pdf.Image, error) { return header.embed(file, size, keepFile) },
	}}, nil
}

// decode decodes the picture of a file, at a smaller scale where that is enough for so many pixels of its
// longer edge.
func (h jpegHeader) decode(file io.Reader, maxEdge int) (image.Image, error) {
	data, err := io.ReadAll(file)
	if err != nil {
		return nil, fmt.Errorf("read picture: %w", err)
	}
	picture, err := jpeg.Open(data)
	if err != nil {
		return nil, err //nolint:wrapcheck // says what it is about
	}
	if picture.Width != h.width || picture.Height != h.height {
		return nil, errors.New("it says of itself that it has two sizes")
	}
	return picture.Decode(jpeg.ScaleFor(max(h.width, h.height), maxEdge)) //nolint:wrapcheck // says what it is about
}

var jpegColours = map[int]pdf.Colour{1: pdf.Gray, 3: pdf.RGB, 4: pdf.CMYK}

// embed gives the image of a file of so many bytes, without what the file tells besides the
// picture unless it is kept.
func (h jpegHeader) embed(file io.ReaderAt, size int64, keepFile bool) (pdf.Image, error) {
	kept := []jpeg.Extent{{Offset: 0, Length: size}}
	if !keepFile {
		var err error
		if kept, err = jpeg.Essential(file, size); err != nil {
			return pdf.Image{}, err
		}
	}
	length := jpeg.Bytes(kept)
	return pdf.Image{
		Width: h.width, Height: h.height, BitsPerComponent: 8,
		Colour: jpegColours[h.components], Profile: h.profile, Inverted: h.components == 4 && h.adobe,
		Filter: pdf.DCT, Data: jpeg.Reader(file, kept), Length: length, Stripped: length < size,
	}, nil
}

var errNoFrame = errors.New("it has no picture in it")

const (
	markerSOI    = 0xD8
	markerEOI    = 0xD9
	markerSOS    = 0xDA
	markerAPP0   = 0xE0
	markerAPP1   = 0xE1
	markerAPP2   = 0xE2
	markerAPP14  = 0xEE
	iccSignature = "ICC_PROFILE\x00"
)

func readJPEGHeader(r *bufio.Reader) (jpegHeader, error) {
	h := jpegHeader{orientation: 1}
	if soi, err := r.Peek(2); err != nil || soi[1] != markerSOI {
		return h, errNoFrame
	}
	_, _ = r.Discard(2) // just peeked at
	profile := map[byte][]byte{}
	for {
		marker, segment, err := readSegment(r)
		if err != nil {
			return h, err
		}
		switch {
		case marker == markerSOS || marker == markerEOI:
			if h.width == 0 {
				return h, errNoFrame
			}
			h.profile = joinProfile(profile, h.components)
			return h, nil
		case isFrame(marker):
			if err := h.readFrame(marker, segment); err != nil {
				return h, err
			}
		case marker == markerAPP0:
			h.readJFIF(segment)
		case marker == markerAPP1:
			h.readEXIF(segment)
		case marker == markerAPP2 && len(segment) > 14 && string(segment[:12]) == iccSignature:
			profile[segment[12]] = segment[14:]
		case marker == markerAPP14:
			h.adobe = h.adobe || bytes.HasPrefix(segment, []byte("Adobe"))
		}
	}
}

func readSegment(r *bufio.Reader) (marker byte, segment []byte, err error) {
	for marker == 0 || marker == 0xFF {
		first, err := r.ReadByte()
		if err != nil {
			return 0, nil, errNoFrame
		}
		if marker == 0 && first != 0xFF {
			continue // stray bytes between segments
		}
		marker = first
		if marker == 0xFF {
			if marker, err = r.ReadByte(); err != nil {
				return 0, nil, errNoFrame
			}
		}
	}
	if marker == markerEOI || (marker >= 0xD0 && marker <= 0xD7) || marker == 1 {
		return marker, nil, nil
	}
	var length [2]byte
	if _, err := io.ReadFull(r, length[:]); err != nil {
		return 0, nil, errNoFrame
	}
	n := int(binary.BigEndian.Uint16(length[:])) - 2
	if n < 0 {
		return 0, nil, errNoFrame
	}
	segment = make([]byte, n)
	if _, err := io.ReadFull(r, segment); err != nil {
		return 0, nil, errNoFrame
	}
	return marker, segment, nil
}

// isFrame tells of the markers SOF0 to SOF15, of which C4, C8 and CC are others.
func isFrame(marker byte) bool {
	return marker >= 0xC0 && marker <= 0xCF && marker != 0xC4 && marker != 0xC8 && marker != 0xCC
}

func (h *jpegHeader) readFrame(marker byte, segment []byte) error {
	if len(segment) < 6 {
		return errNoFrame
	}
	if marker > 0xC2 || segment[0] != 8 {
		return errors.New("it is a rare kind of JPEG: only baseline and progressive ones with 8 bits can be read")
	}
	h.height = int(binary.BigEndian.Uint16(segment[1:]))
	h.width = int(binary.BigEndian.Uint16(segment[3:]))
	h.components = int(segment[5])
	if _, ok := jpegColours[h.components]; !ok || h.width == 0 || h.height == 0 {
		return fmt.Errorf("a JPEG of %d × %d pixels in %d colours cannot be read", h.width, h.height, h.components)
	}
	return nil
}

// readJFIF takes the density (ITU-T T.871, 10.1): 1 is per inch, 2 per centimetre.
func (h *jpegHeader) readJFIF(segment []byte) {
	if len(segment) < 12 || string(segment[:5]) != "JFIF\x00" || h.resolution.X > 0 {
		return
	}
	perUnit := map[byte]float64{1: 1, 2: geometry.MillimetresPerInch / 10}[segment[7]]
	h.resolution = geometry.Resolution{
		X: perUnit * float64(binary.BigEndian.Uint16(segment[8:])),
		Y: perUnit * float64(binary.BigEndian.Uint16(segment[10:])),
	}
}

// readEXIF takes the orientation and, from scanners, the resolution. Cameras
// write 72 or 180 dpi without meaning, which makes a photograph of absurd size
// or is replaced by JFIF's own.
func (h *jpegHeader) readEXIF(segment []byte) {
	if !bytes.HasPrefix(segment, []byte("Exif\x00\x00")) {
		return
	}
	x, err := parseEXIF(segment[6:])
	if err != nil {
		return
	}
	if x.orientation > 0 {
		h.orientation = x.orientation
	}
	switch {
	case x.isCamera:
		h.resolution = geometry.Resolution{}
	case x.resolution.X > 0 && x.resolution.Y > 0:
		h.resolution = x.resolution
	}
}

// joinProfile puts an ICC profile's chunks in order (ICC.1:2010, B.4). A
// profile that is not whole, or for another kind of colours, is left out.
func joinProfile(chunks map[byte][]byte, components int) []byte {
	var profile []byte
	for i := range len(chunks) {
		chunk, ok := chunks[byte(i+1)]
		if !ok {
			return nil
		}
		profile = append(profile, chunk...)
	}
	if len(profile) < 128 || int(binary.BigEndian.Uint32(profile)) != len(profile) {
		return nil
	}
	if want := map[int]string{1: "GRAY", 3: "RGB ", 4: "CMYK"}[components]; string(profile[16:20]) != want {
		return nil
	}
	return profile
}
