package pdf

import (
	"bytes"
	"fmt"
	"io"
	"strings"
	"testing"

	"dorbin/core/pdf/pdftest"
	"dorbin/internal/sampling"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// chained is a document whose page leads to a chain of objects, each in the one before.
func chained(length int) []byte {
	objects := []string{
		"<< /Type /Catalog /Pages 2 0 R >>",
		"<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>",
		"<< /Type /Page /Parent 2 0 R /Group 4 0 R >>",
	}
	for i := range length {
		objects = append(objects, fmt.Sprintf("[%d 0 R]", 5+i))
	}
	return pdftest.File(append(objects, "(end)")...)
}

func assemble(doc *Document) error {
	a := NewAssembler(io.Discard, 1)
	err := a.AddDocument(doc, []Placement{{}}, func() error { return nil })
	if err != nil {
		return err
	}
	return a.Finish(Properties{})
}

func TestALongChainOfObjectsIsRefused(t *testing.T) {
	sampling.Heavy(t)
	require.NoError(t, assemble(parse(t, chained(3000))), "such chains are written by programs")
	doc := parse(t, chained(200_000))
	require.ErrorIs(t, assemble(doc), ErrTooDeep)
	assert.Len(t, MeasureSize(doc), 1, "it is weighed as far as it is followed")
}

// TestCirclesEnd has documents name themselves wherever they can.
func TestCirclesEnd(t *testing.T) {
	page := "<< /Type /Page /Parent 2 0 R /Contents 4 0 R /Resources << /XObject << /A 5 0 R >> >> /Annots [6 0 R] >>"
	catalog := "<< /Type /Catalog /Pages 2 0 R /Names << /Dests 7 0 R >> >>"
	for name, objects := range map[string][]string{
		"content that is an array of itself": {"[4 0 R 4 0 R]", "null", "null", "null"},
		"forms that draw themselves often": {
			pdftest.Stream("", strings.Repeat("/A Do ", 50)),
			pdftest.Stream("/Type /XObject /Subtype /Form /BBox [0 0 9 9] /Resources << /XObject << /A 5 0 R >> >>", strings.Repeat("/A Do ", 50)),
			"null", "null",
		},
		"a colour space that is based on itself": {
			pdftest.Stream("", "/A Do"),
			pdftest.Stream("/Type /XObject /Subtype /Image /Width 1 /Height 1 /BitsPerComponent 8 /ColorSpace 6 0 R", "x"),
			"[/Indexed 6 0 R 1 <0001>]", "null",
		},
		"actions that follow themselves": {
			pdftest.Stream("", ""), "null",
			"<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /A 7 0 R >>",
			"<< /S /Named /N /NextPage /Next [7 0 R 7 0 R 7 0 R] >>",
		},
		"a name tree that is its own branch": {
			pdftest.Stream("", ""), "null",
			"<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /Dest (chapter) >>",
			"<< /Kids [7 0 R 7 0 R 7 0 R] >>",
		},
	} {
		t.Run(name, func(t *testing.T) {
			all := append([]string{catalog, "<< /Type /Pages /Kids [3 0 R] /Count 1 /MediaBox [0 0 200 200] >>", page}, objects...)
			doc, err := Open(bytes.NewReader(pdftest.File(all...)))
			if err != nil {
				return // the parser does not take it
			}
			_ = doc.Pictures(0)
			MeasureSize(doc)
			if err := assemble(doc); err != nil {
				assert.ErrorIs(t, err, ErrTooDeep)
			}
		})
	}
}
