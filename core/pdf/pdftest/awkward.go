package pdftest

// Awkward has pages that a reader shows in other places than their content says:
// turned, with a crop box, with a box away from the origin, with a user unit, and
// lying on A3.
func Awkward() []byte {
	page := func(boxes string) string {
		return "<< /Type /Page /Parent 2 0 R /Contents 8 0 R " + boxes + " >>"
	}
	return File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R 5 0 R 6 0 R 7 0 R] /Count 5 /Resources << /Font << /F << /Type /Font /Subtype /Type1 /BaseFont /Helvetica >> >> >> >>",
		page("/MediaBox [0 0 300 400] /Rotate 90 /TrimBox [10 10 200 200]"),
		page("/MediaBox [0 0 400 500] /CropBox [40 60 340 460] /Rotate 270"),
		page("/MediaBox [-100 -50 200 350]"),
		page("/MediaBox [0 0 300 400] /UserUnit 1.5 /Rotate 180"),
		page("/MediaBox [0 0 1191 842]"),
		Stream("", "BT /F 30 Tf 60 220 Td (Words here) Tj ET 30 80 120 4 re f 60 100 6 160 re f -60 20 40 30 re f 900 600 150 90 re f"),
	)
}
