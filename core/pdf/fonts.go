package pdf

import (
	"bytes"
	"fmt"
	"maps"
	"slices"
	"unicode/utf16"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/typeface"
)

// embedded is a typeface whose letters are used in the file.
type embedded struct {
	number int
	subset *typeface.Subset
}

// font gives the object of a typeface, which is written when all its letters are known.
func (a *Assembler) font(face typeface.Face) *embedded {
	font, ok := a.fonts[face]
	if !ok {
		font = &embedded{number: a.out.allocate(), subset: typeface.NewSubset(face)}
		a.fonts[face] = font
	}
	return font
}

// writeFonts writes the typefaces as far as their letters are used (9.7.4, 9.9): composite fonts
// whose codes are the numbers of the glyphs.
func (a *Assembler) writeFonts() {
	for _, face := range typeface.Faces {
		font, ok := a.fonts[face]
		if !ok {
			continue
		}
		widths := types.Array{}
		for _, advance := range font.subset.Advances() {
			widths = append(widths, thousandths(advance))
		}
		metrics, runes := face.Metrics(), font.subset.Runes()
		a.writeComposite(font.number, composite{
			name: subsetTag(runes) + "+" + face.Name(), file: font.subset.File(), runes: runes, flags: flagsOf(face),
			box: numbers(-200, -300, 1200, 1000), ascent: metrics.Ascent, descent: metrics.Descent, capHeight: metrics.CapHeight,
			descendant: types.Dict{"CIDToGIDMap": types.Name("Identity"), "W": types.Array{types.Integer(0), widths}},
		})
	}
}

// composite is a composite font whose codes are of two bytes (9.7).
type composite struct {
	name                       string
	file                       []byte // TrueType
	runes                      []rune // by their codes; 0 of codes that stand for no letter
	flags                      int
	box                        types.Array
	ascent, descent, capHeight float64    // in shares of its size
	descendant                 types.Dict // its widths, and which glyphs its codes are
}

// writeComposite writes a composite font as an object.
func (a *Assembler) writeComposite(number int, f composite) {
	data := deflate(f.file)
	program := a.out.allocate()
	a.out.stream(program, types.Dict{"Filter": types.Name(Flate), "Length1": types.Integer(len(f.file))}, bytes.NewReader(data), int64(len(data)))
	name := types.Name(f.name)
	descriptor := a.add(types.Dict{
		"Type": types.Name("FontDescriptor"), "FontName": name, "Flags": types.Integer(f.flags), "ItalicAngle": types.Integer(0),
		"FontBBox": f.box, "StemV": types.Integer(80), "FontFile2": reference(program),
		"Ascent": thousandths(f.ascent), "Descent": thousandths(-f.descent), "CapHeight": thousandths(f.capHeight),
	})
	descendant := types.Dict{
		"Type": types.Name("Font"), "Subtype": types.Name("CIDFontType2"), "BaseFont": name, "FontDescriptor": reference(descriptor),
		"CIDSystemInfo": types.Dict{"Registry": types.StringLiteral("Adobe"), "Ordering": types.StringLiteral("Identity"), "Supplement": types.Integer(0)},
	}
	maps.Copy(descendant, f.descendant)
	a.out.object(number, appendDict(nil, types.Dict{
		"Type": types.Name("Font"), "Subtype": types.Name("Type0"), "BaseFont": name, "Encoding": types.Name("Identity-H"),
		"DescendantFonts": types.Array{reference(a.add(descendant))}, "ToUnicode": a.smallStream(toUnicode(f.runes)),
	}))
}

// Flags of font descriptors (table 121).
const (
	flagSerif    = 1 << 1
	flagSymbolic = 1 << 2
)

func flagsOf(face typeface.Face) int {
	if face == typeface.Serif {
		return flagSerif | flagSymbolic
	}
	return flagSymbolic
}

func thousandths(share float64) types.Object { return types.Integer(int(share*1000 + 0.5)) }

// subsetTag is what subsets of a font are told apart by (9.9.2): six letters that follow from
// its own.
func subsetTag(runes []rune) string {
	sum := contentKey([]byte(string(runes)), nil)
	tag := make([]byte, 6)
	for i := range tag {
		tag[i] = 'A' + sum[i]%26
	}
	return string(tag)
}

// toUnicode tells which letters the codes are (9.10.3).
func toUnicode(runes []rune) []byte {
	var b bytes.Buffer
	b.WriteString("/CIDInit /ProcSet findresource begin 12 dict begin begincmap\n/CMapName /Dorbin def /CMapType 2 def\n" +
		"1 begincodespacerange <0000> <FFFF> endcodespacerange\n")
	codes := make([]int, 0, len(runes))
	for code, r := range runes {
		if r != 0 {
			codes = append(codes, code)
		}
	}
	for chunk := range slices.Chunk(codes, 100) { // as many as a section may have
		fmt.Fprintf(&b, "%d beginbfchar\n", len(chunk))
		for _, code := range chunk {
			fmt.Fprintf(&b, "<%04X> <", code)
			for _, unit := range utf16.Encode([]rune{runes[code]}) {
				fmt.Fprintf(&b, "%04X", unit)
			}
			b.WriteString(">\n")
		}
		b.WriteString("endbfchar\n")
	}
	b.WriteString("endcmap CMapName currentdict /CMap defineresource pop end end\n")
	return b.Bytes()
}
