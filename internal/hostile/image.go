package hostile

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/jpeg"
)

// Images are hostile images by what is wrong with them; each name ends with the ending of its
// kind.
func Images() map[string][]byte {
	return map[string][]byte{
		"claims 65,500 by 65,500, and is torn.jpg": tornJPEG(65_500, 65_500),
		"directories in a circle.jpg":              circularEXIF(),
		"claims 60,000 by 60,000.png":              png(60_000, 60_000, 8, 0, deflated("\x00", 50_000_000)),
		"14,000 by 14,000 of 16 bits.png":          png(14_000, 14_000, 16, 2, deflated("\x00", 200_000_000)),
		"many tags that share an array.tif":        sharedTags(2000),
		"pages in a circle.tif":                    circularTIFF(),
		"strips of gigabytes.tif":                  wideTIFF(),
		"claims 65,535 by 65,535.gif":              append([]byte("GIF89a\xFF\xFF\xFF\xFF\x00\x00\x00,\x00\x00\x00\x00\xFF\xFF\xFF\xFF\x00\x02"), 0x03, 1, 2, 3, 0, 0x3B),
		"claims a million by a million.bmp":        bmp(1_000_000, 1_000_000),
		"claims 16,383 by 16,383.webp":             webp(),
		"no Huffman table.jpg":                     noHuffman(),
	}
}

func photograph(width, height int) []byte {
	var out bytes.Buffer
	_ = jpeg.Encode(&out, image.NewGray(image.Rect(0, 0, width, height)), nil) // into memory
	return out.Bytes()
}

// tornJPEG claims a size in its frame header (ITU-T T.81, B.2.2) and ends in the middle.
func tornJPEG(width, height uint16) []byte {
	data := photograph(64, 64)
	at := bytes.Index(data, []byte{0xFF, 0xC0})
	binary.BigEndian.PutUint16(data[at+5:], height)
	binary.BigEndian.PutUint16(data[at+7:], width)
	return data[:len(data)-20]
}

func withSegment(marker byte, content []byte) []byte {
	data := photograph(64, 64)
	segment := binary.BigEndian.AppendUint16([]byte{0xFF, marker}, uint16(len(content)+2)) //nolint:gosec // short
	return bytes.Join([][]byte{data[:2], segment, content, data[2:]}, nil)
}

// circularEXIF has a directory that points at another, which points back.
func circularEXIF() []byte {
	tiff := []byte("II*\x00\x08\x00\x00\x00")
	tiff = append(tiff, "\x01\x00\x69\x87\x04\x00\x01\x00\x00\x00\x1A\x00\x00\x00\x1A\x00\x00\x00"...)
	tiff = append(tiff, "\x01\x00\x69\x87\x04\x00\x01\x00\x00\x00\x08\x00\x00\x00\x08\x00\x00\x00"...)
	return withSegment(0xE1, append([]byte("Exif\x00\x00"), tiff...))
}

// noHuffman has its Huffman tables (B.2.4.2) emptied.
func noHuffman() []byte {
	data := photograph(640, 480)
	for at := bytes.Index(data, []byte{0xFF, 0xC4}); at >= 0; {
		length := int(binary.BigEndian.Uint16(data[at+2:]))
		for i := at + 22; i < at+2+length; i++ {
			data[i] = 0xFF
		}
		next := bytes.Index(data[at+2:], []byte{0xFF, 0xC4})
		if next < 0 {
			break
		}
		at += 2 + next
	}
	return data
}

// png is a PNG (ISO/IEC 15948) of one IDAT.
func png(width, height uint32, depth, colour byte, data string) []byte {
	out := []byte("\x89PNG\r\n\x1A\n")
	chunk := func(kind string, content []byte) {
		out = binary.BigEndian.AppendUint32(out, uint32(len(content))) //nolint:gosec // a few megabytes
		begin := len(out)
		out = append(append(out, kind...), content...)
		out = binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(out[begin:]))
	}
	head := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, width), height)
	chunk("IHDR", append(head, depth, colour, 0, 0, 0))
	chunk("IDAT", []byte(data))
	chunk("IEND", nil)
	return out
}

type field struct {
	tag, kind    uint16
	count, value uint32
}

// tiffPage writes an image file directory (TIFF 6.0, section 2) and where the next is.
func tiffPage(out []byte, next uint32, fields ...field) []byte {
	out = binary.LittleEndian.AppendUint16(out, uint16(len(fields))) //nolint:gosec // few
	for _, f := range fields {
		out = binary.LittleEndian.AppendUint16(out, f.tag)
		out = binary.LittleEndian.AppendUint16(out, f.kind)
		out = binary.LittleEndian.AppendUint32(out, f.count)
		out = binary.LittleEndian.AppendUint32(out, f.value)
	}
	return binary.LittleEndian.AppendUint32(out, next)
}

const (
	short = 3
	long  = 4
)

func sharedTags(tags int) []byte {
	fields := []field{{256, short, 1, 100}, {257, short, 1, 100}}
	for i := range tags {
		fields = append(fields, field{uint16(30_000 + i), long, 250_000, 30_000}) //nolint:gosec // few
	}
	return append(tiffPage([]byte("II*\x00\x08\x00\x00\x00"), 0, fields...), make([]byte, 1_000_000)...)
}

func circularTIFF() []byte {
	return append(tiffPage([]byte("II*\x00\x08\x00\x00\x00"), 8,
		field{256, short, 1, 10}, field{257, short, 1, 10}, field{258, short, 1, 8}, field{259, short, 1, 1},
		field{262, short, 1, 1}, field{273, long, 1, 100}, field{278, short, 1, 10}, field{279, long, 1, 100}), make([]byte, 300)...)
}

func wideTIFF() []byte {
	data := deflated("\x00", 100_000_000)
	return append(tiffPage([]byte("II*\x00\x08\x00\x00\x00"), 0,
		field{256, long, 1, 14_000}, field{257, long, 1, 14_000}, field{258, short, 1, 16}, field{259, short, 1, 8},
		field{262, short, 1, 1}, field{273, long, 1, 8 + 2 + 9*12 + 4}, field{277, short, 1, 1}, field{278, long, 1, 14_000},
		field{279, long, 1, uint32(len(data))}), data...) //nolint:gosec // short
}

func bmp(width, height uint32) []byte {
	out := []byte("BM\x00\x00\x00\x00\x00\x00\x00\x00\x36\x00\x00\x00\x28\x00\x00\x00")
	out = binary.LittleEndian.AppendUint32(out, width)
	out = binary.LittleEndian.AppendUint32(out, height)
	return append(append(out, 1, 0, 24, 0), make([]byte, 100)...)
}

// webp has the header of a lossless picture (RFC 9649, 3.4) of the largest size.
func webp() []byte {
	return []byte("RIFF\x20\x00\x00\x00WEBPVP8L\x14\x00\x00\x00\x2F\xFE\xFF\xFF\x0F\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00\x00")
}
