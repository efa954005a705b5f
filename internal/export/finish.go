package export

import (
	"cmp"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"slices"
	"time"

	"dorbin/core/check"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/core/pdf"
	"dorbin/core/raster"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// MarkedPage is what is added to a page.
type MarkedPage struct {
	Page  packet.PageID `json:"page"`
	Label string        `json:"label" doc:"What readers show as its number; empty where it has none."`
	Marks []int         `json:"marks" nullable:"false" doc:"What is added to it, by places among the marks."`
}

// Finished is what is added to a packet, page by page, and what does not fit.
type Finished struct {
	Revision int             `json:"revision"`
	Marks    []finish.Mark   `json:"marks" nullable:"false" doc:"All that differ: most are the same on many pages."`
	Pages    []MarkedPage    `json:"pages" nullable:"false" doc:"Those to which something is added."`
	Misfits  []finish.Misfit `json:"misfits" nullable:"false"`
	// FreePlace is where all page numbers have room, if some have none.
	FreePlace *finish.Numbers `json:"freePlace,omitempty"`
	Printed   int             `json:"printed" doc:"How many pages have a page number in their text."`
}

// Finished shows what is added to a packet's pages.
func (s *Service) Finished(ctx context.Context, packetID string) (Finished, error) {
	p, all, err := s.store.Load(ctx, packetID)
	if err != nil {
		return Finished{}, err
	}
	analysis, err := s.packets.Analysis(ctx, all)
	if err != nil {
		return Finished{}, err
	}
	bytes, printed, placed := sources.BytesOf(all), isPrinted(analysis), p.State.Pages()
	f, pages := p.State.Finish, p.State.FinishPages(packet.PageFacts{Printed: printed, Headings: headingsOf(bytes)})
	marks := f.Marks(pages, factsOf(p.State, time.Now(), bytes))
	seen := seenOf(placed, analysis, bytes)
	finished := Finished{Revision: p.Revision, Misfits: f.Misfits(pages, marks, seen)}
	finished.list(placed, marks, f.Labels(pages))
	if slices.ContainsFunc(finished.Misfits, func(m finish.Misfit) bool { return m.Kind == finish.NumberMark }) {
		finished.FreePlace = f.FreePlace(pages, marks, seen)
	}
	for _, page := range placed {
		if printed(page) {
			finished.Printed++
		}
	}
	return finished, nil
}

// list notes what is added to each of the pages. Labels are nil where there are none.
func (f *Finished) list(pages []packet.Page, marks [][]finish.Mark, labels []string) {
	table := finish.TableOf(marks)
	f.Marks, f.Pages = append([]finish.Mark{}, table.Different...), []MarkedPage{}
	for i, page := range pages {
		if len(marks[i]) == 0 {
			continue
		}
		marked := MarkedPage{Page: page.ID, Marks: table.Pages[i]}
		if labels != nil {
			marked.Label = labels[i]
		}
		f.Pages = append(f.Pages, marked)
	}
}

// analysis gives what is known of a page's picture; nil where it was not analysed.
type analysis = func(packet.Page) *check.PageAnalysis

// isPrinted tells of pages whose text says a page number.
func isPrinted(of analysis) func(packet.Page) bool {
	return func(page packet.Page) bool {
		known := of(page)
		return known != nil && known.Printed != check.Printed{}
	}
}

// seenOf tells what is on pages, as far as they were analysed. Of a paper laid flat it is not known
// where there is anything.
func seenOf(pages []packet.Page, of analysis, bytes sources.Bytes) finish.Seen {
	return finish.Seen{
		OnInk: func(i int, box geometry.Box) bool {
			known := of(pages[i])
			return known != nil && hasInk(pages[i], known, box)
		},
		IsPicture: func(i int) bool { return bytes.Page(pages[i]).Pixels[0] > 0 },
	}
}

// hasInk tells whether there is anything in a box on a page as it stands, in points.
func hasInk(page packet.Page, analysis *check.PageAnalysis, box geometry.Box) bool {
	if !page.Paper.IsZero() || analysis.InkGrid == nil {
		return false
	}
	framing := page.Framing()
	box = box.Mapped(framing.Transform().Inverse()).Intersect(framing.Kept())
	if box.X1 <= box.X0 || box.Y1 <= box.Y0 {
		return false // it lies on the sheet beside the page
	}
	return analysis.InkGrid.HasInk(box.Mapped(geometry.Scaling(1/framing.Flat.Width, 1/framing.Flat.Height)))
}

func factsOf(p packet.Packet, at time.Time, bytes sources.Bytes) finish.Facts {
	facts := finish.Facts{Packet: p.Name, Date: at.Format("2 January 2006"), Receiver: p.ReceiverName()}
	for _, picture := range p.Finish.Pictures() {
		page := packet.Page{Source: packet.SourceID(picture.Source), SourcePage: picture.Page}
		if slices.Contains(p.Removed, page.Source) {
			continue
		}
		facts.AddPicture(picture, bytes.Page(page).Size)
	}
	return facts
}

// whole is the packet that is exported, or of which pages are.
func (r exportRequest) whole() packet.Packet {
	parts := r.Whole
	if len(parts) == 0 {
		parts = r.Parts
	}
	return packet.Packet{Name: r.Title, Parts: parts, Finish: r.Finish}
}

// added are the marks and the labels of the pages, by their places in the document. They have
// what they have in the packet, also where they are not all of it. Links lead to places in the
// document, from 1.
func (r exportRequest) added() (marks [][]finish.Mark, labels []string) {
	printed := setOf(r.Printed)
	pages := r.whole().FinishPages(packet.PageFacts{
		Printed:  func(page packet.Page) bool { return printed[page.ID] },
		Headings: func(page packet.Page) []string { return r.Headings[page.ID] },
	})
	all, numbers := r.Finish.Marks(pages, r.Facts), r.Finish.Labels(pages)
	count := packet.Packet{Parts: r.Parts}.PageCount()
	places := make(map[int]int, count)
	for i := range count {
		places[r.number(i)] = i + 1
	}
	for i := range count {
		marks = append(marks, led(all[r.number(i)-1], func(page int) int { return places[page] }))
		if numbers != nil {
			labels = append(labels, numbers[r.number(i)-1])
		}
	}
	return marks, labels
}

// led is marks whose links lead elsewhere; to 0 is nowhere.
func led(marks []finish.Mark, to func(page int) int) []finish.Mark {
	if !slices.ContainsFunc(marks, func(m finish.Mark) bool { return m.To > 0 }) {
		return marks
	}
	marks = slices.Clone(marks)
	for i := range marks {
		if marks[i].To > 0 {
			marks[i].To = to(marks[i].To)
		}
	}
	return marks
}

// marksOf are the marks of a run of pages, whose links lead to places in it.
func (m *making) marksOf(run segment) [][]finish.Mark {
	marks := make([][]finish.Mark, 0, run.to-run.from)
	for _, page := range m.marks[run.from:run.to] {
		marks = append(marks, led(page, func(place int) int {
			if place <= run.from || place > run.to {
				return 0
			}
			return place - run.from
		}))
	}
	return marks
}

// properties of the document of a segment.
func (d *document) properties() pdf.Properties {
	wanted := d.request.Finish.OrDefaults().Bookmarks
	properties := pdf.Properties{Title: d.title, Producer: "Dorbin", Created: d.request.At, Bookmarks: bookmarks(wanted, d.parts, d.request.TextHeadings)}
	if d.textLayer.Pages > 0 {
		properties.Language, properties.RightToLeft = d.texts.Language, isRightToLeft(d.texts.Language)
	}
	if len(d.labels) >= d.to {
		properties.Labels = d.labels[d.from:d.to]
	}
	if told := d.request.Finish.Properties; told.On {
		properties.Described = true
		properties.Author, properties.Subject, properties.Keywords = told.Author, told.Subject, told.Keywords
		properties.Own = ownProperties(told)
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

// ownProperties are those that a document has besides the usual ones.
func ownProperties(p finish.Properties) (own []pdf.Property) {
	for _, property := range []pdf.Property{
		{Name: "Reference", Value: p.Reference}, {Name: "CaseNumber", Value: p.CaseNumber}, {Name: "SenderReference", Value: p.SenderReference},
	} {
		if property.Value != "" {
			own = append(own, property)
		}
	}
	fields, _ := p.OwnFields() // what was accepted has no error
	for _, field := range fields {
		own = append(own, pdf.Property(field))
	}
	return own
}

// isWhole tells whether the document has all pages that are exported.
func (d *document) isWhole() bool { return d.from == 0 && d.to == len(d.pages) }

// addOverlays has marks draw the pictures that they name.
func (s *Service) addOverlays(ctx context.Context, d *document, marks [][]finish.Mark) error {
	added := map[finish.Picture]bool{}
	for _, mark := range slices.Concat(marks...) {
		picture := mark.Picture
		if picture.IsZero() || added[picture] {
			continue
		}
		added[picture] = true
		source, err := s.store.Source(ctx, picture.Source)
		if err != nil {
			return fmt.Errorf("find what is drawn on pages: %w", err)
		}
		d.AddOverlay(picture, s.store.FilePath(source.Working), picture.Page-1, sources.IsPDF(source))
		d.took(owner{source: source, page: picture.Page})
	}
	return nil
}

// withoutMarks whitens where marks are on a picture of a page of this size, so that what is
// beneath and beside them can be compared.
func withoutMarks(img image.Image, marks []finish.Mark, size geometry.Size) image.Image {
	if len(marks) == 0 {
		return img
	}
	bounds := img.Bounds()
	across, down := size.Width/float64(bounds.Dx()), size.Height/float64(bounds.Dy())
	cleared := image.NewRGBA(image.Rect(0, 0, bounds.Dx(), bounds.Dy()))
	draw.Draw(cleared, cleared.Rect, img, bounds.Min, draw.Src)
	for _, mark := range marks {
		box := mark.Box().Grown(2).Mapped(geometry.Scaling(1/across, 1/down))
		area := image.Rect(int(box.X0), int(box.Y0), int(box.X1)+1, int(box.Y1)+1).Intersect(cleared.Rect)
		for y := area.Min.Y; y < area.Max.Y; y++ {
			for x := area.Min.X; x < area.Max.X; x++ {
				if mark.Covers(geometry.Point{X: (float64(x) + 0.5) * across, Y: (float64(y) + 0.5) * down}, 3) {
					cleared.SetRGBA(x, y, color.RGBA{0xFF, 0xFF, 0xFF, 0xFF})
				}
			}
		}
	}
	return cleared
}

// headingsOf gives the titles of its document's bookmarks that open a page.
func headingsOf(bytes sources.Bytes) func(packet.Page) []string {
	return func(page packet.Page) []string { return bytes.Page(page).Headings }
}

// headings are those of the pages of a packet, if its contents list them.
func headings(p packet.Packet, bytes sources.Bytes) map[packet.PageID][]string {
	if c := p.Finish.Contents; !c.On || !c.Nested {
		return nil
	}
	all := map[packet.PageID][]string{}
	for _, page := range p.Pages() {
		if titles := headingsOf(bytes)(page); len(titles) > 0 {
			all[page.ID] = titles
		}
	}
	return all
}

// printed are the pages of a packet that have a page number in their text, if these are to get none.
func (s *Service) printed(ctx context.Context, p packet.Packet, all []store.Source) (ids []packet.PageID, err error) {
	if n := p.Finish.Numbers; !n.On || !n.Printed {
		return nil, nil
	}
	analysis, err := s.packets.Analysis(ctx, all)
	if err != nil {
		return nil, err
	}
	has := isPrinted(analysis)
	for _, page := range p.Pages() {
		if has(page) {
			ids = append(ids, page.ID)
		}
	}
	return ids, nil
}

// withPictures draws the letterheads of a page on its picture, as paper on paper: what is dark on
// either is dark. A page that is a picture hides what is behind it.
func (s *Service) withPictures(ctx context.Context, img image.Image, marks []finish.Mark, size geometry.Size, isPicture bool) (image.Image, error) {
	for _, mark := range marks {
		if mark.Kind != finish.LetterheadMark || mark.Under && isPicture {
			continue
		}
		source, err := s.store.Source(ctx, mark.Picture.Source)
		if err != nil {
			return nil, err
		}
		across := float64(img.Bounds().Dx()) / size.Width
		picture, err := s.pictures.Image(ctx, s.sources.Page(source, mark.Picture.Page, packet.Adjustments{}, 0), max(1, int(mark.Width*across)))
		if err != nil {
			return nil, err
		}
		box := mark.Box().Mapped(geometry.Scaling(across, across))
		img = raster.Multiplied(img, picture, image.Rect(int(box.X0+0.5), int(box.Y0+0.5), int(box.X1+0.5), int(box.Y1+0.5)))
	}
	return img, nil
}
