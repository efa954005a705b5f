package intake

import "bytes"

// Kind is what a source is.
type Kind string

// The kinds that are taken.
const (
	PDF  Kind = "pdf"
	JPEG Kind = "jpeg"
	PNG  Kind = "png"
	TIFF Kind = "tiff"
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
}

// Sniff finds the kind of a file from its first bytes. For a file that is not
// taken it says what the file seems to be, for a message.
func Sniff(head []byte) (kind Kind, otherwise string) {
	for _, s := range signatures {
		if bytes.HasPrefix(head, []byte(s.bytes)) {
			return s.kind, ""
		}
	}
	if bytes.Contains(head[:min(len(head), SniffBytes)], []byte("%PDF-")) {
		return PDF, ""
	}
	for _, s := range others {
		if len(head) >= s.at && bytes.HasPrefix(head[s.at:], []byte(s.bytes)) {
			return "", string(s.kind)
		}
	}
	return "", "a file of an unknown kind"
}

// others are kinds that people try, named so that the message helps.
var others = []signature{
	{"an Office or ZIP file", "PK\x03\x04", 0},
	{"an old Office document", "\xD0\xCF\x11\xE0", 0},
	{"a HEIC photograph", "ftyphei", 4},
	{"a HEIC photograph", "ftypmif1", 4},
	{"a GIF picture", "GIF8", 0},
	{"a WebP picture", "WEBP", 8},
	{"a bitmap picture", "BM", 0},
	{"an RTF document", "{\\rtf", 0},
	{"a web page", "<!DOCTYPE", 0},
	{"a web page", "<html", 0},
	{"a PostScript file", "%!PS", 0},
}
