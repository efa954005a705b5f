package hostile

import (
	"bytes"
	"compress/zlib"
	"fmt"
	"strings"

	"dorbin/core/pdf/pdftest"
)

const (
	catalog = "<< /Type /Catalog /Pages 2 0 R >>"
	pages   = "<< /Type /Pages /Kids [3 0 R] /Count 1 >>"
)

func page(more string) string {
	return "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] " + more + " >>"
}

// deflated is the content, repeated, compressed by Flate: a thousandth of what it unpacks to.
func deflated(content string, times int) string {
	var out bytes.Buffer
	w := zlib.NewWriter(&out)
	piece := strings.Repeat(content, 1000)
	for range times / 1000 {
		_, _ = w.Write([]byte(piece)) // into memory
	}
	_ = w.Close()
	return out.String()
}

// pdfs are hostile PDFs.
var pdfs = map[string]func() []byte{
	"picture that cannot be decoded.pdf": func() []byte {
		return pdftest.File(catalog, pages,
			page("/Contents 4 0 R /Resources << /XObject << /I 5 0 R >> >>"),
			pdftest.Stream("", "595 0 0 842 0 0 cm /I Do"),
			pdftest.Stream("/Type /XObject /Subtype /Image /Width 640 /Height 480 /BitsPerComponent 8 /ColorSpace /DeviceGray /Filter /DCTDecode", string(noHuffman())))
	},
	"tiling pattern of tiny steps.pdf": func() []byte {
		return pdftest.File(catalog, pages,
			page("/Contents 4 0 R /Resources << /Pattern << /P 5 0 R >> >>"),
			pdftest.Stream("", "/Pattern cs /P scn 0 0 595 842 re f"),
			pdftest.Stream("/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 1 1] /XStep 0.0001 /YStep 0.0001 /Resources << >>", "0 0 1 1 re f"))
	},
	"a form that draws itself.pdf": func() []byte {
		return pdftest.File(catalog, pages,
			page("/Contents 4 0 R /Resources << /XObject << /F 5 0 R >> >>"),
			pdftest.Stream("", "/F Do"),
			pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 595 842] /Resources << /XObject << /F 5 0 R >> >>", "/F Do /F Do"))
	},
	"forms that draw each other.pdf": func() []byte {
		return pdftest.File(catalog, pages,
			page("/Contents 4 0 R /Resources << /XObject << /F 5 0 R >> >>"),
			pdftest.Stream("", "/F Do"),
			pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 595 842] /Resources << /XObject << /G 6 0 R >> >>", "/G Do /G Do"),
			pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 595 842] /Resources << /XObject << /F 5 0 R >> >>", "/F Do /F Do"))
	},
	"forms within forms, two to the thirtieth.pdf": func() []byte {
		return pdftest.File(append([]string{catalog, pages,
			page("/Contents 4 0 R /Resources << /XObject << /F 5 0 R >> >>"), pdftest.Stream("", "/F Do")}, doubling(30)...)...)
	},
	"content that unpacks to a gigabyte.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Contents 4 0 R"),
			pdftest.Stream("/Filter /FlateDecode", deflated("0 0 1 1 re f\n", 40_000_000)))
	},
	"content packed twice.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Contents 4 0 R"),
			pdftest.Stream("/Filter [/FlateDecode /FlateDecode]", deflatedTwice()))
	},
	"a picture that unpacks to gigabytes.pdf": func() []byte {
		return pdftest.File(catalog, pages,
			page("/Contents 4 0 R /Resources << /XObject << /I 5 0 R >> >>"),
			pdftest.Stream("", "595 0 0 842 0 0 cm /I Do"),
			pdftest.Stream("/Type /XObject /Subtype /Image /Width 60000 /Height 60000 /ColorSpace /DeviceRGB /BitsPerComponent 8 /Filter /FlateDecode", deflated("\x00\xFF", 100_000_000)))
	},
	"a page of a kilometre.pdf": func() []byte {
		return pdftest.File(catalog, pages, "<< /Type /Page /Parent 2 0 R /MediaBox [0 0 9000000 9000000] >>")
	},
	"a chain of objects.pdf": func() []byte { return pdftest.File(chain(100_000)...) },
	"pages that are their own parent.pdf": func() []byte {
		return pdftest.File(catalog, "<< /Type /Pages /Kids [2 0 R 3 0 R] /Count 2 /Parent 2 0 R >>", page(""))
	},
	"arrays within arrays.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/X "+strings.Repeat("[", 200_000)+strings.Repeat("]", 200_000)))
	},
	"a count of a milliard.pdf": func() []byte {
		return pdftest.File(catalog, "<< /Type /Pages /Kids [3 0 R] /Count 1000000000 >>", page(""))
	},
	"a shading of endless functions.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Contents 4 0 R /Resources << /Shading << /S 5 0 R >> >>"), pdftest.Stream("", "/S sh"), "<< /ShadingType 1 /ColorSpace /DeviceGray /Domain [0 595 0 842] /Function 6 0 R >>", pdftest.Stream("/FunctionType 4 /Domain [0 595 0 842] /Range [0 1]", "{ "+strings.Repeat("sin cos mul dup ", 20_000)+" }"))
	},
	"an object stream of gigabytes.pdf": func() []byte { return objectStream() },
	"a table of references of gigabytes.pdf": func() []byte {
		return pdftest.File(catalog, pages, page(""), pdftest.Stream("/Type /XRef /Size 100000000 /W [1 4 2] /Root 1 0 R /Filter /FlateDecode", deflated("\x01\x00\x00\x00\x09\x00\x00", 60_000_000)))
	},
	"a font of its own glyphs.pdf": func() []byte {
		return pdftest.File(catalog, pages, page("/Contents 4 0 R /Resources << /Font << /F 5 0 R >> >>"), pdftest.Stream("", "BT /F 12 Tf (aaaaaaaa) Tj ET"), "<< /Type /Font /Subtype /Type3 /FontBBox [0 0 1000 1000] /FontMatrix [0.001 0 0 0.001 0 0] /CharProcs << /a 6 0 R >> /Encoding << /Type /Encoding /Differences [97 /a] >> /FirstChar 97 /LastChar 97 /Widths [1000] /Resources << /Font << /F 5 0 R >> >> >>", pdftest.Stream("", "1000 0 d0 BT /F 1 Tf (aaaaaaaa) Tj ET"))
	},
}

// doubling are forms, from object 5 on, of which each draws the next twice.
func doubling(depth int) []string {
	forms := make([]string, depth)
	for i := range forms {
		content, next := "/F Do /F Do", fmt.Sprintf("/XObject << /F %d 0 R >>", i+6)
		if i == depth-1 {
			content, next = "0 0 1 1 re f", ""
		}
		forms[i] = pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 595 842] /Resources << "+next+" >>", content)
	}
	return forms
}

// objectStream has its page in an object stream (7.5.7) that unpacks to half a gigabyte, and is
// found by a table of references that is a stream (7.5.8).
func objectStream() []byte {
	var out bytes.Buffer
	out.WriteString("%PDF-1.7\n")
	offset := out.Len()
	head := "1 0 2 50 3 120 "
	objects := pad(catalog, 50) + pad(pages, 70) + page("")
	var packed bytes.Buffer
	w := zlib.NewWriter(&packed)
	_, _ = w.Write([]byte(head + objects)) // into memory
	for range 500 {
		_, _ = w.Write(bytes.Repeat([]byte(" "), 1<<20))
	}
	_ = w.Close()
	fmt.Fprintf(&out, "4 0 obj\n%s\nendobj\n", pdftest.Stream(fmt.Sprintf("/Type /ObjStm /N 3 /First %d /Filter /FlateDecode", len(head)), packed.String()))
	table := out.Len()
	entries := []byte{0, 0, 0, 0, 0, 2, 0, 0, 4, 0, 2, 0, 0, 4, 1, 2, 0, 0, 4, 2}
	entries = append(entries, 1, 0, byte(offset>>8), byte(offset), 0)
	entries = append(entries, 1, byte(table>>16), byte(table>>8), byte(table), 0)
	fmt.Fprintf(&out, "5 0 obj\n%s\nendobj\nstartxref\n%d\n%%%%EOF\n", pdftest.Stream("/Type /XRef /Size 6 /W [1 3 1] /Root 1 0 R", string(entries)), table)
	return out.Bytes()
}

func pad(text string, width int) string { return fmt.Sprintf("%-*s", width, text) }

func deflatedTwice() string {
	var out bytes.Buffer
	w := zlib.NewWriter(&out)
	_, _ = w.Write([]byte(deflated("0 0 1 1 re f\n", 40_000_000))) // into memory
	_ = w.Close()
	return out.String()
}

// chain is a page whose content is at the end of a chain of references.
func chain(length int) []string {
	objects := []string{catalog, pages, page("/Contents 4 0 R")}
	for i := range length {
		objects = append(objects, fmt.Sprintf("%d 0 R", i+5))
	}
	return append(objects, pdftest.Stream("", "0 0 1 1 re f"))
}
