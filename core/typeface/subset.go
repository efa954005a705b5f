package typeface

import (
	"encoding/binary"
	"slices"

	"golang.org/x/image/font/sfnt"
)

// Subset is the part of a face that a document needs. Its glyphs are numbered anew, in the order
// in which they are used first; glyph 0 stands for letters that the face lacks.
type Subset struct {
	face   *face
	buffer sfnt.Buffer
	byRune map[rune]uint16
	glyphs []sfnt.GlyphIndex // of the face, by their new numbers
	runes  []rune            // by their new numbers; 0 of what only others are made of
}

// NewSubset returns one that has no letters yet.
func NewSubset(f Face) *Subset {
	return &Subset{face: f.face(), byRune: map[rune]uint16{}, glyphs: []sfnt.GlyphIndex{0}, runes: []rune{0}}
}

// Use gives the number of a letter's glyph in the subset.
func (s *Subset) Use(r rune) uint16 {
	if number, ok := s.byRune[r]; ok {
		return number
	}
	number := uint16(0)
	if glyph := s.face.glyph(&s.buffer, r); glyph != 0 {
		number = uint16(len(s.glyphs)) //nolint:gosec // a face has at most 65,535 glyphs
		s.glyphs = append(s.glyphs, glyph)
		s.runes = append(s.runes, r)
	}
	s.byRune[r] = number
	return number
}

// Runes are the letters by the numbers of their glyphs; the first is none.
func (s *Subset) Runes() []rune { return s.runes }

// Advances are how far each glyph goes, in shares of the text's size, by their numbers.
func (s *Subset) Advances() []float64 {
	advances := make([]float64, len(s.runes))
	for i := range advances {
		advances[i] = s.face.advance(&s.buffer, s.glyphs[i])
	}
	return advances
}

// keptTables are those of the file that a document needs as they are: programs that fit
// outlines to pixels.
var keptTables = []string{"cvt ", "fpgm", "prep"}

// File writes the subset as a TrueType file of its own, as PDFs embed it.
func (s *Subset) File() []byte {
	tables := tablesOf(s.face.file)
	glyf, loca := s.outlines(tables)
	head, hhea, maxp := slices.Clone(tables["head"]), slices.Clone(tables["hhea"]), slices.Clone(tables["maxp"])
	count := uint16(len(s.glyphs))               //nolint:gosec // a face has at most 65,535 glyphs
	binary.BigEndian.PutUint16(head[50:], 1)     // indexToLocFormat: long offsets
	binary.BigEndian.PutUint32(head[8:], 0)      // checkSumAdjustment, which readers of PDFs pass over
	binary.BigEndian.PutUint16(hhea[34:], count) // numberOfHMetrics
	binary.BigEndian.PutUint16(maxp[4:], count)  // numGlyphs
	written := map[string][]byte{
		"head": head, "hhea": hhea, "maxp": maxp, "glyf": glyf, "loca": loca, "hmtx": s.metrics(tables),
	}
	for _, name := range keptTables {
		if table, ok := tables[name]; ok {
			written[name] = table
		}
	}
	return writeTables(written)
}

// tablesOf finds the tables of a file that ships with the program.
func tablesOf(file []byte) map[string][]byte {
	tables := map[string][]byte{}
	for i := range int(binary.BigEndian.Uint16(file[4:])) {
		entry := file[12+16*i:]
		offset, length := binary.BigEndian.Uint32(entry[8:]), binary.BigEndian.Uint32(entry[12:])
		tables[string(entry[:4])] = file[offset : offset+length]
	}
	return tables
}

// outlines gathers the outlines of the glyphs, and of those that they are made of.
func (s *Subset) outlines(tables map[string][]byte) (glyf, loca []byte) {
	numbers := map[sfnt.GlyphIndex]uint16{}
	for number, glyph := range s.glyphs {
		if _, ok := numbers[glyph]; !ok {
			numbers[glyph] = uint16(number) //nolint:gosec // a face has at most 65,535 glyphs
		}
	}
	for i := 0; i < len(s.glyphs); i++ { // composites add to it
		loca = binary.BigEndian.AppendUint32(loca, uint32(len(glyf))) //nolint:gosec // a file is far below 4 GB
		outline := slices.Clone(outlineOf(tables, s.glyphs[i]))
		for _, at := range componentsOf(outline) {
			part := sfnt.GlyphIndex(binary.BigEndian.Uint16(outline[at:]))
			number, ok := numbers[part]
			if !ok {
				number = uint16(len(s.glyphs)) //nolint:gosec // a face has at most 65,535 glyphs
				numbers[part] = number
				s.glyphs = append(s.glyphs, part)
			}
			binary.BigEndian.PutUint16(outline[at:], number)
		}
		glyf = append(glyf, outline...)
		for len(glyf)%4 != 0 {
			glyf = append(glyf, 0)
		}
	}
	return glyf, binary.BigEndian.AppendUint32(loca, uint32(len(glyf))) //nolint:gosec // a file is far below 4 GB
}

func outlineOf(tables map[string][]byte, glyph sfnt.GlyphIndex) []byte {
	loca := tables["loca"]
	offset := func(i int) uint32 {
		if binary.BigEndian.Uint16(tables["head"][50:]) == 0 {
			return 2 * uint32(binary.BigEndian.Uint16(loca[2*i:]))
		}
		return binary.BigEndian.Uint32(loca[4*i:])
	}
	return tables["glyf"][offset(int(glyph)):offset(int(glyph)+1)]
}

// Flags of a composite glyph's components.
const (
	wordArguments = 1 << 0
	hasScale      = 1 << 3
	moreParts     = 1 << 5
	hasTwoScales  = 1 << 6
	hasMatrix     = 1 << 7
)

// componentsOf finds where a composite glyph names the glyphs that it is made of.
func componentsOf(outline []byte) (at []int) {
	if len(outline) < 10 || int16(binary.BigEndian.Uint16(outline)) >= 0 { //nolint:gosec // the number of contours is signed
		return nil
	}
	for next, flags := 10, moreParts; flags&moreParts != 0; {
		flags = int(binary.BigEndian.Uint16(outline[next:]))
		at = append(at, next+2)
		next += 6
		if flags&wordArguments != 0 {
			next += 2
		}
		switch {
		case flags&hasScale != 0:
			next += 2
		case flags&hasTwoScales != 0:
			next += 4
		case flags&hasMatrix != 0:
			next += 8
		}
	}
	return at
}

// metrics are the advance and the left bearing of each glyph.
func (s *Subset) metrics(tables map[string][]byte) []byte {
	full := int(binary.BigEndian.Uint16(tables["hhea"][34:])) // glyphs with an advance of their own
	hmtx := tables["hmtx"]
	var out []byte
	for _, glyph := range s.glyphs {
		i := min(int(glyph), full-1)
		out = append(out, hmtx[4*i:4*i+2]...)
		if int(glyph) < full {
			out = append(out, hmtx[4*i+2:4*i+4]...)
		} else {
			bearing := 4*full + 2*(int(glyph)-full)
			out = append(out, hmtx[bearing:bearing+2]...)
		}
	}
	return out
}

func writeTables(tables map[string][]byte) []byte {
	names := make([]string, 0, len(tables))
	for name := range tables {
		names = append(names, name)
	}
	slices.Sort(names)
	power, shift := 1, 0
	for power*2 <= len(names) {
		power, shift = power*2, shift+1
	}
	file := binary.BigEndian.AppendUint32(nil, 0x00010000)
	for _, v := range []int{len(names), 16 * power, shift, 16 * (len(names) - power)} {
		file = binary.BigEndian.AppendUint16(file, uint16(v)) //nolint:gosec // there are a dozen tables
	}
	offset := 12 + 16*len(names)
	var data []byte
	for _, name := range names {
		table := tables[name]
		padded := slices.Clone(table)
		for len(padded)%4 != 0 {
			padded = append(padded, 0)
		}
		file = append(file, name...)
		file = binary.BigEndian.AppendUint32(file, checksum(padded))
		file = binary.BigEndian.AppendUint32(file, uint32(offset+len(data))) //nolint:gosec // a file is far below 4 GB
		file = binary.BigEndian.AppendUint32(file, uint32(len(table)))       //nolint:gosec // a file is far below 4 GB
		data = append(data, padded...)
	}
	return append(file, data...)
}

// checksum is the sum of a table's 32-bit words.
func checksum(padded []byte) (sum uint32) {
	for i := 0; i < len(padded); i += 4 {
		sum += binary.BigEndian.Uint32(padded[i:])
	}
	return sum
}
