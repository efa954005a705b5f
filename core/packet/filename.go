package packet

import (
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"
)

// maxFileName keeps names, with what systems put around them, below the 255
// bytes that file systems allow.
const maxFileName = 120

// ProposeFileName is the name that the packet's file gets where nobody chose one: as its receiver asks,
// with fields, or of the packet's name.
func (p Packet) ProposeFileName(extension string) string {
	if p.Receiver != nil && p.Receiver.Rules.FileName != "" {
		return p.Receiver.Rules.FileName + extension
	}
	return ProposeFileName(p.Name, extension)
}

// ProposeFileName makes a file name of a packet's name: small letters and
// digits joined by hyphens, accents dropped.
func ProposeFileName(name, extension string) string {
	var b strings.Builder
	gap := false
	for _, r := range norm.NFD.String(strings.ToLower(name)) {
		switch {
		case unicode.Is(unicode.Mn, r) || r == '\'' || r == '’':
		case unicode.IsLetter(r) || unicode.IsDigit(r):
			if gap && b.Len() > 0 {
				b.WriteByte('-')
			}
			gap = false
			b.WriteRune(r)
		default:
			gap = true
		}
	}
	return SafeFileName(norm.NFC.String(b.String()), extension)
}

// SafeFileName makes a name that a user typed good for all systems: no
// characters that Windows, macOS or Linux refuse, no device names, no leading
// or trailing dots and spaces, not too long, and with the extension.
func SafeFileName(name, extension string) string {
	name = strings.Map(func(r rune) rune {
		if r < ' ' || r == 0x7F || r == unicode.ReplacementChar || strings.ContainsRune(`<>:"/\|?*`, r) {
			return '-'
		}
		return r
	}, name)
	if cut := len(name) - len(extension); cut >= 0 && strings.EqualFold(name[cut:], extension) {
		name = name[:cut]
	}
	if cut := maxFileName; len(name) > cut {
		for !utf8.RuneStart(name[cut]) {
			cut--
		}
		name = name[:cut]
	}
	name = strings.Trim(name, " .")
	if name == "" || strings.Trim(name, "-") == "" {
		name = "document"
	}
	if deviceNames[strings.ToUpper(strings.SplitN(name, ".", 2)[0])] {
		name = "_" + name
	}
	return name + extension
}

// deviceNames cannot be file names on Windows, with any extension.
var deviceNames = func() map[string]bool {
	names := map[string]bool{"CON": true, "PRN": true, "AUX": true, "NUL": true}
	for _, digit := range "123456789" {
		names["COM"+string(digit)], names["LPT"+string(digit)] = true, true
	}
	return names
}()
