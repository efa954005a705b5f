package hostile

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/jpeg"
	"strings"
)

// jpegs are hostile JPEGs.
var jpegs = map[string]func() []byte{
	"claims 65,500 by 65,500, and is torn.jpg": func() []byte { return tornJPEG(65_500, 65_500) },
	"directories in a circle.jpg":              circularEXIF,
	"no Huffman table.jpg":                     noHuffman,
	"a directory of a milliard values.jpg": func() []byte {
		return withSegment(0xE1, []byte("Exif\x00\x00II*\x00\x08\x00\x00\x00\x01\x00\x12\x01\x03\x00\xFF\xFF\xFF\x3F\x1A\x00\x00\x00\x00\x00\x00\x00"))
	},
	"a frame of 255 components.jpg": func() []byte { return inFrame(func(frame []byte) { frame[9] = 255 }) },
	"a frame without height.jpg":    func() []byte { return inFrame(func(frame []byte) { frame[5], frame[6] = 0, 0 }) },
	"arithmetic coding.jpg":         func() []byte { return inFrame(func(frame []byte) { frame[1] = 0xC9 }) },
	"sampled sixteen times.jpg":     func() []byte { return inFrame(func(frame []byte) { frame[11] = 0xFF }) },
	"a profile in pieces.jpg": func() []byte {
		return withSegment(0xE2, append([]byte("ICC_PROFILE\x00\xFF\xFF"), bytes.Repeat([]byte{0xFF}, 60_000)...))
	},
	"markers without end.jpg": func() []byte { return append([]byte{0xFF, 0xD8}, bytes.Repeat([]byte{0xFF}, 4<<20)...) },
	"a comment a thousand times.jpg": func() []byte {
		data := photograph(64, 64)
		return bytes.Join([][]byte{data[:2], bytes.Repeat(append([]byte{0xFF, 0xFE, 0xFF, 0xFF}, make([]byte, 65_533)...), 300), data[2:]}, nil)
	},
}

// inFrame is a JPEG with something changed in its frame header (ITU-T T.81, B.2.2), which begins
// with the marker.
func inFrame(change func(frame []byte)) []byte {
	data := photograph(64, 64)
	change(data[bytes.Index(data, []byte{0xFF, 0xC0}):])
	return data
}

// pngs are hostile PNGs.
var pngs = map[string]func() []byte{
	"claims 60,000 by 60,000.png":     func() []byte { return png(60_000, 60_000, 8, 0, deflated("\x00", 50_000_000)) },
	"14,000 by 14,000 of 16 bits.png": func() []byte { return png(14_000, 14_000, 16, 2, deflated("\x00", 200_000_000)) },
	"claims more than there are.png":  func() []byte { return png(0xFFFFFFFF, 0xFFFFFFFF, 8, 0, deflated("\x00", 1000)) },
	"a palette that is missing.png":   func() []byte { return png(64, 64, 8, 3, deflated("\x01", 65*64)) },
	"broken in the middle.png": func() []byte {
		data := png(64, 64, 8, 0, deflated("\x00\x80", 65*64))
		data[len(data)/2] ^= 0xFF
		return data
	},
	"torn.png":                 func() []byte { return png(640, 640, 8, 2, deflated("\x00\x01\x02", 640*1921))[:1000] },
	"a chunk of gigabytes.png": just("\x89PNG\r\n\x1A\n\xFF\xFF\xFF\xF0IHDR\x00\x00\x00\x40\x00\x00\x00\x40\x08\x00\x00\x00\x00"),
	"a million small chunks.png": func() []byte {
		data := png(64, 64, 8, 0, deflated("\x00", 65*64))
		return bytes.Join([][]byte{data[:33], bytes.Repeat([]byte("\x00\x00\x00\x00tEXt\x00\x00\x00\x00"), 1_000_000), data[33:]}, nil)
	},
}

// tiffs are hostile TIFFs.
var tiffs = map[string]func() []byte{
	"many tags that share an array.tif": func() []byte { return sharedTags(2000) },
	"pages in a circle.tif":             circularTIFF,
	"strips of gigabytes.tif":           wideTIFF,
	"tiles of a pixel.tif": func() []byte {
		return tiffOf([]byte{0}, field{256, long, 1, 60_000}, field{257, long, 1, 60_000}, field{258, short, 1, 8}, field{259, short, 1, 1},
			field{262, short, 1, 1}, field{322, short, 1, 1}, field{323, short, 1, 1}, field{324, long, 1, 8}, field{325, long, 1, 1})
	},
	"a fax of a milliard.tif": func() []byte {
		return tiffOf(bytes.Repeat([]byte{0xFF}, 1000), field{256, long, 1, 1_000_000_000}, field{257, long, 1, 1}, field{258, short, 1, 1},
			field{259, short, 1, 4}, field{262, short, 1, 0}, field{273, long, 1, 8}, field{278, long, 1, 1}, field{279, long, 1, 1000})
	},
	"sixty large pages.tif": manyPages,
	"a JPEG that claims more.tif": func() []byte {
		data := tornJPEG(65_500, 65_500)
		return tiffOf(data, field{256, long, 1, 64}, field{257, long, 1, 64}, field{258, short, 1, 8}, field{259, short, 1, 7},
			field{262, short, 1, 1}, field{273, long, 1, 8}, field{278, long, 1, 64}, field{279, long, 1, uint32(len(data))}) //nolint:gosec // short
	},
	"a table that points at itself.tif": just("II*\x00\x08\x00\x00\x00\xFF\xFF"),
}

// tiffOf is a TIFF whose only page has its data behind the header.
func tiffOf(data []byte, fields ...field) []byte {
	out := append([]byte("II*\x00"), 0, 0, 0, 0)
	out = append(out, data...)
	binary.LittleEndian.PutUint32(out[4:], uint32(len(out))) //nolint:gosec // short
	return tiffPage(out, 0, fields...)
}

// manyPages are 60 pages of the same few bytes, each of 25 million pixels.
func manyPages() []byte {
	data := deflated("\x00", 25_000_000)
	out := append([]byte("II*\x00\x00\x00\x00\x00"), data...)
	binary.LittleEndian.PutUint32(out[4:], uint32(len(out))) //nolint:gosec // short
	for i := range 60 {
		next := uint32(len(out) + 2 + 8*12 + 4) //nolint:gosec // short
		if i == 59 {
			next = 0
		}
		out = tiffPage(out, next, field{256, long, 1, 5000}, field{257, long, 1, 5000}, field{258, short, 1, 8}, field{259, short, 1, 8},
			field{262, short, 1, 1}, field{273, long, 1, 8}, field{278, long, 1, 5000}, field{279, long, 1, uint32(len(data))}) //nolint:gosec // short
	}
	return out
}

// otherImages are hostile images that are converted.
var otherImages = map[string]func() []byte{
	"claims 65,535 by 65,535.gif": just("GIF89a\xFF\xFF\xFF\xFF\x00\x00\x00,\x00\x00\x00\x00\xFF\xFF\xFF\xFF\x00\x02\x03\x01\x02\x03\x00;"),
	"ten thousand pictures.gif": func() []byte {
		frame := ",\x00\x00\x00\x00\x01\x00\x01\x00\x80\x00\x00\x00\xFF\xFF\xFF\x02\x02\x44\x01\x00"
		return []byte("GIF89a\x01\x00\x01\x00\x00\x00\x00" + strings.Repeat(frame, 10_000) + ";")
	},
	"claims a million by a million.bmp": func() []byte { return bmp(1_000_000, 1_000_000) },
	"upside down and negative.bmp":      func() []byte { return bmp(0x80000000, 0x80000000) },
	"claims 16,383 by 16,383.webp":      webp,
	"a canvas of terapixels.webp":       just("RIFF\x20\x00\x00\x00WEBPVP8X\x0A\x00\x00\x00\x10\x00\x00\x00\xFF\xFF\xFF\xFF\xFF\xFF"),
	"a partition that is broken.webp":   just("RIFF\x1E\x00\x00\x00WEBPVP8 \x12\x00\x00\x00\xF0\x01\x00\x9D\x01\x2A\xFF\x3F\xFF\x3F\xFF\xFF\xFF\xFF\xFF\xFF\xFF\xFF"),
	"boxes without end.heic":            func() []byte { return heic(strings.Repeat("\x00\x00\x00\x08meta", 100_000)) },
	"a box of exabytes.heic":            func() []byte { return heic("\x00\x00\x00\x01meta\x7F\xFF\xFF\xFF\xFF\xFF\xFF\xFF") },
	"claims terapixels.heic": func() []byte {
		size := "\x00\x00\x00\x14ispe\x00\x00\x00\x00\xFF\xFF\xFF\xFF\xFF\xFF\xFF\xFF"
		return heic("\x00\x00\x00\x30meta\x00\x00\x00\x00\x00\x00\x00\x24iprp\x00\x00\x00\x1Cipco" + size)
	},
}

// heic is a file that begins as HEIC files do (ISO/IEC 23008-12), with these boxes.
func heic(boxes string) []byte {
	return []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00heicmif1" + boxes)
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
