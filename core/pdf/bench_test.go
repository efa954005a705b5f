package pdf

import (
	"bytes"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/pdf/pdftest"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/stretchr/testify/require"
)

// textFiles are documents of text pages from the PDF library's test data.
var textFiles = []string{
	"WaldenFull.pdf", "TheGoProgrammingLanguageCh1.pdf", "go-lecture.pdf", "itu-t81.pdf", "T4.pdf",
	"adobe_supplement_iso32000_1.pdf", "CenterOfWhy.pdf",
}

func readTextFiles(b *testing.B) (files [][]byte, total int64) {
	b.Helper()
	module, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", "github.com/pdfcpu/pdfcpu").Output()
	require.NoError(b, err)
	for _, name := range textFiles {
		data, err := os.ReadFile(filepath.Join(strings.TrimSpace(string(module)), "pkg", "testdata", name))
		require.NoError(b, err)
		files = append(files, data)
		total += int64(len(data))
	}
	return files, total
}

// BenchmarkAssemble puts all pages of the text files into one, untouched.
func BenchmarkAssemble(b *testing.B) {
	files, total := readTextFiles(b)
	b.SetBytes(total)
	var size int64
	for b.Loop() {
		size = assembleAll(b, files)
	}
	b.ReportMetric(float64(size)/float64(total), "out/in")
}

func assembleAll(b *testing.B, files [][]byte) int64 {
	var docs []*Document
	pages := 0
	for _, data := range files {
		docs = append(docs, parse(b, data))
		pages += docs[len(docs)-1].PageCount()
	}
	out := &counter{}
	a := NewAssembler(out, pages)
	position := 0
	for _, doc := range docs {
		placements := make([]Placement, doc.PageCount())
		for i := range placements {
			placements[i] = Placement{Position: position + i, Page: i}
		}
		position += len(placements)
		require.NoError(b, a.AddDocument(doc, placements, nil))
	}
	require.NoError(b, a.Finish(Properties{Title: "x", Bookmarks: []Bookmark{{Title: "All", Count: pages}}}))
	return out.n
}

// BenchmarkLibraryMerge has the PDF library merge the same files by itself.
func BenchmarkLibraryMerge(b *testing.B) {
	files, total := readTextFiles(b)
	b.SetBytes(total)
	disableConfig()
	out := &counter{}
	for b.Loop() {
		readers := make([]io.ReadSeeker, len(files))
		for i, data := range files {
			readers[i] = bytes.NewReader(data)
		}
		out.n = 0
		conf := model.NewDefaultConfiguration()
		conf.Offline = true
		require.NoError(b, api.MergeRaw(readers, out, false, conf))
	}
	b.ReportMetric(float64(out.n)/float64(total), "out/in")
}

type counter struct{ n int64 }

func (c *counter) Write(p []byte) (int, error) {
	c.n += int64(len(p))
	return len(p), nil
}

// BenchmarkMarks writes a long document without and with page numbers and a header.
func BenchmarkMarks(b *testing.B) {
	const count = 2000
	kids := ""
	objects := []string{"<< /Type /Catalog /Pages 2 0 R >>", "", "<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>"}
	for i := range count {
		content := ""
		for line := range 45 {
			content += fmt.Sprintf("BT /F 11 Tf 60 %d Td (Leaf %d, line %d of a page of running text in a long book) Tj ET\n", 780-16*line, i, line)
		}
		kids += fmt.Sprintf("%d 0 R ", 5+2*i)
		objects = append(objects, pdftest.Stream("", content), fmt.Sprintf("<< /Type /Page /Parent 2 0 R /Contents %d 0 R >>", 4+2*i))
	}
	objects[1] = fmt.Sprintf("<< /Type /Pages /Kids [%s] /Count %d /MediaBox [0 0 595 842] /Resources << /Font << /F 3 0 R >> >> >>", kids, count)
	file := pdftest.File(objects...)
	f := finish.Default()
	f.Numbers.On, f.Header.On = true, true
	pages := make([]finish.Page, count)
	placements := make([]Placement, count)
	for i := range pages {
		pages[i].Size = geometry.A4
		placements[i] = Placement{Position: i, Page: i}
	}
	for name, marks := range map[string][][]finish.Mark{"without": nil, "with": f.Marks(pages, finish.Facts{Packet: "A long book", Date: "3 March 2026"})} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				var out counter
				a := NewAssembler(&out, count)
				a.SetMarks(marks)
				doc, err := Open(bytes.NewReader(file))
				if err == nil {
					err = a.AddDocument(doc, placements, nil)
				}
				if err == nil {
					err = a.Finish(Properties{Title: "A long book"})
				}
				if err != nil {
					b.Fatal(err)
				}
				b.ReportMetric(float64(out.n)/count, "B/page")
			}
		})
	}
}
