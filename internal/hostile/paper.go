package hostile

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
)

// archive is a zip of files by their names.
func archive(files map[string]string) []byte {
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for name, content := range files {
		file, err := w.Create(name)
		if err == nil {
			_, err = file.Write([]byte(content))
		}
		if err != nil {
			panic(err) // into memory
		}
	}
	_ = w.Close()
	return out.Bytes()
}

const (
	wordTypes = `<?xml version="1.0"?><Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>`
	wordRels  = `<?xml version="1.0"?><Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="a" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>`
	wordStart = `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body><w:p><w:r><w:t>`
	wordEnd   = `</w:t></w:r></w:p></w:body></w:document>`
)

// word is a text document (ISO/IEC 29500) of this XML.
func word(xml string) []byte {
	return archive(map[string]string{"[Content_Types].xml": wordTypes, "_rels/.rels": wordRels, "word/document.xml": xml})
}

// papers are office documents, and files of kinds that are not taken.
var papers = map[string]func() []byte{
	"text that unpacks to gigabytes.docx": func() []byte {
		return word(wordStart + strings.Repeat("a", 300_000_000) + wordEnd)
	},
	"names of names of names.docx": func() []byte {
		var entities strings.Builder
		for i := 1; i < 12; i++ {
			fmt.Fprintf(&entities, `<!ENTITY e%d "%s">`, i, strings.Repeat(fmt.Sprintf("&e%d;", i-1), 10))
		}
		return word(`<?xml version="1.0"?><!DOCTYPE d [<!ENTITY e0 "aaaaaaaaaa">` + entities.String() + `]>` + wordStart + "&e11;" + wordEnd)
	},
	"a file from the disk.docx": func() []byte {
		return word(`<?xml version="1.0"?><!DOCTYPE d [<!ENTITY e SYSTEM "file:///etc/passwd">]>` + wordStart + "&e;" + wordEnd)
	},
	"a path out of the folder.docx": func() []byte {
		return archive(map[string]string{"[Content_Types].xml": wordTypes, "_rels/.rels": wordRels, "word/document.xml": wordStart + "a" + wordEnd, "../../../../tmp/dorbin-hostile": "x"})
	},
	"a picture from the disk.rtf": just(`{\rtf1 {\field{\*\fldinst INCLUDEPICTURE "file:///usr/share/pixmaps/debian-logo.png" \\d}{\fldrslt }} Text}`),
	"groups a million deep.rtf":   func() []byte { return []byte(`{\rtf1 ` + strings.Repeat("{", 1_000_000)) },
	"a table of a million columns.csv": func() []byte {
		return []byte(strings.Repeat("a;", 1_000_000) + "\n")
	},
	"an archive.zip":        func() []byte { return archive(map[string]string{"a.pdf": "%PDF-1.7"}) },
	"a page of the web.pdf": just("<!doctype html><script>alert(1)</script>"),
	"a program.pdf":         just("\x7FELF\x02\x01\x01\x00\x00\x00\x00\x00\x00\x00\x00\x00"),
	"nothing.pdf":           just(""),
	"zeros.jpg":             func() []byte { return make([]byte, 1<<20) },
}
