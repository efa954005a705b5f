package app

import (
	"math"
	"time"

	"dorbin/core/geometry"
	"dorbin/core/packet"
	"dorbin/internal/store"
)

// Packet is a packet as it is shown.
type Packet struct {
	ID       string   `json:"id"`
	Name     string   `json:"name"`
	Revision int      `json:"revision" doc:"Grows with every change. Commands name the revision they were made for."`
	CanUndo  bool     `json:"canUndo"`
	CanRedo  bool     `json:"canRedo"`
	Undo     string   `json:"undo" doc:"What undoing would take back, in words."`
	Redo     string   `json:"redo" doc:"What redoing would do again, in words."`
	Parts    []Part   `json:"parts" nullable:"false"`
	SetAside []Page   `json:"setAside" nullable:"false"`
	Sources  []Source `json:"sources" nullable:"false"`
	FileName string   `json:"fileName" doc:"The name proposed for the exported file."`
}

// Part is a named run of pages.
type Part struct {
	ID    packet.PartID `json:"id"`
	Title string        `json:"title"`
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
	Bytes      int64           `json:"bytes" doc:"What the page weighs; 0 while it is not known."`
	DPI        int             `json:"dpi,omitempty" doc:"Of an image page: dots per inch across."`
	From       string          `json:"from,omitempty" doc:"Of a page set aside: the title of the part it was in."`
}

// Source is something that came in.
type Source struct {
	ID        packet.SourceID `json:"id"`
	Ordinal   int             `json:"ordinal" doc:"Its place in the order of arrival, from 1."`
	Name      string          `json:"name"`
	Kind      string          `json:"kind" enum:"pdf,jpeg,png,tiff"`
	State     string          `json:"state" enum:"ready,locked"`
	Bytes     int64           `json:"bytes"`
	PageCount int             `json:"pageCount"`
	Placed    int             `json:"placed" doc:"How many of its pages are in parts."`
	Weighed   bool            `json:"weighed"`
	Paper     []float64       `json:"paper,omitempty" doc:"Width and height in points of its first page."`
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
}

func viewPacket(p store.Packet, sources []store.Source) Packet {
	view := Packet{
		ID: p.ID, Name: p.State.Name, Revision: p.Revision,
		CanUndo: p.Undo != "", CanRedo: p.Redo != "", Undo: p.Undo, Redo: p.Redo,
		Parts: make([]Part, len(p.State.Parts)), SetAside: make([]Page, len(p.State.SetAside)),
		Sources:  make([]Source, len(sources)),
		FileName: packet.ProposeFileName(p.State.Name, ".pdf"),
	}
	weights := weightsOf(sources)
	number := 0
	for i, part := range p.State.Parts {
		view.Parts[i] = Part{ID: part.ID, Title: part.Title, Pages: make([]Page, len(part.Pages))}
		for j, page := range part.Pages {
			number++
			view.Parts[i].Pages[j] = viewPage(page, number, weights)
		}
	}
	for i, aside := range p.State.SetAside {
		view.SetAside[i] = viewPage(aside.Page, 0, weights)
		view.SetAside[i].From = aside.Origin.Title
	}
	placed := p.State.Placed()
	for i, source := range sources {
		view.Sources[i] = viewSource(source, placed[packet.SourceID(source.ID)])
	}
	return view
}

func viewPage(p packet.Page, number int, weights weights) Page {
	size := p.Size()
	return Page{
		ID: p.ID, Number: number, Source: p.Source, SourcePage: p.SourcePage,
		Width: size.Width, Height: size.Height, Turn: p.Turn, Bytes: weights.of(p), DPI: weights.dpi(p),
	}
}

func viewSource(s store.Source, placed int) Source {
	view := Source{
		ID: packet.SourceID(s.ID), Ordinal: s.Ordinal, Name: s.Name, Kind: s.Kind, State: s.State,
		Bytes: s.Bytes, PageCount: len(s.Pages), Placed: placed, Weighed: s.Weighed,
	}
	if len(s.Pages) > 0 {
		first := s.Pages[0]
		view.Paper = []float64{first.Size.Width, first.Size.Height}
	}
	return view
}

// weights looks up what is known of the source pages that pages show.
type weights map[packet.SourceID][]store.SourcePage

func weightsOf(sources []store.Source) weights {
	w := weights{}
	for _, source := range sources {
		w[packet.SourceID(source.ID)] = source.Pages
	}
	return w
}

func (w weights) of(p packet.Page) int64 { return w.page(p).Weight }

func (w weights) dpi(p packet.Page) int {
	page := w.page(p)
	if page.Size.Width == 0 {
		return 0
	}
	return int(math.Round(float64(page.Pixels[0]) / page.Size.Width * geometry.PointsPerInch))
}

func (w weights) page(p packet.Page) store.SourcePage {
	pages := w[p.Source]
	if p.SourcePage < 1 || p.SourcePage > len(pages) {
		return store.SourcePage{}
	}
	return pages[p.SourcePage-1]
}

func viewCard(p store.Packet, sources []store.Source) PacketCard {
	card := PacketCard{
		ID: p.ID, Name: p.State.Name, Revision: p.Revision, PageCount: p.State.PageCount(),
		PartCount: len(p.State.Parts), SetAside: len(p.State.SetAside), Changed: p.Changed,
	}
	weights := weightsOf(sources)
	for i, page := range p.State.Pages() {
		if i == 0 {
			first := viewPage(page, 1, weights)
			card.FirstPage = &first
		}
		card.Bytes += weights.of(page)
	}
	return card
}
