package hostile

import (
	"bytes"
	"encoding/binary"
	"fmt"
	"strings"

	"dorbin/core/pdf/pdftest"
)

// drawn is a page of this content, with these resources and further objects from 5 on.
func drawn(content, resources string, objects ...string) func() []byte {
	return func() []byte {
		all := []string{catalog, pages, page("/Contents 4 0 R /Resources << " + resources + " >>"), pdftest.Stream("", content)}
		return pdftest.File(append(all, objects...)...)
	}
}

// pictured is a page that is filled by an image of this dictionary and data.
func pictured(dictionary, data string) func() []byte {
	return drawn("595 0 0 842 0 0 cm /I Do", "/XObject << /I 5 0 R >>", pdftest.Stream("/Type /XObject /Subtype /Image "+dictionary, data))
}

// drawings are PDFs that are hard to draw.
var drawings = map[string]func() []byte{
	"dashes of nothing.pdf":            drawn("[0.00001 0.00001] 0 d 0 0 m 595 842 l S", ""),
	"a line of a million corners.pdf":  func() []byte { return drawn("0 0 m "+strings.Repeat("9 9 l 1 5 l ", 500_000)+" S", "")() },
	"a million states.pdf":             func() []byte { return drawn(strings.Repeat("q ", 1_000_000), "")() },
	"a string that never ends.pdf":     func() []byte { return drawn("BT ("+strings.Repeat("(", 1_000_000), "")() },
	"numbers out of bounds.pdf":        drawn("1e308 0 0 1e308 1e308 -1e308 cm 0 0 1e308 1e308 re f 99999999999999999999 w S", ""),
	"an inline image of gigabytes.pdf": drawn("q 595 0 0 842 0 0 cm BI /W 60000 /H 60000 /BPC 8 /CS /RGB ID x EI Q", ""),
	"a colour space of itself.pdf":     drawn("/C cs 0.5 sc 0 0 99 99 re f", "/ColorSpace << /C 5 0 R >>", "[/Indexed 5 0 R 1 <0001>]"),
	"a pattern of itself.pdf": drawn("/Pattern cs /P scn 0 0 595 842 re f", "/Pattern << /P 5 0 R >>",
		pdftest.Stream("/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 9 9] /XStep 9 /YStep 9 /Resources << /Pattern << /P 5 0 R >> >>", "/Pattern cs /P scn 0 0 9 9 re f")),
	"a function of itself.pdf": drawn("/S sh", "/Shading << /S << /ShadingType 2 /ColorSpace /DeviceGray /Coords [0 0 595 0] /Function 5 0 R >> >>",
		"<< /FunctionType 3 /Domain [0 1] /Functions [5 0 R 5 0 R] /Bounds [0.5] /Encode [0 1 0 1] >>"),
	"a mesh of a million patches.pdf": func() []byte {
		return drawn("/S sh", "/Shading << /S 5 0 R >>", pdftest.Stream("/ShadingType 4 /ColorSpace /DeviceGray /BitsPerCoordinate 8 /BitsPerComponent 8 /BitsPerFlag 8 /Decode [0 595 0 842 0 1] /Filter /FlateDecode",
			deflated("\x00\x01\x02\x03\x00\xFF\xFE\x80\x00\x09\xF0\x40", 3_000_000)))()
	},
	"a soft mask of itself.pdf": drawn("595 0 0 842 0 0 cm /I Do", "/XObject << /I 5 0 R >>",
		pdftest.Stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray /SMask 5 0 R", "x")),
	"a group that masks itself.pdf": drawn("/G gs 0 0 99 99 re f", "/ExtGState << /G 5 0 R >>", "<< /SMask << /S /Luminosity /G 6 0 R >> >>",
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 99 99] /Group << /S /Transparency /CS /DeviceGray >> /Resources << /ExtGState << /G 5 0 R >> >>", "/G gs 0 0 99 99 re f")),
	"an image of negative size.pdf": pictured("/Width -5 /Height 2147483647 /BitsPerComponent 8 /ColorSpace /DeviceGray", "x"),
	"an image of unknown bits.pdf":  pictured("/Width 100 /Height 100 /BitsPerComponent 2147483647 /ColorSpace /DeviceGray", "x"),
	"a fax of a million rows.pdf":   pictured("/Width 60000 /Height 1000000 /BitsPerComponent 1 /ColorSpace /DeviceGray /Filter /CCITTFaxDecode /DecodeParms << /K -1 /Columns 60000 /Rows 1000000 >>", strings.Repeat("\xFF", 100_000)),
	"a thousand filters.pdf": func() []byte {
		return pictured("/Width 9 /Height 9 /BitsPerComponent 8 /ColorSpace /DeviceGray /Filter ["+strings.Repeat("/ASCIIHexDecode ", 1000)+"]", strings.Repeat("30", 4000)+">")()
	},
	"runs that unpack to gigabytes.pdf": func() []byte {
		return pictured("/Width 60000 /Height 60000 /BitsPerComponent 8 /ColorSpace /DeviceGray /Filter [/FlateDecode /RunLengthDecode]", deflated("\x81\xFF", 40_000_000))()
	},
	"a JPEG that claims more than its image.pdf": func() []byte {
		return pictured("/Width 64 /Height 64 /BitsPerComponent 8 /ColorSpace /DeviceGray /Filter /DCTDecode", string(tornJPEG(65_500, 65_500)))()
	},
	"a JBIG2 page of a milliard pixels.pdf": func() []byte {
		info := binary.BigEndian.AppendUint32(binary.BigEndian.AppendUint32(nil, 60_000), 60_000)
		segment := append([]byte{0, 0, 0, 0, 48, 0, 1, 0, 0, 0, 19}, append(info, make([]byte, 11)...)...) // ITU-T T.88, 7.4.8
		return pictured("/Width 60000 /Height 60000 /BitsPerComponent 1 /ColorSpace /DeviceGray /Filter /JBIG2Decode", string(segment))()
	},
	"a JPEG 2000 of terapixels.pdf": func() []byte {
		size := []byte{0xFF, 0x4F, 0xFF, 0x51, 0, 41, 0, 0} // ISO/IEC 15444-1, A.5.1
		for _, v := range []uint32{1 << 31, 1 << 31, 0, 0, 1, 1, 0, 0} {
			size = binary.BigEndian.AppendUint32(size, v)
		}
		return pictured("/Width 100 /Height 100 /Filter /JPXDecode", string(append(size, 0, 1, 7, 1, 1, 0xFF, 0xD9)))()
	},
	"letters named a million times.pdf": func() []byte {
		return drawn("BT /F 12 Tf 9 9 Td (aa) Tj ET", "/Font << /F 5 0 R >>",
			"<< /Type /Font /Subtype /Type0 /BaseFont /X /Encoding 6 0 R /DescendantFonts [<< /Type /Font /Subtype /CIDFontType2 /BaseFont /X /CIDSystemInfo << /Registry (a) /Ordering (b) /Supplement 0 >> >>] /ToUnicode 6 0 R >>",
			pdftest.Stream("/Type /CMap /CMapName /X /UseCMap 6 0 R", "1 begincodespacerange <0000> <FFFF> endcodespacerange\n"+strings.Repeat("1 begincidrange <0000> <FFFF> 0 endcidrange\n", 20_000)))()
	},
	"annotations that show themselves.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Annots [4 0 R]"),
			"<< /Type /Annot /Subtype /Stamp /Rect [0 0 99 99] /AP << /N 5 0 R >> /Parent 4 0 R /Popup 4 0 R /IRT 4 0 R >>",
			pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Resources << /XObject << /F 5 0 R >> >>", "/F Do"))
	},
}

// structures are PDFs whose objects are hard to follow.
var structures = map[string]func() []byte{
	"what nobody sees.pdf": Unseen,
	"bookmarks in a circle.pdf": func() []byte {
		return pdftest.File("<< /Type /Catalog /Pages 2 0 R /Outlines 4 0 R >>", pages, page(""),
			"<< /Type /Outlines /First 5 0 R /Last 5 0 R /Count 1 >>", "<< /Title (a) /Parent 4 0 R /Next 5 0 R /First 5 0 R /Dest [3 0 R /Fit] >>")
	},
	"bookmarks a hundred thousand deep.pdf": func() []byte {
		objects := []string{"<< /Type /Catalog /Pages 2 0 R /Outlines 4 0 R >>", pages, page(""), "<< /Type /Outlines /First 5 0 R >>"}
		for i := range 100_000 {
			objects = append(objects, fmt.Sprintf("<< /Title (a) /First %d 0 R /Dest [3 0 R /Fit] >>", i+6))
		}
		return pdftest.File(append(objects, "<< /Title (end) >>")...)
	},
	"names in a circle.pdf": func() []byte {
		return pdftest.File("<< /Type /Catalog /Pages 2 0 R /Names << /Dests 4 0 R /JavaScript 4 0 R /EmbeddedFiles 4 0 R >> >>", pages,
			page("/Annots [<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /Dest (far) >>]"), "<< /Kids [4 0 R 4 0 R] >>")
	},
	"fields that are their own parents.pdf": func() []byte {
		return pdftest.File("<< /Type /Catalog /Pages 2 0 R /AcroForm << /Fields [4 0 R] >> >>", pages, page("/Annots [4 0 R]"),
			"<< /Type /Annot /Subtype /Widget /FT /Tx /T (a) /Parent 4 0 R /Kids [4 0 R] /Rect [0 0 9 9] >>")
	},
	"an action that follows itself.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Annots [<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /A 4 0 R >>]"),
			"<< /S /URI /URI (https://www.example.org/) /Next [4 0 R 4 0 R] >>")
	},
	"layers that depend on themselves.pdf": func() []byte {
		return pdftest.File("<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [5 0 R] /D << /OFF [5 0 R] >> >> >>", pages,
			page("/Contents 4 0 R /Resources << /Properties << /L 6 0 R >> >>"), pdftest.Stream("", "/OC /L BDC 0 0 9 9 re f EMC"),
			"<< /Type /OCG /Name (a) >>", "<< /Type /OCMD /OCGs [6 0 R 5 0 R] /VE 7 0 R >>", "[/Or 7 0 R 7 0 R 5 0 R]")
	},
	"a hundred thousand annotations.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Annots ["+strings.Repeat("<< /Subtype /Square /Rect [0 0 9 9] >> ", 100_000)+"]"))
	},
	"a million pages that are one.pdf": func() []byte {
		return pdftest.File(catalog, "<< /Type /Pages /Count 1000000 /Kids ["+strings.Repeat("3 0 R ", 1_000_000)+"] >>", page(""))
	},
	"a page without size.pdf": func() []byte {
		return pdftest.File(catalog, pages, "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 0 0] >>")
	},
	"tables in a circle.pdf": func() []byte {
		data := pdftest.File(catalog, pages, page(""))
		at := bytes.Index(data, []byte("xref"))
		return bytes.Replace(data, []byte("/Root"), fmt.Appendf(nil, "/Prev %d /Root", at), 1)
	},
	"a table behind the end.pdf": func() []byte {
		data := pdftest.File(catalog, pages, page(""))
		return append(data[:bytes.LastIndex(data, []byte("startxref"))], "startxref\n99999999999999\n%%EOF\n"...)
	},
	"protected, with a damaged key.pdf": func() []byte {
		data := pdftest.File(catalog, pages, page(""), "<< /Filter /Standard /V 5 /R 6 /Length 2147483647 /O (a) /U (b) /OE () /UE () /Perms () /P -4 /CF << /StdCF << /CFM /AESV3 /Length 2147483647 >> >> /StmF /StdCF /StrF /StdCF >>")
		return bytes.Replace(data, []byte("/Root 1 0 R"), []byte("/Root 1 0 R /Encrypt 4 0 R /ID [<00> <00>]"), 1)
	},
	"protected by nobody knows what.pdf": func() []byte {
		data := pdftest.File(catalog, pages, page(""), "<< /Filter /Own /V 4 >>")
		return bytes.Replace(data, []byte("/Root 1 0 R"), []byte("/Root 1 0 R /Encrypt 4 0 R"), 1)
	},
	"nothing but a beginning.pdf":    just("%PDF-1.7\n"),
	"a beginning and an archive.pdf": func() []byte { return append([]byte("%PDF-1.7\n"), archive(map[string]string{"a.txt": "text"})...) },
}
