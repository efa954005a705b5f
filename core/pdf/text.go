package pdf

import (
	"strings"
	"unicode/utf16"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// textString makes a text string object (7.9.2.2): printable ASCII as it is,
// anything else in UTF-16BE with a byte order mark.
func textString(s string) types.Object {
	ascii := true
	for _, r := range s {
		ascii = ascii && r >= ' ' && r <= '~'
	}
	if ascii {
		escaped, err := types.Escape(s)
		if err == nil {
			return types.StringLiteral(*escaped)
		}
	}
	bytes := []byte{0xFE, 0xFF}
	for _, unit := range utf16.Encode([]rune(s)) {
		bytes = append(bytes, byte(unit>>8), byte(unit))
	}
	return types.NewHexLiteral(bytes)
}

// decodeText reads the bytes of a text string (7.9.2.2): UTF-16BE or UTF-8 with
// a byte order mark, or PDFDocEncoding, of which the part that agrees with
// Latin-1 is read.
func decodeText(s string) string {
	switch {
	case strings.HasPrefix(s, "\xFE\xFF"):
		return decodeUTF16(s[2:])
	case strings.HasPrefix(s, "\xEF\xBB\xBF"):
		return s[3:]
	}
	runes := make([]rune, len(s))
	for i := range len(s) {
		runes[i] = rune(s[i])
	}
	return string(runes)
}

func decodeUTF16(s string) string {
	units := make([]uint16, len(s)/2)
	for i := range units {
		units[i] = uint16(s[2*i])<<8 | uint16(s[2*i+1])
	}
	return string(utf16.Decode(units))
}
