package pdf

import (
	"bytes"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

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
