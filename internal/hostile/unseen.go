package hostile

import "dorbin/core/pdf/pdftest"

// Secret is in everything that Unseen carries and nobody sees.
const Secret = "SECRET"

// Unseen is a PDF of one page that carries what is not seen of it: scripts, actions, attached
// files, a sound, a layer that is switched off, hidden notes, metadata. On the page is "Seen".
func Unseen() []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /Metadata 6 0 R /OpenAction << /S /JavaScript /JS (SECRET) >> "+
			"/AA << /WC << /S /JavaScript /JS (SECRET) >> >> "+
			"/Names << /JavaScript << /Names [(s) << /S /JavaScript /JS (SECRET) >>] >> /EmbeddedFiles << /Names [(SECRET.txt) 7 0 R] >> >> "+
			"/OCProperties << /OCGs [9 0 R] /D << /OFF [9 0 R] >> >> "+
			"/AcroForm << /Fields [10 0 R] /XFA (SECRET) >> >>",
		pages,
		page("/Contents 4 0 R /Metadata 6 0 R /AA << /O << /S /JavaScript /JS (SECRET) >> >> /PieceInfo << /A << /Private (SECRET) >> >> "+
			"/Resources << /Font << /F 5 0 R >> /Properties << /Off 9 0 R >> >> /Annots [10 0 R 11 0 R 12 0 R 13 0 R 14 0 R 15 0 R 16 0 R 17 0 R 18 0 R]"),
		pdftest.Stream("", "BT /F 24 Tf 72 700 Td (Seen) Tj ET /OC /Off BDC BT /F 24 Tf 72 600 Td (SECRET) Tj ET EMC"),
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
		pdftest.Stream("/Type /Metadata /Subtype /XML", `<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">`+
			`<rdf:Description xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:source>SECRET</dc:source></rdf:Description></rdf:RDF></x:xmpmeta>`),
		"<< /Type /Filespec /F (SECRET.txt) /EF << /F 8 0 R >> >>",
		pdftest.Stream("/Type /EmbeddedFile", "SECRET"),
		"<< /Type /OCG /Name (SECRET) >>",
		"<< /Type /Annot /Subtype /Widget /FT /Tx /T (sum) /Rect [72 500 172 520] /AA << /C << /S /JavaScript /JS (SECRET) >> >> >>",
		link("/S /JavaScript /JS (SECRET)"),
		link("/S /Launch /F (SECRET.exe)"),
		link("/S /GoToR /F (SECRET.pdf) /D [0 /Fit]"),
		link("/S /SubmitForm /F << /FS /URL /F (https://www.example.org/SECRET) >>"),
		link("/S /ImportData /F (SECRET.fdf)"),
		"<< /Type /Annot /Subtype /FileAttachment /Rect [200 500 220 520] /FS 7 0 R >>",
		"<< /Type /Annot /Subtype /Sound /Rect [240 500 260 520] /Sound 8 0 R >>",
		"<< /Type /Annot /Subtype /Text /Rect [280 500 300 520] /F 2 /Contents (SECRET) >>",
	)
}

func link(action string) string {
	return "<< /Type /Annot /Subtype /Link /Rect [72 400 172 420] /A << " + action + " >> >>"
}
