package render

import (
	"context"
	"errors"
	"fmt"
	"image"
	"image/draw"
	"io"
	"io/fs"
	"os"
	"runtime"
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

	"dorbin/core/geometry"
)

// Errors of opening a PDF.
var (
	ErrPassword = errors.New("the PDF needs a password, or another one")
	ErrNotPDF   = errors.New("the PDF cannot be read")
)

// Engine runs PDFium. It is safe for concurrent use; as many pages are worked
// on at once as it has workers.
type Engine struct {
	pool    pdfium.Pool
	workers chan *worker
}

// worker is one PDFium instance with the documents it has open.
type worker struct {
	engine   *Engine
	instance pdfium.Pdfium
	open     []openDocument // the last used at the end
}

type openDocument struct {
	path string
	file *os.File
	ref  references.FPDF_DOCUMENT
}

// documentsPerWorker bounds the documents that a worker keeps open.
const documentsPerWorker = 6

// NewEngine starts PDFium. Its compiled form is kept in cacheFolder, which
// makes every start but the first quick.
func NewEngine(cacheFolder string) (*Engine, error) {
	cache, err := wazero.NewCompilationCacheWithDir(cacheFolder)
	if err != nil {
		return nil, fmt.Errorf("open the cache of compiled code: %w", err)
	}
	count := runtime.NumCPU()
	pool, err := webassembly.Init(webassembly.Config{
		MinIdle: 1, MaxIdle: count, MaxTotal: count,
		FSConfig: wazero.NewFSConfig(), // no files at all
		Stdout:   io.Discard, Stderr: io.Discard,
		RuntimeConfig: wazero.NewRuntimeConfig().
			WithCompilationCache(cache).
			WithCoreFeatures(api.CoreFeaturesV2 | experimental.CoreFeaturesExceptionHandling),
	})
	if err != nil {
		return nil, fmt.Errorf("start PDFium: %w", err)
	}
	e := &Engine{pool: pool, workers: make(chan *worker, count)}
	for range count {
		e.workers <- &worker{engine: e}
	}
	return e, nil
}

// Close stops PDFium.
func (e *Engine) Close() error {
	for range cap(e.workers) {
		(<-e.workers).discard()
	}
	if err := e.pool.Close(); err != nil {
		return fmt.Errorf("stop PDFium: %w", err)
	}
	return nil
}

// use runs work on a free worker, waiting for one until ctx ends. A worker
// whose PDFium broke down is replaced.
func (e *Engine) use(ctx context.Context, work func(*worker) error) (err error) {
	var w *worker
	select {
	case w = <-e.workers:
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() {
		w.closeRemoved()
		e.workers <- w
	}()
	if err := ctx.Err(); err != nil {
		return err
	}
	defer func() {
		if p := recover(); p != nil {
			w.discard()
			err = fmt.Errorf("%w: PDFium gave up: %v", ErrNotPDF, p)
		}
	}()
	if w.instance == nil {
		w.instance, err = e.pool.GetInstance(time.Minute)
		if err != nil {
			return fmt.Errorf("start PDFium: %w", err)
		}
	}
	err = work(w)
	if brokeDown(err) {
		w.discard()
		err = fmt.Errorf("%w: %w", ErrNotPDF, err)
	}
	return err
}

// CloseRemoved closes the documents whose files were deleted, so that their bytes are given
// back. A worker that is busy does it when it is done.
func (e *Engine) CloseRemoved() {
	for range cap(e.workers) {
		select {
		case w := <-e.workers:
			w.closeRemoved()
			e.workers <- w
		default:
		}
	}
}

func (w *worker) closeRemoved() {
	w.open = slices.DeleteFunc(w.open, func(doc openDocument) bool {
		_, err := os.Stat(doc.path)
		if !errors.Is(err, fs.ErrNotExist) {
			return false
		}
		w.close(doc)
		return true
	})
}

// brokeDown tells of an error of the sandbox itself, after which the instance's
// memory cannot be trusted.
func brokeDown(err error) bool {
	return err != nil && (strings.Contains(err.Error(), "wasm error") || strings.Contains(err.Error(), "module closed"))
}

// discard gives the instance up with all it has open.
func (w *worker) discard() {
	for _, doc := range w.open {
		_ = doc.file.Close() // only read from
	}
	w.open = nil
	if w.instance != nil {
		_ = w.instance.Kill() // it may be broken already
		w.instance = nil
	}
}

// document opens a PDF, or finds it open.
func (w *worker) document(path string) (references.FPDF_DOCUMENT, error) {
	for i, doc := range w.open {
		if doc.path == path {
			w.open = append(slices.Delete(w.open, i, i+1), doc)
			return doc.ref, nil
		}
	}
	if len(w.open) >= documentsPerWorker {
		w.close(w.open[0])
		w.open = slices.Delete(w.open, 0, 1)
	}
	doc, err := w.load(path, "")
	if err != nil {
		return doc.ref, err
	}
	w.open = append(w.open, doc)
	return doc.ref, nil
}

func (w *worker) load(path, password string) (openDocument, error) {
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
	response, err := w.instance.OpenDocument(request)
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

func (w *worker) close(doc openDocument) {
	_, _ = w.instance.FPDF_CloseDocument(&requests.FPDF_CloseDocument{Document: doc.ref}) // nothing to be done about it
	_ = doc.file.Close()                                                                  // only read from
}

// PageSizes gives the size of every page in points as a reader shows it, of at
// most limit pages. Errors wrap ErrPassword or ErrNotPDF.
func (e *Engine) PageSizes(ctx context.Context, path, password string, limit int) ([]geometry.Size, error) {
	var sizes []geometry.Size
	err := e.use(ctx, func(w *worker) error {
		doc, err := w.load(path, password)
		if err != nil {
			return err
		}
		defer w.close(doc)
		count, err := w.instance.FPDF_GetPageCount(&requests.FPDF_GetPageCount{Document: doc.ref})
		if err != nil {
			return fmt.Errorf("count pages: %w", err)
		}
		for i := range min(count.PageCount, limit) {
			size, err := w.instance.FPDF_GetPageSizeByIndex(&requests.FPDF_GetPageSizeByIndex{Document: doc.ref, Index: i})
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
func (e *Engine) Rewrite(ctx context.Context, path, password string, out io.Writer) error {
	return e.use(ctx, func(w *worker) error {
		doc, err := w.load(path, password)
		if err != nil {
			return err
		}
		defer w.close(doc)
		_, err = w.instance.FPDF_SaveAsCopy(&requests.FPDF_SaveAsCopy{
			Document: doc.ref, Flags: requests.SaveFlagRemoveSecurity, FileWriter: out,
		})
		if err != nil {
			return fmt.Errorf("%w: write it anew: %w", ErrNotPDF, err)
		}
		return nil
	})
}

// drawPDF draws a page, counted from 1, fitted into width by height pixels, with
// or without its comments and form fields.
func (e *Engine) drawPDF(ctx context.Context, path string, page, width, height int, markup bool) (image.Image, error) {
	var flags enums.FPDF_RENDER_FLAG
	if markup {
		flags = enums.FPDF_RENDER_FLAG_ANNOT
	}
	var picture image.Image
	err := e.use(ctx, func(w *worker) error {
		doc, err := w.document(path)
		if err != nil {
			return err
		}
		response, err := w.instance.RenderPageInPixels(&requests.RenderPageInPixels{
			Page:        requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}},
			Width:       width,
			Height:      height,
			RenderFlags: flags,
			RenderForm:  markup,
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
