package pdfium

import (
	"fmt"

	"github.com/klippa-app/go-pdfium/requests"
)

// About is what a PDF tells about itself as a whole.
type About struct {
	Version   int // 17 is PDF 1.7
	Bookmarks bool
	Attached  bool     // files, or scripts
	Labels    []string // of the pages, as readers show them; empty ones where there are none
	// Properties are what its information says, by their keys there: Title, Author.
	Properties map[string]string
}

// informationKeys are those of the properties that are asked for.
var informationKeys = []string{"Title", "Author", "Subject", "Keywords", "Reference", "CaseNumber", "SenderReference"}

// newestLock is the revision of protection that came with PDF 2.0 (ISO 32000-2, table 21).
const newestLock = 6

// About tells what a PDF says about itself, and about at most so many pages.
func (l *Library) About(path, password string, pages int) (about About, err error) {
	err = l.use(func() error {
		doc, err := l.load(path, password)
		if err != nil {
			return err
		}
		defer l.close(doc)
		version, err := l.instance.FPDF_GetFileVersion(&requests.FPDF_GetFileVersion{Document: doc.ref})
		if err != nil {
			return fmt.Errorf("read the version: %w", err)
		}
		about.Version, about.Properties = version.FileVersion, map[string]string{}
		lock, err := l.instance.FPDF_GetSecurityHandlerRevision(&requests.FPDF_GetSecurityHandlerRevision{Document: doc.ref})
		if err == nil && lock.SecurityHandlerRevision >= newestLock {
			about.Version = max(about.Version, 20) // the file's first line may say less
		}
		for _, key := range informationKeys {
			if told, err := l.instance.FPDF_GetMetaText(&requests.FPDF_GetMetaText{Document: doc.ref, Tag: key}); err == nil {
				about.Properties[key] = told.Value
			}
		}
		first, err := l.instance.FPDFBookmark_GetFirstChild(&requests.FPDFBookmark_GetFirstChild{Document: doc.ref})
		about.Bookmarks = err == nil && first.Bookmark != nil
		files, err := l.instance.FPDFDoc_GetAttachmentCount(&requests.FPDFDoc_GetAttachmentCount{Document: doc.ref})
		about.Attached = err == nil && files.AttachmentCount > 0
		scripts, err := l.instance.FPDFDoc_GetJavaScriptActionCount(&requests.FPDFDoc_GetJavaScriptActionCount{Document: doc.ref})
		about.Attached = about.Attached || err == nil && scripts.JavaScriptActionCount > 0
		about.Labels = make([]string, pages)
		for i := range pages {
			if label, err := l.instance.FPDF_GetPageLabel(&requests.FPDF_GetPageLabel{Document: doc.ref, Page: i}); err == nil {
				about.Labels[i] = label.Label
			}
		}
		return nil
	})
	return about, err
}
