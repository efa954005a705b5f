package filing

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image/jpeg"
	"io"
	"os"
	"path"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/render"
	"dorbin/internal/worker"
)

// Look is what is seen of a PDF before it is opened.
type Look struct {
	Pages    int     `json:"pages" doc:"0 where it is locked."`
	Width    float64 `json:"width" doc:"Points, of the first page."`
	Height   float64 `json:"height" doc:"Points, of the first page."`
	Picture  []byte  `json:"picture,omitempty" doc:"Of the first page, a JPEG."`
	IsLocked bool    `json:"isLocked,omitempty" doc:"It opens with a password alone."`
}

const (
	lookEdge    = 900 // pixels of the longer edge
	lookQuality = 85
	// mostLookPages is how many pages of a file are counted.
	mostLookPages = 100_000
)

// Look looks at a PDF in a folder.
func (s *Service) Look(ctx context.Context, folder, name string) (look Look, err error) {
	opened, file, info, err := s.openFile(folder, name)
	if err != nil {
		return look, err
	}
	defer opened.Close() //nolint:errcheck // only read from
	defer file.Close()   //nolint:errcheck // only read from
	if info.Size() > s.maxBytes {
		return look, problem.New(problem.Invalid, "%s is larger than %d MB, the most that one file may have", path.Base(name), s.maxBytes>>20)
	}
	copied, _, err := s.pool.MakeFile(func(out io.Writer) (int64, error) { return io.Copy(out, io.LimitReader(file, s.maxBytes)) })
	if err != nil {
		return look, err
	}
	defer func() { err = errors.Join(err, os.Remove(copied)) }()
	return s.lookAt(ctx, copied, path.Base(name))
}

func (s *Service) lookAt(ctx context.Context, file, name string) (look Look, err error) {
	sizes, err := s.engine.PageSizes(ctx, file, "", mostLookPages)
	switch {
	case errors.Is(err, render.ErrPassword):
		return Look{IsLocked: true}, nil
	case err == nil && len(sizes) == 0, errors.Is(err, render.ErrNotPDF), worker.GaveUp(err):
		return look, &problem.Error{Kind: problem.Invalid, Sentence: message.Of("%s cannot be read: it is damaged, or is no PDF.", name), Cause: err}
	case err != nil:
		return look, fmt.Errorf("count the pages of %s: %w", name, err)
	}
	look = Look{Pages: len(sizes), Width: sizes[0].Width, Height: sizes[0].Height}
	page, err := s.pictures.Upright(ctx, render.Page{Path: file, IsPDF: true, Number: 1, Size: sizes[0]}, lookEdge)
	if err != nil {
		return look, fmt.Errorf("draw the first page of %s: %w", name, err)
	}
	var picture bytes.Buffer
	if err := jpeg.Encode(&picture, page, &jpeg.Options{Quality: lookQuality}); err != nil {
		return look, fmt.Errorf("encode the first page of %s: %w", name, err)
	}
	look.Picture = picture.Bytes()
	return look, nil
}
