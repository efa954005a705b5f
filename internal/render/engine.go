package render

import (
	"context"
	"image"
	"io"

	"dorbin/core/annotation"
	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/internal/render/pdfium"
	"dorbin/internal/worker"
)

// Errors of opening a PDF.
var (
	ErrPassword = pdfium.ErrPassword
	ErrNotPDF   = pdfium.ErrNotPDF
)

type (
	// Bookmark leads to a page, counted from 1.
	Bookmark = pdfium.Bookmark
	// OwnText is the text that a page of a PDF has.
	OwnText = pdfium.OwnText
	// About is what a PDF tells about itself as a whole.
	About = pdfium.About
	// Cut is what is kept of a page of a PDF.
	Cut = pdfium.Cut
)

// Engine has workers open, draw and read PDFs by PDFium. It is safe for concurrent use.
type Engine struct{ pool *worker.Pool }

// NewEngine returns an engine.
func NewEngine(pool *worker.Pool) *Engine { return &Engine{pool} }

// CloseRemoved has no worker keep a document open whose file was deleted: those that are at
// work close it when they are done.
func (e *Engine) CloseRemoved() error {
	return pdfium.CloseRemoved.DoIdle(e.pool, pdfium.Nothing{})
}

// PageSizes gives the size of every page in points as a reader shows it, of at most limit
// pages. Errors wrap ErrPassword or ErrNotPDF, or are a problem.Error.
func (e *Engine) PageSizes(ctx context.Context, path, password string, limit int) ([]geometry.Size, error) {
	sizes, _, err := pdfium.PageSizes.Do(ctx, e.pool, pdfium.SizesInput{Path: path, Password: password, Limit: limit})
	return sizes, err
}

// Rewrite writes the document anew as PDFium understands it: repaired, and without its
// protection.
func (e *Engine) Rewrite(ctx context.Context, path, password string, out io.Writer) error {
	return e.pool.Written(out, func(file string) error {
		_, _, err := pdfium.Rewrite.Do(ctx, e.pool, pdfium.RewriteInput{Path: path, Password: password, Out: file})
		return err
	})
}

// CutAway writes a document anew without the objects that lie wholly outside what is kept of
// some of its pages. A page that would look different inside is left whole.
func (e *Engine) CutAway(ctx context.Context, path string, cuts []Cut, out io.Writer) error {
	return e.pool.Written(out, func(file string) error {
		_, _, err := pdfium.CutAway.Do(ctx, e.pool, pdfium.CutInput{Path: path, Cuts: cuts, Out: file})
		return err
	})
}

// HidesContent tells whether characters or parts of pictures of a page, counted from 1, lie
// outside what is seen of it, in fractions of the page as a reader shows it: they are not
// seen, but in the file.
func (e *Engine) HidesContent(ctx context.Context, path string, page int, seen geometry.Box) (bool, error) {
	hides, _, err := pdfium.HidesContent.Do(ctx, e.pool, pdfium.HidesInput{Path: path, Page: page, Seen: seen})
	return hides, err
}

// Text reads the text of a page of a PDF, counted from 1, and which way it runs as the page
// is shown.
func (e *Engine) Text(ctx context.Context, path string, page int) (check.Text, error) {
	text, _, err := pdfium.Text.Do(ctx, e.pool, pdfium.PageInput{Path: path, Page: page})
	return text, err
}

// Words reads the words of a page of a PDF, counted from 1, and where they stand.
func (e *Engine) Words(ctx context.Context, path string, page int) (OwnText, error) {
	own, _, err := pdfium.Words.Do(ctx, e.pool, pdfium.PageInput{Path: path, Page: page})
	return own, err
}

// Holdings tells what a page of a PDF, counted from 1, holds.
func (e *Engine) Holdings(ctx context.Context, path string, page int) (check.Holdings, error) {
	holdings, _, err := pdfium.Holdings.Do(ctx, e.pool, pdfium.PageInput{Path: path, Page: page})
	return holdings, err
}

// About tells what a PDF of so many pages says about itself. Errors wrap ErrPassword or ErrNotPDF.
func (e *Engine) About(ctx context.Context, path, password string, pages int) (About, error) {
	about, _, err := pdfium.AboutPDF.Do(ctx, e.pool, pdfium.AboutInput{Path: path, Password: password, Pages: pages})
	return about, err
}

// Bookmarks lists a PDF's bookmarks of the highest level that lead to a page.
func (e *Engine) Bookmarks(ctx context.Context, path string) ([]Bookmark, error) {
	marks, _, err := pdfium.Bookmarks.Do(ctx, e.pool, pdfium.PageInput{Path: path})
	return marks, err
}

// drawPDF draws a page, counted from 1, fitted into width by height pixels, with or without
// its comments and form fields.
func (e *Engine) drawPDF(ctx context.Context, path string, page, width, height int, annotations annotation.Policy) (image.Image, error) {
	picture, pixels, err := pdfium.Draw.Do(ctx, e.pool, pdfium.DrawInput{Path: path, Page: page, Width: width, Height: height, Annotations: annotations})
	if err != nil {
		return nil, err
	}
	return picture.Unpack(pixels)
}
