package intake

import (
	"bytes"

	"dorbin/core/message"
)

// Kind is what a source is.
type Kind string

// The kinds that are taken. Pages are read from the first four; the others are
// converted to one of those.
const (
	PDF    Kind = "pdf"
	JPEG   Kind = "jpeg"
	PNG    Kind = "png"
	TIFF   Kind = "tiff"
	HEIC   Kind = "heic"
	WebP   Kind = "webp"
	BMP    Kind = "bmp"
	GIF    Kind = "gif"
	Office Kind = "office" // a text document or a spreadsheet
)

// SniffBytes is how many bytes Sniff wants to see: a PDF's header may come
// after up to 1024 bytes of something else (ISO 32000-1, implementation note 13).
const SniffBytes = 1024 + 8

type signature struct {
	kind  Kind
	bytes string
	at    int
}

var signatures = []signature{
	{JPEG, "\xFF\xD8\xFF", 0},
	{PNG, "\x89PNG\r\n\x1a\n", 0},
	{TIFF, "II*\x00", 0},
	{TIFF, "MM\x00*", 0},
	{TIFF, "II+\x00", 0},
	{TIFF, "MM\x00+", 0},
	{HEIC, "ftypheic", 4},
	{HEIC, "ftypheix", 4},
	{HEIC, "ftypmif1", 4},
	{WebP, "WEBP", 8},
	{GIF, "GIF87a", 0},
	{GIF, "GIF89a", 0},
	{BMP, "BM", 0},
	{Office, "{\\rtf", 0},
	{Office, "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1", 0}, // MS-CFB, 2.2
}

// officeMembers are what a ZIP file of a text document or a spreadsheet begins
// with (ISO/IEC 29500-2 and OASIS OpenDocument 1.3 part 2, 3.3).
var officeMembers = []string{"[Content_Types].xml", "_rels/.rels", "mimetypeapplication/vnd.oasis.opendocument", "docProps/", "word/", "xl/"}

// Sniff finds the kind of a file from its first bytes. For a file that is not
// taken it says what the file seems to be, for a message.
func Sniff(head []byte) (kind Kind, otherwise message.Text) {
	for _, s := range signatures {
		if s.matches(head) {
			return s.kind, message.Text{}
		}
	}
	if bytes.Contains(head[:min(len(head), SniffBytes)], []byte("%PDF-")) {
		return PDF, message.Text{}
	}
	if bytes.HasPrefix(head, []byte("PK\x03\x04")) {
		for _, member := range officeMembers {
			if bytes.HasPrefix(head[min(len(head), zipNameAt):], []byte(member)) {
				return Office, message.Text{}
			}
		}
	}
	for _, other := range others {
		if other.matches(head) {
			return "", other.words
		}
	}
	return "", message.Of("a file of an unknown kind")
}

// zipNameAt is where a ZIP file's first member has its name (APPNOTE.TXT, 4.3.7).
const zipNameAt = 30

func (s signature) matches(head []byte) bool {
	return len(head) >= s.at && bytes.HasPrefix(head[s.at:], []byte(s.bytes))
}

// others are kinds that people try, named so that the message helps.
var others = []struct {
	signature
	words message.Text
}{
	{signature{bytes: "PK\x03\x04"}, message.Of("a ZIP archive; unpack it and add what is in it")},
	{signature{bytes: "<!DOCTYPE"}, message.Of("a web page")},
	{signature{bytes: "<html"}, message.Of("a web page")},
	{signature{bytes: "%!PS"}, message.Of("a PostScript file")},
	{signature{bytes: "ftyp", at: 4}, message.Of("a film")},
}
