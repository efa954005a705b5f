package export

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"math"
	"os"
	"slices"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/internal/store"
)

// Receipt is what an independent reader found in the finished file.
type Receipt struct {
	Pages  int         `json:"pages"`
	Bytes  int64       `json:"bytes"`
	SHA256 string      `json:"sha256"`
	Sizes  []PageSizes `json:"sizes" nullable:"false"`
	// Differences tell where the file is not what was asked for.
	Differences []message.Text `json:"differences" nullable:"false"`
	Compared    *int           `json:"compared,omitempty" doc:"Pages, from the first, that were drawn from the file and compared with the bench; missing of what was made before that was done."`
	Limit       int64          `json:"limit,omitempty" doc:"Bytes that it was to fit under."`
	Hidden      []HiddenPage   `json:"hidden,omitempty" doc:"Pages of which something that was cropped away is still in the file, though it is not shown."`
	Became      []RecodedPage  `json:"became,omitempty" doc:"Pages that were written in fewer bytes, in their order."`
	LeftOut     []LeftOut      `json:"leftOut,omitempty" doc:"What the sources carry besides what is seen of their pages, and this file does not."`
	Files       []MadeFile     `json:"files,omitempty" doc:"What is in the zip, when several files were made."`
	Text        *TextLayer     `json:"text,omitempty" doc:"The text that was recognised and lies unseen under pages; missing where there is none."`
	Protection  *Protected     `json:"protection,omitempty" doc:"How it is protected."`
	Asked       *Asked         `json:"asked,omitempty" doc:"How it stands against what its receiver asks for; missing until that was looked at, and where there is none."`
}

// Protected is how a document is protected: it was opened with its password, and not without.
type Protected struct {
	Locked bool `json:"locked" doc:"It opens with a password only."`
	Print  bool `json:"print"`
	Copy   bool `json:"copy"`
	Fill   bool `json:"fill"`
}

// PageSizes counts the pages of one size.
type PageSizes struct {
	Size  message.Text `json:"size"`
	Pages int          `json:"pages"`
}

// LeftOut counts things of one kind that did not go into the file.
type LeftOut struct {
	What  pdf.LeftOut `json:"what" enum:"scripts,actions,media,attachments,layers,hiddenNotes,metadata" doc:"Actions start programs, open files, send or fetch data. Layers are those that are switched off."`
	Count int         `json:"count"`
}

// leftOutKinds are the kinds in the order in which they are told.
var leftOutKinds = []pdf.LeftOut{pdf.Scripts, pdf.Actions, pdf.Attachments, pdf.Media, pdf.HiddenLayers, pdf.HiddenNotes, pdf.Metadata}

func leftOutOf(tally pdf.Tally) (all []LeftOut) {
	for _, kind := range leftOutKinds {
		if tally[kind] > 0 {
			all = append(all, LeftOut{kind, tally[kind]})
		}
	}
	return all
}

// HiddenPage is a page that hides something.
type HiddenPage struct {
	Number int           `json:"number" doc:"From 1."`
	Page   packet.PageID `json:"page"`
}

// receipt opens what was made with PDFium, which had no part in writing it.
func (s *Service) receipt(ctx context.Context, file store.File, m *making) (Receipt, error) {
	r := Receipt{
		Pages: len(m.pages), Bytes: file.Bytes, SHA256: file.SHA256, Sizes: []PageSizes{}, Differences: []message.Text{},
		Became: m.became, LeftOut: leftOutOf(m.leftOut), Files: m.files, Limit: m.request.Limit,
		Compared: new(int),
	}
	if m.textLayer.Pages > 0 {
		layer := m.textLayer
		r.Text = &layer
	}
	if p := m.request.Finish.Protection; m.request.isProtected() {
		r.Protection = &Protected{p.Locked, p.Print, p.Copy, p.Fill}
	}
	switch {
	case m.request.Make.isPictures():
		r.Differences = append(r.Differences, m.differences...)
		*r.Compared = len(m.pages)
		return r, nil
	case len(m.files) == 0:
		return r, s.checkDocument(ctx, &r, s.store.FilePath(file.SHA256), m, segment{to: len(m.pages)}, message.Text{})
	}
	return r, s.checkPack(ctx, &r, file, m)
}

// checkPack opens every document in a zip.
func (s *Service) checkPack(ctx context.Context, r *Receipt, file store.File, m *making) error {
	return s.eachUnpacked(s.store.FilePath(file.SHA256), m.files, func(path string, from int, made MadeFile) error {
		return s.checkDocument(ctx, r, path, m, segment{from: from, to: from + made.Pages}, message.Of("%s:", made.Name))
	})
}

// eachUnpacked has the files of a zip, one after another, on disk while they are used. Use
// is told the place of a file's first page among all pages, from 0.
func (s *Service) eachUnpacked(path string, files []MadeFile, use func(path string, from int, made MadeFile) error) error {
	packed, err := zip.OpenReader(path)
	if err != nil {
		return fmt.Errorf("open the zip: %w", err)
	}
	defer packed.Close() //nolint:errcheck // only read from
	from := 0
	for i, entry := range packed.File {
		if err := s.unpacked(entry, func(path string) error { return use(path, from, files[i]) }); err != nil {
			return fmt.Errorf("%s in the zip: %w", entry.Name, err)
		}
		from += files[i].Pages
	}
	return nil
}

// unpacked has a file of a zip on disk while it is used.
func (s *Service) unpacked(entry *zip.File, use func(path string) error) (err error) {
	in, err := entry.Open()
	if err != nil {
		return err
	}
	defer in.Close() //nolint:errcheck // only read from
	file, err := s.pool.ScratchFile()
	if err != nil {
		return err
	}
	defer os.Remove(file.Name()) //nolint:errcheck // a temporary file
	_, err = io.Copy(file, in)
	if err := errors.Join(err, file.Close()); err != nil {
		return err
	}
	return use(file.Name())
}

// checkDocument adds what is found in a document to the receipt; where says which file
// it is.
func (s *Service) checkDocument(ctx context.Context, r *Receipt, path string, m *making, run segment, where message.Text) error {
	wanted := m.pages[run.from:run.to]
	sizes, err := s.engine.PageSizes(ctx, path, m.passwordToOpen(), len(wanted)+1)
	if err != nil {
		return err
	}
	r.count(sizes)
	differ := func(sentence message.Text) {
		if !where.IsEmpty() {
			sentence = message.Sentences(where, sentence)
		}
		r.Differences = append(r.Differences, sentence)
	}
	if m.request.isLocked() {
		difference, err := s.checkLock(ctx, path)
		if err != nil {
			return err
		}
		if !difference.IsEmpty() {
			differ(difference)
		}
	}
	readable, closeIt, err := s.opened(ctx, m.request, m.passwords, path)
	if err != nil {
		return err
	}
	defer closeIt()
	if len(sizes) != len(wanted) {
		differ(message.Of("The file has %d pages where %d were asked for.", len(sizes), len(wanted)))
	}
	for i := range min(len(sizes), len(wanted)) {
		page := wanted[i]
		if want := page.Size(); !nearly(want, sizes[i]) {
			differ(message.Of("Page %d is %s where %s was expected.", i+1, sizes[i], want))
		}
		framing := page.Framing()
		if framing.Cut().Crop.IsZero() || page.IsBlank() {
			continue
		}
		hides, err := s.engine.HidesContent(ctx, readable, i+1, seenShare(framing, m.marks[run.from+i], m.hiddenMargins[page.ID]))
		if err != nil {
			return err
		}
		if hides {
			r.Hidden = append(r.Hidden, HiddenPage{Number: page.position + 1, Page: page.ID})
		}
	}
	return nil
}

// seenShare is what is seen of a page as it stands, with so many points around that show nothing and with what is
// added to it, in fractions of the page.
func seenShare(f geometry.Framing, marks []finish.Mark, margin float64) geometry.Box {
	seen, size := f.Seen().Grown(margin), f.Size()
	f.Straighten = 0 // the crop is one of the straightened page
	share := geometry.Scaling(1/size.Width, 1/size.Height)
	seen = seen.Mapped(f.Transform().Then(share))
	for _, mark := range marks {
		seen = seen.Union(mark.Box().Mapped(share))
	}
	return seen
}

func nearly(a, b geometry.Size) bool {
	const tolerance = 1.0 // points
	return math.Abs(a.Width-b.Width) <= tolerance && math.Abs(a.Height-b.Height) <= tolerance
}

// count counts pages of so many sizes, the most frequent first.
func (r *Receipt) count(sizes []geometry.Size) {
	for _, size := range sizes {
		name := message.Plain(size.String())
		if paper := geometry.PaperName(size); paper != "" {
			name = message.Plain(paper)
			if size.Width > size.Height {
				name = message.Of("%s landscape", paper)
			}
		}
		i := slices.IndexFunc(r.Sizes, func(c PageSizes) bool { return c.Size.English == name.English })
		if i < 0 {
			r.Sizes = append(r.Sizes, PageSizes{name, 1})
		} else {
			r.Sizes[i].Pages++
		}
	}
	slices.SortStableFunc(r.Sizes, func(a, b PageSizes) int { return b.Pages - a.Pages })
}
