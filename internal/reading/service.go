package reading

import (
	"context"
	"log/slog"
	"strings"

	"dorbin/core/packet"
	"dorbin/core/requirements"
	"dorbin/core/text"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/office"
	"dorbin/internal/render"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// Deps are what a Service works with.
type Deps struct {
	Store    *store.Store
	Engine   *render.Engine
	Pictures *render.Pictures
	Sources  *sources.Opener
	Runner   *jobs.Runner
	Reader   ocr.Reader
	Office   office.Converter
	Log      *slog.Logger
	// Languages are those that packets are read in for which nothing else was said.
	Languages []string
	// Changed is told that something was read of a packet.
	Changed func(packetID string)
}

// Service reads pages and keeps their text. It is safe for concurrent use.
type Service struct {
	store     *store.Store
	engine    *render.Engine
	pictures  *render.Pictures
	sources   *sources.Opener
	runner    *jobs.Runner
	reader    ocr.Reader
	office    office.Converter
	log       *slog.Logger
	languages []string
	installed languageList
	openings  openings
	changed   func(packetID string)
}

// New returns a service, and has the runner do its jobs.
func New(d Deps) *Service {
	s := &Service{
		store: d.Store, engine: d.Engine, pictures: d.Pictures, sources: d.Sources, runner: d.Runner,
		reader: d.Reader, office: d.Office, log: d.Log, languages: d.Languages, changed: d.Changed,
	}
	d.Runner.Handle(jobs.Kind{Name: store.JobOwnText, Do: s.readOwnTexts, GiveUp: s.giveUpOwnText})
	d.Runner.Handle(jobs.Kind{Name: store.JobReadText, Do: s.readPacket, GiveUp: s.giveUpReading})
	return s
}

// anew is the look of pages of PDFs that are read although they have a text, which is of no use.
const anew = "anew"

// keyOf names the text of a page that is recognised.
func keyOf(texts map[store.TextKey]store.TextInfo, page packet.Page) store.TextKey {
	key := store.TextKey{Source: string(page.Source), Page: page.SourcePage, Look: page.TextLook()}
	if texts[key].State == store.TextOwn {
		key.Look = anew
	}
	return key
}

// infoOf is what is known of the text of a page: what was recognised of it, or what it has of its
// own.
func infoOf(texts map[store.TextKey]store.TextInfo, page packet.Page) store.TextInfo {
	key := keyOf(texts, page)
	if info, ok := texts[key]; ok {
		return info
	}
	own, ok := texts[store.TextKey{Source: key.Source, Page: key.Page}]
	if ok && page.Paper.IsZero() && (own.State == store.TextOwn || own.State == store.TextNone) {
		return own
	}
	return store.TextInfo{TextKey: key}
}

// Texts are the texts of a packet's pages.
type Texts struct {
	service *Service
	known   map[store.TextKey]store.TextInfo
	// Language is the BCP 47 tag of the language in which most is read; empty where nothing was.
	Language string
}

// TextsOf gives the texts of a packet's pages.
func (s *Service) TextsOf(ctx context.Context, packetID string) (Texts, error) {
	known, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return Texts{}, err
	}
	texts := Texts{service: s, known: known}
	pages := map[string]int{}
	for _, info := range known {
		if first, _, _ := strings.Cut(info.Languages, "+"); info.Words > 0 && first != "" {
			pages[first]++
		}
	}
	most := 0
	for code, n := range pages {
		if n > most || n == most && code < texts.Language {
			most, texts.Language = n, code
		}
	}
	if texts.Language != "" {
		texts.Language = ocr.Tag(texts.Language)
	}
	return texts, nil
}

// Recognised gives the text that was recognised on a page, as it stands: none of a page that has its
// own, or was not read.
func (t Texts) Recognised(ctx context.Context, page packet.Page) (text.Page, error) {
	if page.IsBlank() {
		return text.Page{}, nil
	}
	info := infoOf(t.known, page)
	if info.Words == 0 || info.State == store.TextOwn || info.State == store.TextNone {
		return text.Page{}, nil
	}
	flat, err := t.service.store.Text(ctx, info.TextKey)
	return page.SeenText(flat), err
}

// PageText gives the text of a page of a packet, as it stands: its own, or what was recognised.
func (s *Service) PageText(ctx context.Context, packetID string, id packet.PageID) (text.Page, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return text.Page{}, err
	}
	page, ok := p.State.Find(id)
	if !ok {
		return text.Page{}, store.ErrNotFound
	}
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil || page.IsBlank() {
		return text.Page{Lines: []text.Line{}}, err
	}
	seen, err := s.seen(ctx, texts, page)
	if err != nil {
		return text.Page{}, err
	}
	seen = seen.Rounded()
	if seen.Lines == nil {
		seen.Lines = []text.Line{}
	}
	return seen, nil
}

// seenText is what is seen of a page's text. The text that a PDF has of its own was not mirrored, so
// that of a page that is mirrored cannot be placed.
func seenText(page packet.Page, info store.TextInfo, flat text.Page) text.Page {
	if page.Mirror && info.State == store.TextOwn {
		return text.Page{}
	}
	return page.SeenText(flat)
}

// joined are languages as the store keeps them.
func joined(languages []string) string { return strings.Join(languages, "+") }

func split(languages string) []string {
	if languages == "" {
		return nil
	}
	return strings.Split(languages, "+")
}

// Searchable tells of which pages of a packet the words will be found in the document: those that have
// their own text, if that goes in, and those that were read, also if nothing was found on them. Kind
// tells whether a page is one of a PDF, and whether it is a picture of a page in one.
func (s *Service) Searchable(
	ctx context.Context, packetID string, pages []packet.Page, kind func(packet.Page) (ofPDF, isScan bool),
) (map[packet.PageID]requirements.Answer, error) {
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return nil, err
	}
	answers := make(map[packet.PageID]requirements.Answer, len(pages))
	for _, page := range pages {
		ofPDF, isScan := kind(page)
		answers[page.ID] = searchable(page, infoOf(texts, page), ofPDF, isScan)
	}
	return answers, nil
}

func searchable(page packet.Page, info store.TextInfo, ofPDF, isScan bool) requirements.Answer {
	switch {
	case page.IsBlank() || info.State == store.TextRead:
		return requirements.Yes
	case info.State == store.TextAsked || info.State == "" && ofPDF && page.Paper.IsZero():
		return requirements.Unknown
	case !info.Problem.IsEmpty() || page.IsMadeAnew(ofPDF):
		return requirements.No
	}
	// A few words are the text of a page, but not of a scan that bears a stamp.
	return requirements.AnswerOf(info.Words > 0 && (info.State == store.TextOwn || !isScan))
}

// HasNoWords tells of a page that was read, and on which there is nothing to read.
func (t Texts) HasNoWords(page packet.Page) bool {
	info := infoOf(t.known, page)
	return info.State == store.TextRead && info.Words == 0
}

// CanRead tells whether there is a program that recognises text.
func (s *Service) CanRead() bool { return s.reader.IsInstalled() }
