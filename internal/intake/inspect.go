package intake

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"dorbin/core/geometry"
	"dorbin/internal/intake/tiff"
	"dorbin/internal/office"
	"dorbin/internal/render"
	"dorbin/internal/worker"
)

// Page is what is learned of a page when its file comes in.
type Page struct {
	Size   geometry.Size // points, upright
	Pixels [2]int        // width and height, upright, of an image page
	Bytes  int64         // 0 for pages that have yet to be measured
	// Scanned tells that the size is the paper's own: the file says it.
	Scanned bool
}

// Inspector has workers inspect files.
type Inspector struct {
	Limits Limits
	Engine *render.Engine
	Pool   *worker.Pool
	Office office.Converter
}

// Pages finds out what pages the file at path has, which is of a kind that pages
// are read from. Name is what its user calls it. Every error that is the file's
// own fault is a *problem.Error whose sentence names the file.
func (in *Inspector) Pages(ctx context.Context, path, name, password string) ([]Page, error) {
	kind, err := KindOf(path)
	if err != nil {
		return nil, err
	}
	var pages []Page
	if kind == PDF {
		pages, err = in.pdfPages(ctx, path, name, password)
	} else {
		pages, _, err = imagePagesTask.Do(ctx, in.Pool, imagesInput{path, name, kind, in.Limits})
	}
	if err == nil && len(pages) > in.Limits.Pages {
		err = refuse(TooManyPages, nil, "%s has %d pages; a file may have at most %d. Split it and add the pieces.",
			name, len(pages), in.Limits.Pages)
	}
	return pages, ofFile(name, err)
}

// Kind finds out what the file at path is. A kind that is not taken is a
// *problem.Error.
func (in *Inspector) Kind(path, name string) (Kind, error) {
	head, err := readHead(path)
	if err != nil {
		return "", err
	}
	if len(head) == 0 {
		return "", refuse(Empty, err, "%s is empty: it has no bytes.", name)
	}
	kind, otherwise := Sniff(head)
	if kind == "" && isPlainText(name, head) {
		return Office, nil
	}
	if kind == "" {
		return "", refuse(UnknownKind, nil, "%s looks like %s. Add PDFs, pictures, text documents or spreadsheets.", name, otherwise)
	}
	return kind, nil
}

// isPlainText tells of files that say by their name that they are text, and are.
func isPlainText(name string, head []byte) bool {
	extension := strings.ToLower(filepath.Ext(name))
	return (extension == ".txt" || extension == ".csv") && !bytes.ContainsRune(head, 0)
}

// KindOf finds the kind of a file that was taken in before.
func KindOf(path string) (Kind, error) {
	head, err := readHead(path)
	if err != nil {
		return "", err
	}
	kind, otherwise := Sniff(head)
	if kind == "" {
		return "", fmt.Errorf("the file looks like %s", otherwise)
	}
	return kind, nil
}

func readHead(path string) ([]byte, error) {
	file, err := os.Open(path)
	if err != nil {
		return nil, fmt.Errorf("open file: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	head, err := io.ReadAll(io.LimitReader(file, SniffBytes))
	if err != nil {
		return nil, fmt.Errorf("read file: %w", err)
	}
	return head, nil
}

func (in *Inspector) pdfPages(ctx context.Context, path, name, password string) ([]Page, error) {
	sizes, err := in.Engine.PageSizes(ctx, path, password, in.Limits.Pages+1)
	switch {
	case errors.Is(err, render.ErrPassword) && password == "":
		return nil, refuse(NeedsPassword, err, "%s is protected with a password. Enter it to add the file.", name)
	case errors.Is(err, render.ErrPassword):
		return nil, refuse(WrongPassword, err, "That is not the password of %s. Try again.", name)
	case errors.Is(err, render.ErrNotPDF):
		return nil, refuse(Damaged, err, "%s is damaged: it begins like a PDF but cannot be read. Ask for it again or print it anew.", name)
	case err != nil:
		return nil, fmt.Errorf("open %s: %w", name, err)
	case len(sizes) == 0:
		return nil, refuse(Empty, nil, "%s is a PDF without pages.", name)
	}
	pages := make([]Page, len(sizes))
	for i, size := range sizes {
		pages[i] = Page{Size: size, Scanned: true}
	}
	return pages, nil
}

func imagePages(in imagesInput) ([]Page, error) {
	name := in.Name
	pictures, err := OpenImages(in.Path, in.Kind)
	if err != nil {
		if errors.Is(err, tiff.ErrUnsupported) {
			return nil, refuse(UnknownKind, err, "%s is a TIFF of a kind that cannot be read (%s). Save it in another way and add it again.", name, err)
		}
		return nil, refuse(Damaged, err, "%s is damaged and cannot be opened (%s).", name, err)
	}
	defer pictures.Close() //nolint:errcheck // only read from
	pages := make([]Page, len(pictures.Pages))
	for i, p := range pictures.Pages {
		width, height := p.Upright()
		if err := in.Limits.checkPixels(name, i+1, width, height, p.PixelBytes); err != nil {
			return nil, err
		}
		resolution := p.uprightResolution()
		pages[i] = Page{
			Size:    geometry.ImageSize(width, height, resolution),
			Pixels:  [2]int{width, height},
			Bytes:   p.Bytes,
			Scanned: resolution.Believable(width, height),
		}
	}
	return pages, nil
}
