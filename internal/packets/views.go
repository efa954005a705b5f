package packets

import (
	"slices"
	"time"

	"dorbin/core/annotation"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/core/requirements"
	"dorbin/internal/checking"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Packet is a packet as it is shown.
type Packet struct {
	ID       string                 `json:"id"`
	Name     string                 `json:"name"`
	Revision int                    `json:"revision" doc:"Grows with every change. Commands name the revision they were made for."`
	Undo     message.Text           `json:"undo,omitzero" doc:"What undoing would take back; missing when there is nothing."`
	Redo     message.Text           `json:"redo,omitzero" doc:"What redoing would do again; missing when there is nothing."`
	Expected int                    `json:"expected,omitempty" doc:"How many pages there should be; 0 is unknown."`
	Finish   finish.Finish          `json:"finish" doc:"What is added to the document; what is proposed, where nothing was set."`
	Receiver *requirements.Receiver `json:"receiver,omitempty" doc:"Whom it is for, with the rules that it is held against."`
	Parts    []Part                 `json:"parts" nullable:"false"`
	SetAside []Page                 `json:"setAside" nullable:"false"`
	Sources  []Source               `json:"sources" nullable:"false"`
	FileName string                 `json:"fileName" doc:"The name proposed for the exported file, which may have fields."`
}

// Part is a named run of pages.
type Part struct {
	ID    packet.PartID `json:"id"`
	Title string        `json:"title"`
	Paper string        `json:"paper,omitempty" doc:"Which of the papers that the receiver asks for it is, by its title."`
	Pages []Page        `json:"pages" nullable:"false"`
}

// Page is a page as it now stands.
type Page struct {
	ID         packet.PageID   `json:"id"`
	Number     int             `json:"number" doc:"Its place in the packet, from 1; 0 for a page set aside."`
	Source     packet.SourceID `json:"source"`
	SourcePage int             `json:"sourcePage"`
	Width      float64         `json:"width" doc:"Points, as it now stands."`
	Height     float64         `json:"height" doc:"Points, as it now stands."`
	Turn       int             `json:"turn" enum:"0,90,180,270" doc:"Degrees clockwise."`
	Bytes      int64           `json:"bytes" doc:"Bytes of the page; 0 while it is not known."`
	DPI        int             `json:"dpi,omitempty" doc:"Of an image page: dots per inch across."`
	From       string          `json:"from,omitempty" doc:"Of a page set aside: the title of the part it was in."`
	IsPicture  bool            `json:"isPicture" doc:"A scan or a photograph: outline and tone cost no text."`
	IsPhoto    bool            `json:"isPhotograph" doc:"It may have been taken by a camera."`
	Note       string          `json:"note,omitempty"`
	Made       finish.Made     `json:"made,omitempty" enum:"cover,contents,sheet" doc:"What the program makes the page as."`
	Reviewed   string          `json:"reviewed" enum:"no,yes,changed" doc:"Whether it was checked as it now stands, or before it was changed."`
	Adjustments
}

// Adjustments is how a page's content is shown, apart from its turn. It is carried out
// in this order: outline, straighten, crop, fit, mirror, turn; the others are
// independent.
type Adjustments struct {
	Paper       *geometry.PaperQuad   `json:"outline,omitempty" doc:"Of the paper in the source page, which is laid flat."`
	Straighten  float64               `json:"straighten" doc:"Degrees clockwise, before mirror and turn."`
	Crop        *geometry.Box         `json:"crop,omitempty" doc:"Of the flat page, straightened, before mirror and turn, in points."`
	Sheet       *geometry.SheetLayout `json:"fit,omitempty" doc:"The sheet that what is kept is laid on, before mirror and turn."`
	Mirror      bool                  `json:"mirror" doc:"Left is right, before the turn."`
	Clean       *raster.Cleaning      `json:"clean,omitempty" doc:"What is wiped off."`
	Patches     []packet.Patch        `json:"patches,omitempty" doc:"What is painted over with paper, on the flat page."`
	Tone        raster.Tone           `json:"tone"`
	Annotations annotation.Policy     `json:"annotations" doc:"What becomes of form fields and comments."`
	Picture     bool                  `json:"picture,omitempty" doc:"A picture is made of it, of which nothing can be copied."`
}

// Source is something that came in.
type Source struct {
	ID        packet.SourceID `json:"id"`
	Ordinal   int             `json:"ordinal" doc:"Its place in the order of arrival, from 1."`
	Name      string          `json:"name"`
	Kind      string          `json:"kind" enum:"pdf,jpeg,png,tiff,heic,webp,bmp,gif,office"`
	State     string          `json:"state" enum:"ready,locked"`
	Bytes     int64           `json:"bytes"`
	PageCount int             `json:"pageCount"`
	Placed    int             `json:"placed" doc:"How many of its pages are in parts."`
	Measured  bool            `json:"measured"`
	Paper     []float64       `json:"paper,omitempty" doc:"Width and height in points of its first page."`
	Damage    message.Text    `json:"damage,omitzero" doc:"What is missing of it, in a sentence."`
}

// PacketCard is a packet in the list of packets.
type PacketCard struct {
	ID        string    `json:"id"`
	Name      string    `json:"name"`
	Revision  int       `json:"revision"`
	PageCount int       `json:"pageCount"`
	PartCount int       `json:"partCount"`
	SetAside  int       `json:"setAside"`
	Bytes     int64     `json:"bytes"`
	FirstPage *Page     `json:"firstPage,omitempty"`
	Changed   time.Time `json:"changed"`
	KeptUntil string    `json:"keptUntil,omitempty" doc:"The last day that it is kept, as 2026-03-31; missing where it is kept for good."`
}

// viewer shows packets with what is known besides their state.
type viewer struct {
	sources  []store.Source
	byID     map[string]store.Source
	bytes    sources.Bytes
	reviewed map[packet.PageID]string // the fingerprint that a page had when it was reviewed
}

func newViewer(all []store.Source, reviewed map[packet.PageID]string) viewer {
	byID := make(map[string]store.Source, len(all))
	for _, source := range all {
		byID[source.ID] = source
	}
	return viewer{all, byID, sources.BytesOf(all), reviewed}
}

func (v viewer) packet(p store.Packet) Packet {
	view := Packet{
		ID: p.ID, Name: p.State.Name, Revision: p.Revision,
		Undo: p.Undo, Redo: p.Redo, Expected: p.State.Expected, Finish: p.State.Finish.OrDefaults(),
		Parts: make([]Part, len(p.State.Parts)), SetAside: make([]Page, len(p.State.SetAside)),
		Sources:  make([]Source, 0, len(v.sources)),
		Receiver: p.State.Receiver, FileName: p.State.ProposeFileName(".pdf"),
	}
	number := 0
	for i, part := range p.State.Parts {
		view.Parts[i] = Part{ID: part.ID, Title: part.Title, Paper: part.Paper, Pages: make([]Page, len(part.Pages))}
		for j, page := range part.Pages {
			number++
			view.Parts[i].Pages[j] = v.page(page, number)
		}
	}
	for i, aside := range p.State.SetAside {
		view.SetAside[i] = v.aside(aside)
	}
	placed := p.State.Placed()
	for _, source := range v.sources {
		if id := packet.SourceID(source.ID); !slices.Contains(p.State.Removed, id) {
			view.Sources = append(view.Sources, viewSource(source, placed[id]))
		}
	}
	return view
}

func (v viewer) page(p packet.Page, number int) Page {
	size := p.Size()
	return Page{
		ID: p.ID, Number: number, Source: p.Source, SourcePage: p.SourcePage,
		Width: size.Width, Height: size.Height, Turn: p.Turn, Bytes: v.bytes.Of(p), DPI: v.bytes.DPI(p), Made: p.Made,
		IsPicture: v.bytes.Page(p).Pixels[0] > 0, Adjustments: viewAdjustments(p.Adjustments), Note: p.Note,
		Reviewed: checking.ReviewState(v.reviewed, p), IsPhoto: sources.IsPhotograph(v.byID[string(p.Source)], p.SourcePage),
	}
}

func (v viewer) aside(aside packet.Aside) Page {
	page := v.page(aside.Page, 0)
	page.From = aside.Origin.Title
	return page
}

func viewAdjustments(adjustments packet.Adjustments) Adjustments {
	return Adjustments{
		Paper: geometry.NonZero(adjustments.Paper), Straighten: adjustments.Straighten, Crop: geometry.NonZero(adjustments.Crop),
		Sheet: geometry.NonZero(adjustments.Sheet), Mirror: adjustments.Mirror, Clean: geometry.NonZero(adjustments.Clean), Patches: adjustments.Patches.List(),
		Tone: adjustments.Tone, Annotations: adjustments.Annotations, Picture: adjustments.Picture,
	}
}

func orZero[T any](v *T) (zero T) {
	if v == nil {
		return zero
	}
	return *v
}

func viewSource(s store.Source, placed int) Source {
	view := Source{
		ID: packet.SourceID(s.ID), Ordinal: s.Ordinal, Name: s.Name, Kind: s.Kind, State: s.State,
		Bytes: s.Bytes, PageCount: len(s.Pages), Placed: placed, Measured: s.Measured, Damage: s.Damage,
	}
	if len(s.Pages) > 0 {
		first := s.Pages[0]
		view.Paper = []float64{first.Size.Width, first.Size.Height}
	}
	return view
}

func viewCard(p store.Packet, all []store.Source) PacketCard {
	card := PacketCard{
		ID: p.ID, Name: p.State.Name, Revision: p.Revision, PageCount: p.State.PageCount(),
		PartCount: len(p.State.Parts), SetAside: len(p.State.SetAside), Changed: p.Changed, KeptUntil: p.Until,
	}
	v := newViewer(all, nil)
	for i, page := range p.State.Pages() {
		if i == 0 {
			first := v.page(page, 1)
			card.FirstPage = &first
		}
		card.Bytes += v.bytes.Of(page)
	}
	return card
}
