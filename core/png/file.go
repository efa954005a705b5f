package png

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"slices"
)

// Signature is what every file begins with (5.2).
const Signature = "\x89PNG\r\n\x1a\n"

var colourChannels = map[byte]int{0: 1, 2: 3, 3: 1, 4: 2, 6: 4}

// Channels is how many samples pixels of a colour type have (table 11.1); 0 of what is none.
func Channels(colour byte) int { return colourChannels[colour] }

// notes are the chunks that tell about a picture, and change nothing of what it shows (11.3.4, 11.3.5.4).
var notes = []string{"tEXt", "zTXt", "iTXt", "tIME", "eXIf", "hIST", "sPLT"}

// chunk is a part of a file: its kind, and what it contains (5.3).
type chunk struct {
	kind string
	body []byte
}

// Repack writes a PNG file in fewer bytes: every sample is the same. Chunks that only tell about the picture are left
// out. Errors are those of RepackSamples; interlaced files and animated ones are not supported.
func Repack(file []byte) ([]byte, error) {
	chunks, err := chunksOf(file)
	if err != nil {
		return nil, err
	}
	l, err := layoutOf(chunks)
	if err != nil {
		return nil, err
	}
	var data []byte
	for _, c := range chunks {
		if c.kind == "IDAT" {
			data = append(data, c.body...)
		}
	}
	smaller, err := RepackSamples(data, l, true)
	if err != nil {
		return nil, err
	}
	out := []byte(Signature)
	for _, c := range chunks {
		switch {
		case c.kind == "IDAT" && smaller != nil:
			out, smaller = AppendChunk(out, c.kind, smaller), nil
		case c.kind != "IDAT" && !slices.Contains(notes, c.kind):
			out = AppendChunk(out, c.kind, c.body)
		}
	}
	return out, nil
}

// chunksOf gives the chunks of a file. A damaged one is not taken apart.
func chunksOf(file []byte) (chunks []chunk, err error) {
	rest, isPNG := bytes.CutPrefix(file, []byte(Signature))
	if !isPNG {
		return nil, ErrDamaged
	}
	for {
		const around = 12 // bytes of its length, its kind and its sum
		if len(rest) < around {
			return nil, ErrDamaged
		}
		length := binary.BigEndian.Uint32(rest)
		if uint64(length) > uint64(len(rest)-around) {
			return nil, ErrDamaged
		}
		end := 8 + int(length)
		if crc32.ChecksumIEEE(rest[4:end]) != binary.BigEndian.Uint32(rest[end:]) {
			return nil, ErrDamaged
		}
		c := chunk{string(rest[4:8]), rest[8:end]}
		chunks = append(chunks, c)
		if rest = rest[end+4:]; c.kind == "IEND" {
			return chunks, nil
		}
	}
}

func layoutOf(chunks []chunk) (Layout, error) {
	const headBytes = 13
	if chunks[0].kind != "IHDR" || len(chunks[0].body) != headBytes {
		return Layout{}, ErrDamaged
	}
	if slices.ContainsFunc(chunks, func(c chunk) bool { return c.kind == "acTL" }) {
		return Layout{}, ErrUnsupported // animated
	}
	head := chunks[0].body
	width, height := binary.BigEndian.Uint32(head), binary.BigEndian.Uint32(head[4:])
	isInterlaced := head[12] != 0
	if isInterlaced || width > mostSamples || height > mostSamples {
		return Layout{}, ErrUnsupported
	}
	l := Layout{Width: int(width), Height: int(height), Bits: int(head[8]), Channels: Channels(head[9])}
	return l, l.check()
}

// AppendChunk writes a chunk behind a file that is being made (5.3).
func AppendChunk(out []byte, kind string, body []byte) []byte {
	out = binary.BigEndian.AppendUint32(out, uint32(len(body))) //nolint:gosec // of a file that is in memory
	begin := len(out)
	out = append(append(out, kind...), body...)
	return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(out[begin:]))
}
