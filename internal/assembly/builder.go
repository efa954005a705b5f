package assembly

import (
	"bytes"
	"context"
	"encoding/gob"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"syscall"
	"time"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/pdf"
	"dorbin/core/text"
	"dorbin/internal/worker"
)

// Builder takes down what a document is made of. It is used by one goroutine, and closed in
// the end.
type Builder struct {
	pool    *worker.Pool
	plan    plan
	encoded *os.File
	length  int64
	shared  map[*byte]extent
	err     error
}

// New begins a document of so many pages.
func New(pool *worker.Pool, pages int) (*Builder, error) {
	file, err := pool.ScratchFile()
	if err != nil {
		return nil, err
	}
	return &Builder{pool: pool, plan: plan{Pages: pages, Encoded: file.Name()}, encoded: file, shared: map[*byte]extent{}}, nil
}

// Close deletes what was encoded.
func (b *Builder) Close() error {
	return errors.Join(b.encoded.Close(), os.Remove(b.encoded.Name()))
}

// KeepPictures has the files of pictures go in as they are, with what they tell about
// themselves.
func (b *Builder) KeepPictures() { b.plan.KeepPictures = true }

// Repack has pictures of PDFs be written in fewer bytes, with every pixel the same.
func (b *Builder) Repack() { b.plan.Repack = true }

// Protect has the document be protected by passwords.
func (b *Builder) Protect(p pdf.Protection) { b.plan.Protection = &p }

// SetMarks says what comes on the pages, by their positions.
func (b *Builder) SetMarks(marks [][]finish.Mark) error {
	var encoded bytes.Buffer
	if err := gob.NewEncoder(&encoded).Encode(finish.TableOf(marks)); err != nil {
		return fmt.Errorf("keep what is added to the pages: %w", err)
	}
	b.plan.Marks = b.keep(&encoded)
	return b.err
}

// SetText says which text lies unseen under the page at a position, as it is seen.
func (b *Builder) SetText(position int, page text.Page) error {
	if len(page.Lines) == 0 {
		return nil
	}
	encoded, err := json.Marshal(page)
	if err != nil {
		return fmt.Errorf("keep the text of page %d: %w", position+1, err)
	}
	if b.plan.Texts == nil {
		b.plan.Texts = make([]extent, b.plan.Pages)
	}
	b.plan.Texts[position] = b.keep(bytes.NewReader(encoded))
	return b.err
}

// AddOverlay has marks draw a page of a file, from 0: of a PDF or of an image file.
func (b *Builder) AddOverlay(picture finish.Picture, path string, page int, isPDF bool) {
	b.add(step{Overlay: &overlayStep{picture, path, page, isPDF}})
}

// AddBlank adds an empty page of a size in points.
func (b *Builder) AddBlank(position int, size geometry.Size) {
	b.add(step{Blank: &blankStep{position, size}})
}

// AddFile adds a page of an image file, from 0, as it is, at all the given positions.
func (b *Builder) AddFile(path string, page int, placements []pdf.Placement) {
	b.add(step{Image: &imageStep{path, page, placements}})
}

// AddPicture adds a page of an image that the program encoded, with the inks over it.
func (b *Builder) AddPicture(p pdf.Replacement, placement pdf.Placement) error {
	kept := b.keepPicture(p)
	b.add(step{Encoded: &encodedStep{kept, placement}})
	return b.err
}

// AddDocument adds pages of a PDF. Instead are the images that are written otherwise, by the
// numbers of their objects. What the document carries besides its pages is counted with the
// first of several steps of the same document.
func (b *Builder) AddDocument(path string, placements []pdf.Placement, instead map[int]pdf.Replacement, isFirst bool) error {
	document := documentStep{Path: path, Placements: placements, IsCounted: !isFirst}
	if len(instead) > 0 {
		document.Instead = map[int]picture{}
	}
	for object, replacement := range instead {
		document.Instead[object] = b.keepPicture(replacement)
	}
	b.add(step{Document: &document})
	return b.err
}

func (b *Builder) add(s step) { b.plan.Steps = append(b.plan.Steps, s) }

func (b *Builder) keepPicture(p pdf.Replacement) picture {
	kept := picture{Image: b.keepImage(p.Image)}
	for _, over := range p.Inks {
		kept.Inks = append(kept.Inks, b.keepInk(over))
	}
	return kept
}

func (b *Builder) keepInk(over pdf.Ink) ink {
	kept := ink{Mask: b.keepImage(over.Image), Red: over.Red, Green: over.Green, Blue: over.Blue}
	if over.Colours != nil {
		colours := b.keepImage(*over.Colours)
		kept.Colours = &colours
	}
	return kept
}

// keepImage keeps the bytes of an image, which has no alpha.
func (b *Builder) keepImage(img pdf.Image) encoded {
	kept := encoded{Image: img, Data: b.keep(img.Data)}
	if len(img.Shared) > 0 {
		known, ok := b.shared[&img.Shared[0]]
		if !ok {
			known = b.keep(bytes.NewReader(img.Shared))
			b.shared[&img.Shared[0]] = known
		}
		kept.Shared = known
	}
	kept.Image.Data, kept.Image.Shared = nil, nil
	return kept
}

func (b *Builder) keep(r io.Reader) extent {
	n, err := io.Copy(b.encoded, r)
	if err != nil && b.err == nil {
		b.err = fmt.Errorf("keep an encoded image: %w", err)
	}
	b.length += n
	return extent{b.length - n, n}
}

// StepError is why a document could not be written: the step at which it failed, from 0.
type StepError struct {
	Step int
	Err  error
}

func (e *StepError) Error() string { return fmt.Sprintf("step %d: %v", e.Step, e.Err) }
func (e *StepError) Unwrap() error { return e.Err }

// stepTime is how long a worker may take to open a file, or to write a page.
const stepTime = 3 * time.Minute

var writeTask = worker.Func[plan, Written]{Name: "assemble", Limit: stepTime, Known: []error{pdf.ErrTooDeep, syscall.ENOSPC}}

// Write has a worker write the document into a file that is there. It calls onPages, in between, with
// the number of pages that were written so far. Its error is a *StepError where a step failed.
func (b *Builder) Write(ctx context.Context, properties pdf.Properties, path string, onPages func(pages int)) (written Written, err error) {
	if b.err != nil {
		return written, b.err
	}
	b.plan.Properties, b.plan.Out = properties, path
	last := worker.Progress{}
	written, _, err = writeTask.DoTelling(ctx, b.pool, b.plan, func(p worker.Progress) {
		last = p
		onPages(p.Done)
	})
	if err != nil && ctx.Err() == nil {
		return written, &StepError{last.Step, err}
	}
	return written, err
}
