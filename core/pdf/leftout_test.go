package pdf

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"
)

// assembledWithTally assembles the first page of a document, placed as it is.
func assembledWithTally(t testing.TB, data []byte, placement Placement) (file []byte, tally Tally) {
	t.Helper()
	var out bytes.Buffer
	doc := parse(t, data)
	a := NewAssembler(&out, 1)
	require.NoError(t, a.AddDocument(doc, []Placement{placement}, nil))
	require.NoError(t, a.Finish(Properties{Title: "Test"}))
	tally = doc.LeftOut()
	tally.Add(a.LeftOut())
	return out.Bytes(), tally
}

// assertWithout has a file not contain something, neither in what qpdf reads of it nor in
// objects that nothing refers to.
func assertWithout(t testing.TB, file []byte, secret string) {
	t.Helper()
	assert.NotContains(t, plain(t, file), secret)
	assert.False(t, bytes.Contains(file, []byte(secret)), "in an object that nothing refers to")
}

func withAnnotation(annot string) []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Annots [5 0 R] >>",
		pdftest.Stream("/Type /EmbeddedFile", "SECRET"),
		annot,
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9]", "0 0 9 9 re f % APPEARANCE"),
	)
}

func TestActiveContentIsLeftOut(t *testing.T) {
	link := func(action string) string {
		return "<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /A << " + action + " >> >>"
	}
	field := func(more string) string {
		return "<< /Type /Annot /Subtype /Widget /FT /Tx /T (amount) /Rect [0 0 9 9] " + more + " >>"
	}
	for name, tc := range map[string]struct {
		annot string
		want  LeftOut
	}{
		"script of a link":            {link("/S /JavaScript /JS (SECRET)"), Scripts},
		"script in a stream":          {link("/S /JavaScript /JS 4 0 R"), Scripts},
		"script as an address":        {link("/S /URI /URI (java\tscript:SECRET)"), Scripts},
		"script of a field":           {field("/AA << /K << /S /JavaScript /JS (SECRET) >> >>"), Scripts},
		"script after an address":     {link("/S /URI /URI (https://www.example.org/) /Next << /S /JavaScript /JS (SECRET) >>"), Scripts},
		"script at an unknown place":  {field("/Own << /S /JavaScript /JS (SECRET) >>"), Scripts},
		"program":                     {link("/S /Launch /F (SECRET.exe)"), Actions},
		"program of a system":         {link("/S /Launch /Win << /F (SECRET.exe) >>"), Actions},
		"form that is sent":           {field("/A << /S /SubmitForm /F << /FS /URL /F (https://www.example.org/SECRET) >> >>"), Actions},
		"form that is filled in":      {field("/A << /S /ImportData /F (SECRET.fdf) >>"), Actions},
		"other document":              {link("/S /GoToR /F (SECRET.pdf) /D [0 /Fit]"), Actions},
		"document within":             {link("/S /GoToE /T << /R /C /N (SECRET) >>"), Actions},
		"file as an address":          {link("/S /URI /URI (file:///home/SECRET)"), Actions},
		"menu of the reader":          {link("/S /Named /N /SECRET"), Actions},
		"layer that is switched":      {link("/S /SetOCGState /State [/ON 4 0 R] /SECRET 1"), Actions},
		"action nobody knows":         {link("/S /SECRET"), Actions},
		"attached file":               {"<< /Type /Annot /Subtype /FileAttachment /Rect [0 0 9 9] /FS << /F (SECRET) /EF << /F 4 0 R >> >> >>", Attachments},
		"file that belongs to a note": {"<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /AF [<< /F (SECRET) /EF << /F 4 0 R >> >>] >>", Attachments},
		"file that nothing names":     {"<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /Own 4 0 R >>", Attachments},
		"sound":                       {"<< /Type /Annot /Subtype /Sound /Rect [0 0 9 9] /Sound 4 0 R >>", Media},
		"film":                        {"<< /Type /Annot /Subtype /Movie /Rect [0 0 9 9] /Movie << /F (SECRET) >> /AP << /N 6 0 R >> >>", Media},
		"media without a picture":     {"<< /Type /Annot /Subtype /RichMedia /Rect [0 0 9 9] /RichMediaContent << /Assets (SECRET) >> >>", Media},
		"note that is hidden":         {"<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /F 2 /Contents (SECRET) >>", HiddenNotes},
		"field that is never seen":    {field("/F 32 /V (SECRET)"), HiddenNotes},
		"signature":                   {"<< /Type /Annot /Subtype /Widget /FT /Sig /T (SECRET) /Rect [0 0 9 9] /V 4 0 R /AP << /N 6 0 R >> >>", ""},
		"metadata of a note":          {"<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /Metadata 7 0 R >>", ""},
	} {
		t.Run(name, func(t *testing.T) {
			out, tally := assembledWithTally(t, withAnnotation(tc.annot), Placement{})
			assertWithout(t, out, "SECRET")
			if tc.want != "" {
				assert.Equal(t, Tally{tc.want: 1}, tally)
			}
		})
	}
}

func TestWhatOnlyLeadsSomewhereStays(t *testing.T) {
	for _, action := range []string{
		"/S /URI /URI (https://www.example.org/)", "/S /URI /URI (mailto:office@example.org)", "/S /URI /URI (www.example.org)",
		"/S /Named /N /NextPage", "/S /GoTo /D [3 0 R /Fit]",
	} {
		annot := "<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /A << " + action + " >> >>"
		out, tally := assembledWithTally(t, withAnnotation(annot), Placement{})
		assert.Contains(t, plain(t, out), "/Subtype /Link")
		assert.Empty(t, tally)
	}
	shownInPrint := "<< /Type /Annot /Subtype /Text /Rect [0 0 9 9] /F 36 /Contents (Kept) >>"
	out, _ := assembledWithTally(t, withAnnotation(shownInPrint), Placement{})
	assert.Contains(t, plain(t, out), "(Kept)")
}

func TestAFilmLeavesItsPicture(t *testing.T) {
	out, _ := assembledWithTally(t, withAnnotation("<< /Type /Annot /Subtype /Screen /Rect [0 0 9 9] /AP << /N 6 0 R >> /A << /S /Rendition /R (SECRET) >> >>"), Placement{})
	text := plain(t, out)
	assert.Contains(t, text, "/Subtype /Stamp")
	assert.Contains(t, text, "APPEARANCE")
	assert.NotContains(t, text, "SECRET")
}

// TestFilesAndMetadataOfResources has the resources of a page carry what is not seen.
func TestFilesAndMetadataOfResources(t *testing.T) {
	data := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /Metadata 6 0 R /OpenAction << /S /JavaScript /JS (SECRET) >> "+
			"/Names << /EmbeddedFiles << /Kids [<< /Names [(a) 7 0 R (b) 7 0 R] >>] >> >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Metadata 6 0 R /VP [<< /Name (SECRET) >>] /AA << /O << /S /JavaScript /JS (SECRET) >> >> "+
			"/Contents 4 0 R /Resources << /XObject << /EF 5 0 R /Metadata 5 0 R >> >> >>",
		pdftest.Stream("", "/EF Do /Metadata Do"),
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Metadata 6 0 R /Ref << /F (SECRET.pdf) /Page 0 >> /AF [7 0 R] /OPI << /V (SECRET) >>", "0 0 9 9 re f"),
		pdftest.Stream("/Type /Metadata /Subtype /XML", "SECRET"),
		"<< /Type /Filespec /F (SECRET) /EF << /F 8 0 R >> >>",
		pdftest.Stream("/Type /EmbeddedFile", "SECRET"),
	)
	out, tally := assembledWithTally(t, data, Placement{})
	assertWithout(t, out, "SECRET")
	text := plain(t, out)
	assert.Regexp(t, `/EF \d+ 0 R`, text, "a name of a form, and no file")
	assert.Equal(t, 2, tally[Scripts])
	assert.Equal(t, 2, tally[Attachments])
	assert.Positive(t, tally[Metadata])
}

// layered draws on layers, of which the second is off: on the page itself, by forms, by an
// annotation, and by memberships.
func layered(config string) []byte {
	return pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /OCProperties << /OCGs [4 0 R 5 0 R] /D "+config+" >> >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Contents [6 0 R 7 0 R] /Annots [8 0 R] /Resources << /Font << /F 9 0 R >> "+
			"/Properties << /On 4 0 R /Off 5 0 R /Both 10 0 R /Not 11 0 R >> "+
			"/XObject << /Form 12 0 R /OnLayer 13 0 R /Only 14 0 R >> >> >>",
		"<< /Type /OCG /Name (Seen) >>",
		"<< /Type /OCG /Name (SECRET-NAME) >>",
		pdftest.Stream("", "BT /F 10 Tf 10 180 Td (Plain) Tj ET /OC /On BDC BT /F 10 Tf 10 160 Td (Shown) Tj ET EMC\n"+
			"/OC /Off BDC q 2 0 0 2 0 0 cm BT /F 10 Tf 10 60 Td (SECRET-TEXT) Tj (SECRET-MORE) ' ET 0 0 50 50 re f /Only Do "+
			"BI /W 1 /H 1 /BPC 8 /CS /G ID S EI Q /P << /MCID 0 >> BDC BT 9 9 Td [(SECRET-DEEP)] TJ ET EMC"),
		pdftest.Stream("", "EMC BT /F 10 Tf 10 100 Td (After) Tj ET /OC /Both BDC BT /F 10 Tf 10 80 Td (SECRET-BOTH) Tj ET EMC "+
			"/OC /Not BDC BT /F 10 Tf 10 70 Td (Instead) Tj ET EMC /Form Do /OnLayer Do"),
		"<< /Type /Annot /Subtype /Square /Rect [0 0 50 50] /Contents (SECRET-NOTE) /OC 5 0 R >>",
		"<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>",
		"<< /Type /OCMD /OCGs [4 0 R 5 0 R] /P /AllOn >>",
		"<< /Type /OCMD /VE [/Not 5 0 R] >>",
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 200 200] /Resources << /Font << /F 9 0 R >> /Properties << /Off 5 0 R >> /XObject << /Only 15 0 R >> >>",
			"BT /F 10 Tf 10 50 Td (Form) Tj ET /OC /Off BDC /Only Do BT /F 10 Tf 10 40 Td (SECRET-FORM) Tj ET EMC"),
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 200 200] /OC 5 0 R /Resources << /Font << /F 9 0 R >> >>", "BT /F 10 Tf 10 30 Td (SECRET-ON-LAYER) Tj ET"),
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 200 200]", "% SECRET-ONLY-THERE"),
		pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 200 200]", "% SECRET-ONLY-IN-FORM"),
	)
}

func TestHiddenLayersAreLeftOut(t *testing.T) {
	framed := Placement{Framing: geometry.Framing{Straighten: 1}}
	for name, config := range map[string]string{
		"off":              "<< /OFF [5 0 R] >>",
		"off unless on":    "<< /BaseState /OFF /ON [4 0 R] >>",
		"off for viewing":  "<< /AS [<< /Event /View /OCGs [5 0 R] >>] >>",
		"off, with a name": "<< /OFF [5 0 R] /Order [(SECRET-ORDER) 5 0 R] /Name (SECRET-CONFIGURATION) >>",
	} {
		for _, placement := range []Placement{{}, framed} {
			t.Run(name, func(t *testing.T) {
				data := layered(config)
				if strings.Contains(config, "/AS") {
					data = bytes.Replace(data, []byte("/Name (SECRET-NAME)"), []byte("/Name (S) /Usage << /View << /ViewState /OFF >> >>"), 1)
				}
				before := tool(t, data, "pdftoppm", "-r", "72", "FILE")
				out, tally := assembledWithTally(t, data, placement)
				assertWithout(t, out, "SECRET")
				assert.Positive(t, tally[HiddenLayers])
				text := tool(t, out, "pdftotext", "FILE", "-")
				for _, seen := range []string{"Plain", "Shown", "After", "Instead", "Form"} {
					assert.Contains(t, text, seen)
				}
				if placement == (Placement{}) && !strings.Contains(config, "/AS") {
					assert.Equal(t, before, tool(t, out, "pdftoppm", "-r", "72", "FILE"), "the page looks as it did")
				}
			})
		}
	}
}

func TestLayersThatAreOnStay(t *testing.T) {
	out, tally := assembledWithTally(t, layered("<< >>"), Placement{})
	assert.Zero(t, tally[HiddenLayers])
	assert.Contains(t, tool(t, out, "pdftotext", "FILE", "-"), "SECRET-TEXT")
	assert.Contains(t, plain(t, out), "(Seen)")
}

func TestPicturesTellNothingAboutThemselves(t *testing.T) {
	picture := "\xFF\xD8\xFF\xFE\x00\x08SECRET\xFF\xC0\x00\x0B\x08\x00\x01\x00\x01\x01\x01\x11\x00\xFF\xDA\x00\x08\x01\x01\x00\x00\x3F\x00\xFF\xD9SECRET"
	data := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Contents 4 0 R /Resources << /XObject << /I 5 0 R >> >> >>",
		pdftest.Stream("", "/I Do"),
		pdftest.Stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace /DeviceGray /Filter /DCTDecode", picture),
	)
	out, tally := assembledWithTally(t, data, Placement{})
	assert.NotContains(t, string(out), "SECRET")
	assert.Equal(t, Tally{Metadata: 1}, tally)

	var whole bytes.Buffer
	a := NewAssembler(&whole, 1)
	a.KeepPictures = true
	require.NoError(t, a.AddDocument(parse(t, data), []Placement{{}}, nil))
	require.NoError(t, a.Finish(Properties{}))
	assert.Contains(t, whole.String(), picture)
	assert.Empty(t, a.LeftOut())
}

// FuzzWithoutHidden has content of any kind lose what it paints, and never what sets its state.
func FuzzWithoutHidden(f *testing.F) {
	f.Add([]byte("/OC /Off BDC q 1 0 0 1 0 0 cm (a) Tj Q EMC"))
	f.Add([]byte("/OC /Off BDC BI /W 1 ID x EI EMC /OC /On BDC EMC EMC f"))
	doc := parse(f, layered("<< /OFF [5 0 R] >>"))
	resources := doc.dict(doc.pages[0].resources)
	f.Fuzz(func(t *testing.T, content []byte) {
		c := &copier{doc: doc, hidden: map[int]bool{}}
		visible := c.withoutHidden(content, resources)
		if visible == nil {
			assert.Empty(t, c.hidden)
			return
		}
		assert.Equal(t, states(content), states(visible))
	})
}

// states are the operators that set the state of painting.
func states(content []byte) (names []string) {
	scanContent(content, func(op operator) {
		switch op.name {
		case "q", "Q", "cm", "gs", "BDC", "BMC", "EMC":
			names = append(names, fmt.Sprint(op.name, op.numbers))
		}
	})
	return names
}
