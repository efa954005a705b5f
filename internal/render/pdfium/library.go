package pdfium

import (
	"errors"
	"fmt"
	"image"
	"image/draw"
	"io"
	"io/fs"
	"os"
	"slices"
	"strings"
	"time"

	"github.com/klippa-app/go-pdfium"
	"github.com/klippa-app/go-pdfium/enums"
	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"
	"github.com/klippa-app/go-pdfium/webassembly"
	"github.com/tetratelabs/wazero"
	"github.com/tetratelabs/wazero/api"
	"github.com/tetratelabs/wazero/experimental"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
)

// Errors of opening a PDF.
var (
	ErrPassword = errors.New("the PDF needs a password, or another one")
	ErrNotPDF   = errors.New("the PDF cannot be read")
)

// Library is PDFium, with the documents that it has open. It does one thing at a time.
type Library struct {
	pool     pdfium.Pool
	instance pdfium.Pdfium
	open     []openDocument // the last used at the end
}

type openDocument struct {
	path string
	file *os.File
	ref  references.FPDF_DOCUMENT
}

const (
	mostOpen = 6 // documents
	// mostPages bounds the memory of the sandbox, in pages of 64 KB: 768 MB.
	mostPages = 768 << 20 / (64 << 10)
)

// New starts PDFium. Its compiled form is kept in cacheFolder, which makes every start but
// the first quick.
func New(cacheFolder string) (*Library, error) {
	cache, err := wazero.NewCompilationCacheWithDir(cacheFolder)
	if err != nil {
		return nil, fmt.Errorf("open the cache of compiled code: %w", err)
	}
	pool, err := webassembly.Init(webassembly.Config{
		MinIdle: 1, MaxIdle: 1, MaxTotal: 1,
		FSConfig: wazero.NewFSConfig(), // no files at all
		Stdout:   io.Discard, Stderr: io.Discard,
		RuntimeConfig: wazero.NewRuntimeConfig().
			WithCompilationCache(cache).
			WithMemoryLimitPages(mostPages).
			WithCoreFeatures(api.CoreFeaturesV2 | experimental.CoreFeaturesExceptionHandling),
	})
	if err != nil {
		return nil, fmt.Errorf("start PDFium: %w", err)
	}
	return &Library{pool: pool}, nil
}

// Close stops PDFium.
func (l *Library) Close() error {
	l.discard()
	if err := l.pool.Close(); err != nil {
		return fmt.Errorf("stop PDFium: %w", err)
	}
	return nil
}

// use runs work on PDFium, which is started anew where it broke down.
func (l *Library) use(work func() error) (err error) {
	defer l.closeRemoved()
	defer func() {
		if p := recover(); p != nil {
			l.discard()
			err = fmt.Errorf("%w: PDFium gave up: %v", ErrNotPDF, p)
		}
	}()
	if l.instance == nil {
		l.instance, err = l.pool.GetInstance(time.Minute)
		if err != nil {
			return fmt.Errorf("start PDFium: %w", err)
		}
	}
	err = work()
	if brokeDown(err) {
		l.discard()
		err = fmt.Errorf("%w: %w", ErrNotPDF, err)
	}
	return err
}

// closeRemoved closes the documents whose files were deleted, so that their bytes are given
// back.
func (l *Library) closeRemoved() {
	l.open = slices.DeleteFunc(l.open, func(doc openDocument) bool {
		_, err := os.Stat(doc.path)
		if !errors.Is(err, fs.ErrNotExist) {
			return false
		}
		l.close(doc)
		return true
	})
}

// brokeDown tells of an error of the sandbox itself, after which the instance's
// memory cannot be trusted.
func brokeDown(err error) bool {
	return err != nil && (strings.Contains(err.Error(), "wasm error") || strings.Contains(err.Error(), "module closed"))
}

// discard gives the instance up with all it has open.
func (l *Library) discard() {
	for _, doc := range l.open {
		_ = doc.file.Close() // only read from
	}
	l.open = nil
	if l.instance != nil {
		_ = l.instance.Kill() // it may be broken already
		l.instance = nil
	}
}

// document opens a PDF, or finds it open.
func (l *Library) document(path string) (references.FPDF_DOCUMENT, error) {
	for i, doc := range l.open {
		if doc.path == path {
			l.open = append(slices.Delete(l.open, i, i+1), doc)
			return doc.ref, nil
		}
	}
	if len(l.open) >= mostOpen {
		l.close(l.open[0])
		l.open = slices.Delete(l.open, 0, 1)
	}
	doc, err := l.load(path, "")
	if err != nil {
		return doc.ref, err
	}
	l.open = append(l.open, doc)
	return doc.ref, nil
}

func (l *Library) load(path, password string) (openDocument, error) {
	file, err := os.Open(path)
	if err != nil {
		return openDocument{}, fmt.Errorf("open PDF: %w", err)
	}
	info, err := file.Stat()
	if err != nil {
		return openDocument{}, errors.Join(fmt.Errorf("open PDF: %w", err), file.Close())
	}
	request := &requests.OpenDocument{FileReader: file, FileReaderSize: info.Size()}
	if password != "" {
		request.Password = &password
	}
	response, err := l.instance.OpenDocument(request)
	if err != nil {
		return openDocument{}, errors.Join(openError(err), file.Close())
	}
	return openDocument{path, file, response.Document}, nil
}

// openError names PDFium's error codes: 4 is a wrong or missing password.
func openError(err error) error {
	if strings.HasPrefix(err.Error(), "4:") {
		return fmt.Errorf("%w: %w", ErrPassword, err)
	}
	if errors.Is(err, fs.ErrNotExist) {
		return err
	}
	return fmt.Errorf("%w: %w", ErrNotPDF, err)
}

func (l *Library) close(doc openDocument) {
	_, _ = l.instance.FPDF_CloseDocument(&requests.FPDF_CloseDocument{Document: doc.ref}) // nothing to be done about it
	_ = doc.file.Close()                                                                  // only read from
}

// PageSizes gives the size of every page in points as a reader shows it, of at
// most limit pages. Errors wrap ErrPassword or ErrNotPDF.
func (l *Library) PageSizes(path, password string, limit int) ([]geometry.Size, error) {
	var sizes []geometry.Size
	err := l.use(func() error {
		doc, err := l.load(path, password)
		if err != nil {
			return err
		}
		defer l.close(doc)
		count, err := l.instance.FPDF_GetPageCount(&requests.FPDF_GetPageCount{Document: doc.ref})
		if err != nil {
			return fmt.Errorf("count pages: %w", err)
		}
		for i := range min(count.PageCount, limit) {
			size, err := l.instance.FPDF_GetPageSizeByIndex(&requests.FPDF_GetPageSizeByIndex{Document: doc.ref, Index: i})
			if err != nil {
				return fmt.Errorf("%w: measure page %d: %w", ErrNotPDF, i+1, err)
			}
			sizes = append(sizes, geometry.Size{Width: size.Width, Height: size.Height})
		}
		return nil
	})
	return sizes, err
}

// Rewrite writes the document anew as PDFium understands it: repaired, and
// without its protection.
func (l *Library) Rewrite(path, password string, out io.Writer) error {
	return l.use(func() error {
		doc, err := l.load(path, password)
		if err != nil {
			return err
		}
		defer l.close(doc)
		_, err = l.instance.FPDF_SaveAsCopy(&requests.FPDF_SaveAsCopy{
			Document: doc.ref, Flags: requests.SaveFlagRemoveSecurity, FileWriter: out,
		})
		if err != nil {
			return fmt.Errorf("%w: write it anew: %w", ErrNotPDF, err)
		}
		return nil
	})
}

// Draw draws a page, counted from 1, fitted into width by height pixels, without the
// annotations that are left out.
func (l *Library) Draw(path string, page, width, height int, annotations annotation.Policy) (image.Image, error) {
	var flags enums.FPDF_RENDER_FLAG
	seen := annotations != annotation.NoneSeen
	if seen {
		flags = enums.FPDF_RENDER_FLAG_ANNOT
	}
	var picture image.Image
	err := l.use(func() error {
		doc, err := l.document(path)
		if err != nil {
			return err
		}
		if seen {
			defer l.hideAnnotations(requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}}, annotations)()
		}
		response, err := l.instance.RenderPageInPixels(&requests.RenderPageInPixels{
			Page:        requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}},
			Width:       width,
			Height:      height,
			RenderFlags: flags,
			RenderForm:  seen,
			Document:    &doc,
		})
		if err != nil {
			return fmt.Errorf("draw page %d: %w", page, err)
		}
		defer response.Cleanup()
		picture = copyPicture(response.Result.RenderedImage)
		return nil
	})
	return picture, err
}

// copyPicture takes a picture out of the sandbox's memory.
func copyPicture(img image.Image) image.Image {
	copied := image.NewRGBA(img.Bounds())
	draw.Draw(copied, copied.Rect, img, img.Bounds().Min, draw.Src)
	return copied
}
