package pdf

import "unicode/utf16"

func decodeUTF16(s string) string {
	units := make([]uint16, len(s)/2)
	for i := range units {
		units[i] = uint16(s[2*i])<<8 | uint16(s[2*i+1])
	}
	return string(utf16.Decode(units))
}
