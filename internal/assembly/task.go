package assembly

import (
	"context"
	"encoding/gob"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"time"

	"dorbin/core/finish"
	"dorbin/core/pdf"
	"dorbin/core/text"
	"dorbin/internal/intake"
	"dorbin/internal/worker"
)

// HandleTasks has workers write documents.
func HandleTasks(tasks *worker.Tasks) {
	worker.Handle(tasks, writeTask, func(ctx context.Context, in plan) (written Written, _ []byte, err error) {
		err = worker.Into(in.Out, func(w io.Writer) (err error) {
			written, err = in.write(ctx, w)
			return err
		})
		return written, nil, err
	})
}

// writing is a document while a worker writes it.
type writing struct {
	*pdf.Assembler
	encoded  *os.File
	progress worker.Progress
	told     time.Time
	left     pdf.Tally
}

func (in plan) write(ctx context.Context, out io.Writer) (written Written, err error) {
	file, err := os.Open(in.Encoded)
	if err != nil {
		return written, fmt.Errorf("open the encoded images: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	w := writing{Assembler: pdf.NewAssembler(out, in.Pages), encoded: file, left: pdf.Tally{}}
	w.KeepPictures, w.Repack = in.KeepPictures, in.Repack
	w.OnRepacked = func() error { return w.wrote(ctx, 0) }
	if in.Protection != nil {
		if err := w.Protect(*in.Protection); err != nil {
			return written, err
		}
	}
	marks, err := readMarks(file, in.Marks)
	if err != nil {
		return written, fmt.Errorf("read what is added to the pages: %w", err)
	}
	w.SetMarks(marks)
	if len(in.Texts) > 0 {
		w.SetText(func(position int) (text.Page, error) { return readText(file, in.Texts[position]) })
	}
	for i, step := range in.Steps {
		w.progress.Step = i
		if err := worker.Tell(ctx, w.progress); err != nil {
			return written, err
		}
		if err := w.add(ctx, step); err != nil {
			return written, err
		}
	}
	if err := w.Finish(in.Properties); err != nil {
		return written, err
	}
	w.left.Add(w.LeftOut())
	return Written{w.left, w.Saved()}, nil
}

// readMarks reads what is added to the pages from the file of the plan.
func readMarks(file *os.File, at extent) ([][]finish.Mark, error) {
	if at.Length == 0 {
		return nil, nil
	}
	var table finish.Table
	err := gob.NewDecoder(io.NewSectionReader(file, at.Offset, at.Length)).Decode(&table)
	return table.Marks(), err
}

// readText reads a text from the file of the plan.
func readText(file *os.File, at extent) (page text.Page, err error) {
	if at.Length == 0 {
		return page, nil
	}
	err = json.NewDecoder(io.NewSectionReader(file, at.Offset, at.Length)).Decode(&page)
	return page, err
}

// toldEvery keeps telling from taking longer than the work.
const toldEvery = 50 * time.Millisecond

func (w *writing) wrote(ctx context.Context, pages int) error {
	w.progress.Done += pages
	if time.Since(w.told) < toldEvery {
		return nil
	}
	w.told = time.Now()
	return worker.Tell(ctx, w.progress)
}

func (w *writing) add(ctx context.Context, s step) error {
	switch {
	case s.Blank != nil:
		if err := w.AddBlank(s.Blank.Position, s.Blank.Size); err != nil {
			return err
		}
		return w.wrote(ctx, 1)
	case s.Image != nil:
		return w.addFile(ctx, *s.Image)
	case s.Encoded != nil:
		return w.addEncoded(ctx, *s.Encoded)
	case s.Document != nil:
		return w.addDocument(ctx, *s.Document)
	case s.Overlay != nil:
		return w.addOverlay(*s.Overlay)
	}
	return fmt.Errorf("a step that adds nothing")
}

func (w *writing) addFile(ctx context.Context, s imageStep) error {
	err := withImage(s.Path, s.Page, w.Assembler.KeepPictures, func(img pdf.Image) error { return w.AddImage(img, s.Placements) })
	if err != nil {
		return err
	}
	return w.wrote(ctx, len(s.Placements))
}

// withImage has a page of an image file, from 0, used while the file is open.
func withImage(path string, page int, asItIs bool, use func(pdf.Image) error) error {
	return intake.WithPage(path, page+1, func(picture *intake.Picture) error {
		embedded, err := picture.Embed(asItIs)
		if err != nil {
			return err
		}
		return use(embedded)
	})
}

func (w *writing) addOverlay(s overlayStep) error {
	if !s.IsPDF {
		return withImage(s.Path, s.Page, false, func(img pdf.Image) error { return w.AddOverlayImage(s.Picture, img) })
	}
	return withDocument(s.Path, func(doc *pdf.Document) error { return w.AddOverlay(s.Picture, doc, s.Page) })
}

// withDocument has a PDF used while its file is open.
func withDocument(path string, use func(*pdf.Document) error) error {
	file, err := os.Open(path)
	if err != nil {
		return fmt.Errorf("open PDF: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	doc, err := pdf.Open(file)
	if err != nil {
		return err
	}
	return use(doc)
}

func (w *writing) addEncoded(ctx context.Context, s encodedStep) error {
	replacement, err := w.replacement(s.picture)
	if err != nil {
		return err
	}
	if len(replacement.Inks) > 0 {
		err = w.AddLayers(replacement.Image, replacement.Inks, s.Placement)
	} else {
		err = w.AddImage(replacement.Image, []pdf.Placement{s.Placement})
	}
	if err != nil {
		return err
	}
	return w.wrote(ctx, 1)
}

func (w *writing) addDocument(ctx context.Context, s documentStep) error {
	return withDocument(s.Path, func(doc *pdf.Document) error {
		doc.Instead = func(object int) (*pdf.Replacement, error) {
			instead, ok := s.Instead[object]
			if !ok {
				return nil, nil //nolint:nilnil // it stays as it is
			}
			return w.replacement(instead)
		}
		if !s.IsCounted {
			w.left.Add(doc.LeftOut())
		}
		return w.AddDocument(doc, s.Placements, func() error { return w.wrote(ctx, 1) })
	})
}

// replacement is a picture with its bytes.
func (w *writing) replacement(p picture) (*pdf.Replacement, error) {
	img, err := w.image(p.Image)
	if err != nil {
		return nil, err
	}
	replacement := &pdf.Replacement{Image: img}
	for _, over := range p.Inks {
		ink, err := w.ink(over)
		if err != nil {
			return nil, err
		}
		replacement.Inks = append(replacement.Inks, ink)
	}
	return replacement, nil
}

// ink is an ink with the bytes of its images.
func (w *writing) ink(over ink) (pdf.Ink, error) {
	mask, err := w.image(over.Mask)
	if err != nil {
		return pdf.Ink{}, err
	}
	written := pdf.Ink{Image: mask, Red: over.Red, Green: over.Green, Blue: over.Blue}
	if over.Colours == nil {
		return written, nil
	}
	colours, err := w.image(*over.Colours)
	written.Colours = &colours
	return written, err
}

func (w *writing) image(e encoded) (pdf.Image, error) {
	img := e.Image
	img.Data, img.Length = io.NewSectionReader(w.encoded, e.Data.Offset, e.Data.Length), e.Data.Length
	if e.Shared.Length > 0 {
		img.Shared = make([]byte, e.Shared.Length)
		if _, err := w.encoded.ReadAt(img.Shared, e.Shared.Offset); err != nil {
			return img, fmt.Errorf("read what encoded images share: %w", err)
		}
	}
	return img, nil
}
