package pdf

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/pdf/pdftest"
)

// TestHeadings reads bookmarks of the first level that has several, with destinations of all kinds,
// and no bookmark twice.
func TestHeadings(t *testing.T) {
	long := strings.Repeat("long ", 60)
	file := pdftest.File(
		"<< /Type /Catalog /Pages 2 0 R /Outlines 5 0 R /Dests << /Named [4 0 R /Fit] >> >>",
		"<< /Type /Pages /Kids [3 0 R 4 0 R] /Count 2 /MediaBox [0 0 200 300] >>",
		"<< /Type /Page /Parent 2 0 R >>", "<< /Type /Page /Parent 2 0 R >>",
		"<< /Type /Outlines /First 6 0 R >>",
		"<< /Title (The whole) /Dest [3 0 R /Fit] /First 7 0 R >>",
		"<< /Title (First\\r part) /Dest [3 0 R /Fit] /Next 8 0 R >>",
		"<< /Title (Second) /A << /S /GoTo /D /Named >> /Next 9 0 R >>",
		"<< /Title (By number) /Dest [1 /Fit] /Next 10 0 R >>",
		"<< /Title (Nowhere) /Dest [99 /Fit] /Next 11 0 R >>",
		"<< /Title (A site) /A << /S /URI /URI (http://x.example) >> /Next 12 0 R >>",
		"<< /Title ("+long+") /Dest [3 0 R /Fit] /Next 7 0 R >>",
	)
	got := parse(t, file).Headings()
	assert.Equal(t, [][]string{{"First part", strings.TrimSpace(long)[:longestHeading]}, {"Second", "By number"}}, got)
	none := pdftest.File("<< /Type /Catalog /Pages 2 0 R >>", "<< /Type /Pages /Kids [3 0 R] /Count 1 >>", "<< /Type /Page /Parent 2 0 R >>")
	assert.Equal(t, [][]string{nil}, parse(t, none).Headings())
}
