package typeface

import "encoding/binary"

// Shapeless writes a TrueType file whose glyph 1 is half as wide as its size and has no area: for
// text that is found and not seen. It has an extent all the same, as some readers pass over text that
// has none.
func Shapeless() []byte {
	const unitsPerEm, advance, ascent, descent, glyphs = 1000, 500, 900, 210, 2
	big := binary.BigEndian
	head := make([]byte, 54)
	big.PutUint32(head[0:], 0x00010000)  // version
	big.PutUint32(head[12:], 0x5F0F3CF5) // magicNumber
	big.PutUint16(head[18:], unitsPerEm)
	big.PutUint16(head[38:], 0x10000-descent) // yMin
	big.PutUint16(head[40:], advance)         // xMax
	big.PutUint16(head[42:], ascent)          // yMax
	big.PutUint16(head[46:], 8)               // lowestRecPPEM
	big.PutUint16(head[48:], 2)               // fontDirectionHint
	hhea := make([]byte, 36)
	big.PutUint32(hhea[0:], 0x00010000)
	big.PutUint16(hhea[4:], ascent)
	big.PutUint16(hhea[6:], 0x10000-descent)
	big.PutUint16(hhea[10:], advance) // advanceWidthMax
	big.PutUint16(hhea[18:], 1)       // caretSlopeRise
	big.PutUint16(hhea[34:], 1)       // numberOfHMetrics: the others are as wide as the first
	maxp := make([]byte, 32)
	big.PutUint32(maxp[0:], 0x00010000)
	big.PutUint16(maxp[4:], glyphs)
	big.PutUint16(maxp[6:], 2)  // maxPoints
	big.PutUint16(maxp[8:], 1)  // maxContours
	big.PutUint16(maxp[14:], 2) // maxZones
	hmtx := make([]byte, 4+2*(glyphs-1))
	big.PutUint16(hmtx, advance)
	line := extent(advance, ascent, descent)
	loca := make([]byte, 0, 2*(glyphs+1)) // short offsets, in words: the first glyph is empty
	for _, offset := range []int{0, 0, len(line) / 2} {
		loca = big.AppendUint16(loca, uint16(offset)) //nolint:gosec // a dozen
	}
	return writeTables(map[string][]byte{"head": head, "hhea": hhea, "maxp": maxp, "hmtx": hmtx, "loca": loca, "glyf": line})
}

// extent is an outline of one contour from the lower left of a glyph to its upper right, and back.
func extent(advance, ascent, descent int) (outline []byte) {
	const onCurve = 1 // a flag of a point whose coordinates are of 16 bits
	for _, v := range []int{
		1, 0, -descent, advance, ascent, // numberOfContours, xMin, yMin, xMax, yMax
		1, 0, // the last point of the contour, no instructions
		onCurve<<8 | onCurve,
		0, advance, -descent, descent + ascent, // x and y of the points, each from the one before
	} {
		outline = binary.BigEndian.AppendUint16(outline, uint16(v)) //nolint:gosec // negative ones are of two's complement
	}
	return outline
}
