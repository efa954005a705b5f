package export

import (
	"cmp"
	"context"
	"image"
	"image/color"
	"image/draw"
	"time"

	"dorbin/core/check"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/pdf"
)

// MarkedPage is what is added to a page.
type MarkedPage struct {
	Page  packet.PageID `json:"page"`
	Label string        `json:"label" doc:"What readers show as its number; empty where it has none."`
	Marks []finish.Mark `json:"marks" nullable:"false"`
}

// Finished is what is added to a packet, page by page, and what does not fit.
type Finished struct {
	Revision int             `json:"revision"`
	Pages    []MarkedPage    `json:"pages" nullable:"false" doc:"Those to which something is added."`
	Misfits  []finish.Misfit `json:"misfits" nullable:"false"`
}

// Finished shows what is added to a packet's pages.
func (s *Service) Finished(ctx context.Context, packetID string) (Finished, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return Finished{}, err
	}
	pages := p.State.FinishPages()
	marks := p.State.Finish.Marks(pages, factsOf(p.State, time.Now()))
	labels := p.State.Finish.Labels(pages)
	onInk, err := s.inkOf(ctx, p.State.Pages())
	if err != nil {
		return Finished{}, err
	}
	finished := Finished{Revision: p.Revision, Pages: []MarkedPage{}, Misfits: finish.Misfits(pages, marks, onInk)}
	for i, page := range p.State.Pages() {
		if len(marks[i]) > 0 {
			marked := MarkedPage{Page: page.ID, Marks: marks[i]}
			if labels != nil {
				marked.Label = labels[i]
			}
			finished.Pages = append(finished.Pages, marked)
		}
	}
	return finished, nil
}

// inkOf tells where there is anything on pages, as far as they were analysed. Of a paper laid flat
// it is not known.
func (s *Service) inkOf(ctx context.Context, pages []packet.Page) (func(page int, box geometry.Box) bool, error) {
	bySource := map[packet.SourceID][]*check.PageAnalysis{}
	for _, page := range pages {
		if _, known := bySource[page.Source]; known || page.IsBlank() {
			continue
		}
		source, err := s.store.Source(ctx, string(page.Source))
		if err != nil {
			return nil, err
		}
		if bySource[page.Source], err = s.store.Analyses(ctx, source.ID, len(source.Pages)); err != nil {
			return nil, err
		}
	}
	return func(i int, box geometry.Box) bool {
		page := pages[i]
		known := bySource[page.Source]
		if page.SourcePage > len(known) || page.IsBlank() || !page.Paper.IsZero() {
			return false
		}
		analysis := known[page.SourcePage-1]
		if analysis == nil || analysis.InkGrid == nil {
			return false
		}
		framing := page.Framing()
		box = box.Mapped(framing.Transform().Inverse()).Intersect(framing.Kept())
		if box.X1 <= box.X0 || box.Y1 <= box.Y0 {
			return false // it lies on the sheet beside the page
		}
		return analysis.InkGrid.HasInk(box.Mapped(geometry.Scaling(1/framing.Flat.Width, 1/framing.Flat.Height)))
	}, nil
}

func factsOf(p packet.Packet, at time.Time) finish.Facts {
	return finish.Facts{Packet: p.Name, Date: at.Format("2 January 2006")}
}

// finish notes what is added to the pages of a request. They have what they have in the packet,
// also where they are not all of it.
func (s *Service) finish(ctx context.Context, packetID string, request *exportRequest) error {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return err
	}
	pages := p.State.FinishPages()
	request.Finish, request.Facts, request.Of = p.State.Finish, factsOf(p.State, request.At), len(pages)
	wanted := setOf(idsOf(packet.Packet{Parts: request.Parts}.Pages()))
	texts, labels := p.State.Finish.NumberTexts(pages), p.State.Finish.Labels(pages)
	if texts == nil {
		return nil
	}
	for i, page := range p.State.Pages() {
		if wanted[page.ID] {
			request.Texts = append(request.Texts, texts[i])
			request.Labels = append(request.Labels, labels[i])
		}
	}
	return nil
}

func idsOf(pages []packet.Page) []packet.PageID {
	ids := make([]packet.PageID, len(pages))
	for i, page := range pages {
		ids[i] = page.ID
	}
	return ids
}

// marks are what is added to the pages, by their places in the document.
func (r exportRequest) marks() [][]finish.Mark {
	var marks [][]finish.Mark
	for _, part := range r.Parts {
		for _, page := range part.Pages {
			i := len(marks)
			place := finish.Place{At: r.number(i) - 1, Of: r.Of}
			if i < len(r.Texts) {
				place.Number = r.Texts[i]
			}
			marks = append(marks, r.Finish.MarksOn(finish.Page{Size: page.Size(), Part: part.Title}, place, r.Facts))
		}
	}
	return marks
}

// properties of the document of a segment.
func (d *document) properties() pdf.Properties {
	properties := pdf.Properties{Title: d.title, Producer: "Dorbin", Created: d.request.At, Bookmarks: bookmarks(d.parts)}
	if len(d.request.Labels) >= d.to {
		properties.Labels = d.request.Labels[d.from:d.to]
	}
	if told := d.request.Finish.Properties; told.On {
		properties.Described = true
		properties.Author, properties.Subject, properties.Keywords = told.Author, told.Subject, told.Keywords
		if d.isWhole() {
			properties.Title = cmp.Or(told.Title, properties.Title)
		}
	}
	if o := d.request.Finish.Opening; o.On {
		properties.Opening = &pdf.Opening{Layout: o.Layout, Fit: o.Fit, Bookmarks: o.Bookmarks}
		if page := o.Page - 1; d.isWhole() && page < d.to {
			properties.Opening.Page = page
		}
	}
	return properties
}

// isWhole tells whether the document has all pages that are exported.
func (d *document) isWhole() bool { return d.from == 0 && d.to == len(d.pages) }

// withoutMarks whitens where marks are on a picture of a page of this size, so that what is
// beneath and beside them can be compared.
func withoutMarks(img image.Image, marks []finish.Mark, size geometry.Size) image.Image {
	if len(marks) == 0 {
		return img
	}
	bounds := img.Bounds()
	across, down := float64(bounds.Dx())/size.Width, float64(bounds.Dy())/size.Height
	cleared := image.NewRGBA(image.Rect(0, 0, bounds.Dx(), bounds.Dy()))
	draw.Draw(cleared, cleared.Rect, img, bounds.Min, draw.Src)
	for _, mark := range marks {
		box := mark.Box().Grown(2).Mapped(geometry.Scaling(across, down))
		area := image.Rect(int(box.X0), int(box.Y0), int(box.X1)+1, int(box.Y1)+1)
		draw.Draw(cleared, area, image.NewUniform(color.White), image.Point{}, draw.Src)
	}
	return cleared
}
