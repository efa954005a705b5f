package reading

import (
	"context"
	"errors"
	"slices"
	"strings"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/problem"
	"dorbin/internal/jobs"
	"dorbin/internal/ocr"
	"dorbin/internal/store"
)

// TextOrder asks for pages to be read.
type TextOrder struct {
	Pages     []packet.PageID `json:"pages,omitempty" doc:"The pages; none are all that have no text."`
	Languages []string        `json:"languages,omitempty" doc:"That they are read in, by the recognition program's names; none are those of the packet."`
	Every     *bool           `json:"every,omitempty" doc:"Whether every page that comes in is read from now on; it stays as it is where nothing is said."`
	Again     bool            `json:"again,omitempty" doc:"Pages that were read are read once more."`
}

// TextStatus is how it stands with the text of a packet.
type TextStatus struct {
	Installed bool            `json:"installed" doc:"There is a program that reads."`
	Advice    message.Text    `json:"advice,omitzero" doc:"How to get one."`
	Available []ocr.Language  `json:"available" nullable:"false" doc:"Languages that can be read."`
	Languages []string        `json:"languages" nullable:"false" doc:"Languages that the packet is read in."`
	Every     bool            `json:"every" doc:"Every page that comes in is read."`
	Waiting   []packet.PageID `json:"waiting" nullable:"false" doc:"Pages that are yet to be read."`
	Own       []packet.PageID `json:"own" nullable:"false" doc:"Pages of PDFs that have their text."`
	Read      []packet.PageID `json:"read" nullable:"false" doc:"Pages whose text was recognised."`
	Without   []packet.PageID `json:"without" nullable:"false" doc:"Pages that have no text yet; blank pages are none of them."`
	Problems  []PageProblem   `json:"problems" nullable:"false" doc:"Pages that could not be read, or whose text is of no use."`
	Doubtful  int             `json:"doubtful" doc:"Words that were read unsurely."`
}

// PageProblem is why a page has no text, or none that is of use.
type PageProblem struct {
	Page    packet.PageID `json:"page"`
	Problem message.Text  `json:"problem"`
}

// installAdvice says how to get the program.
var installAdvice = message.Of("Reading scans takes the program tesseract, which is not installed here. Install it (on Debian: apt install tesseract-ocr), and start Dorbin again.")

// TextStatus tells how it stands with the text of a packet.
func (s *Service) Status(ctx context.Context, packetID string) (TextStatus, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return TextStatus{}, err
	}
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return TextStatus{}, err
	}
	said, err := s.store.Reading(ctx, packetID)
	if err != nil {
		return TextStatus{}, err
	}
	status := TextStatus{
		Available: []ocr.Language{}, Every: said.Every, Waiting: []packet.PageID{}, Own: []packet.PageID{},
		Read: []packet.PageID{}, Without: []packet.PageID{}, Problems: []PageProblem{},
	}
	for i, page := range p.State.Pages() {
		info := infoOf(texts, page)
		status.add(page, info)
		words, err := s.doubtfulOn(ctx, page, i+1, info)
		if err != nil {
			return TextStatus{}, err
		}
		status.Doubtful += words
	}
	available, err := s.installed.of(ctx, s.reader)
	switch {
	case errors.Is(err, ocr.ErrNotInstalled):
		status.Advice = installAdvice
	case err != nil:
		return TextStatus{}, err
	default:
		status.Installed, status.Available = true, append(status.Available, available...)
	}
	status.Languages = append([]string{}, s.languagesOf(said, available)...)
	return status, nil
}

func (v *TextStatus) add(page packet.Page, info store.TextInfo) {
	if page.IsBlank() {
		return
	}
	switch info.State {
	case store.TextAsked:
		v.Waiting = append(v.Waiting, page.ID)
	case store.TextOwn:
		v.Own = append(v.Own, page.ID)
	case store.TextRead:
		v.Read = append(v.Read, page.ID)
	default:
		v.Without = append(v.Without, page.ID)
	}
	if !info.Problem.IsEmpty() {
		v.Problems = append(v.Problems, PageProblem{page.ID, info.Problem})
	}
}

// languagesOf are the languages of a packet: those that were chosen, the installation's, English, or
// what there is.
func (s *Service) languagesOf(said store.Reading, available []ocr.Language) []string {
	if said.Languages != "" {
		return split(said.Languages)
	}
	isInstalled := func(code string) bool {
		return slices.ContainsFunc(available, func(l ocr.Language) bool { return l.Code == code })
	}
	if len(s.languages) > 0 {
		return s.languages
	}
	if isInstalled("eng") || len(available) == 0 {
		return []string{"eng"}
	}
	return []string{available[0].Code}
}

// Ask has pages be read.
func (s *Service) Ask(ctx context.Context, packetID string, order TextOrder) (TextStatus, error) {
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return TextStatus{}, err
	}
	said, err := s.store.Reading(ctx, packetID)
	if err != nil {
		return TextStatus{}, err
	}
	languages, err := s.checkLanguages(ctx, order.Languages, said)
	if err != nil {
		return TextStatus{}, err
	}
	said.Languages = joined(languages)
	if order.Every != nil {
		said.Every = *order.Every
	}
	if err := s.store.SetReading(ctx, packetID, said); err != nil {
		return TextStatus{}, err
	}
	pages, err := wanted(p.State, order)
	if err != nil {
		return TextStatus{}, err
	}
	if err := s.ask(ctx, packetID, pages, said.Languages, order, true); err != nil {
		return TextStatus{}, err
	}
	return s.Status(ctx, packetID)
}

// wanted are the pages that an order names.
func wanted(p packet.Packet, order TextOrder) ([]packet.Page, error) {
	if len(order.Pages) == 0 {
		return p.Pages(), nil
	}
	var pages []packet.Page
	for _, id := range order.Pages {
		page, ok := p.Find(id)
		if !ok {
			return nil, problem.New(problem.Invalid, "page %s is not in the packet", id)
		}
		pages = append(pages, page)
	}
	return pages, nil
}

// checkLanguages gives the languages that are read in. One that is not installed is told before any
// page is read.
func (s *Service) checkLanguages(ctx context.Context, wanted []string, said store.Reading) ([]string, error) {
	available, err := s.reader.Languages(ctx)
	if errors.Is(err, ocr.ErrNotInstalled) {
		return nil, &problem.Error{Kind: problem.Invalid, Sentence: installAdvice}
	}
	if err != nil {
		return nil, err
	}
	if len(wanted) == 0 {
		wanted = s.languagesOf(said, available)
	}
	var missing []string
	for _, code := range wanted {
		if !slices.ContainsFunc(available, func(l ocr.Language) bool { return l.Code == code }) {
			missing = append(missing, code)
		}
	}
	if len(missing) > 0 {
		return nil, problem.New(problem.Invalid, "The language %s is not installed for reading (on Debian: apt install tesseract-ocr-%s).",
			strings.Join(missing, ", "), strings.ReplaceAll(missing[0], "_", "-"))
	}
	return slices.Compact(wanted), nil
}

// ask has those of the pages be read that have no text: those that could not be read as well, if
// somebody asks for it. Pages that an order names are read also where their PDF's text is broken.
func (s *Service) ask(ctx context.Context, packetID string, pages []packet.Page, languages string, order TextOrder, isAsked bool) error {
	texts, err := s.store.Texts(ctx, packetID)
	if err != nil {
		return err
	}
	var asked []store.TextInfo
	for _, page := range pages {
		if page.IsBlank() {
			continue
		}
		info := infoOf(texts, page)
		isLacking := info.State == "" || info.State == store.TextNone || info.State == store.TextFailed && isAsked
		isAgain := order.Again && info.State == store.TextRead
		isBroken := len(order.Pages) > 0 && info.State == store.TextOwn && !info.Problem.IsEmpty()
		if isLacking || isAgain || isBroken {
			asked = append(asked, store.TextInfo{TextKey: keyOf(texts, page), Languages: languages, Turn: page.Turn})
		}
	}
	if len(asked) == 0 {
		return nil
	}
	if err := s.store.AskTexts(ctx, asked); err != nil {
		return err
	}
	s.changed(packetID)
	return s.runner.Add(ctx, packetID, jobs.Job{Kind: store.JobReadText, Key: packetID})
}

// Stop has no more pages of a packet be read, and takes back what was asked for.
func (s *Service) Stop(ctx context.Context, packetID string) (TextStatus, error) {
	if err := s.runner.Cancel(ctx, jobs.Job{Kind: store.JobReadText, Key: packetID}); err != nil {
		return TextStatus{}, err
	}
	if err := s.store.CancelTexts(ctx, packetID); err != nil {
		return TextStatus{}, err
	}
	s.changed(packetID)
	return s.Status(ctx, packetID)
}

// PagesCame has the pages be read that came into a packet, if that was asked for.
func (s *Service) PagesCame(ctx context.Context, packetID string) error {
	said, err := s.store.Reading(ctx, packetID)
	if err != nil || !said.Every || !s.reader.IsInstalled() {
		return err
	}
	p, err := s.store.Packet(ctx, packetID)
	if err != nil {
		return store.UnlessGone(err)
	}
	return store.UnlessGone(s.ask(ctx, packetID, p.State.Pages(), said.Languages, TextOrder{}, false))
}
