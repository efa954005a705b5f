package receivers

import (
	"context"
	"slices"
	"strconv"
	"time"

	"dorbin/core/annotation"
	"dorbin/core/check"
	"dorbin/core/finish"
	"dorbin/core/packet"
	"dorbin/core/raster"
	"dorbin/core/requirements"
	"dorbin/internal/checking"
	"dorbin/internal/export"
	"dorbin/internal/sources"
	"dorbin/internal/store"
)

// held is a packet with all that is known of it, while it is held against rules.
type held struct {
	store.Packet
	receiver requirements.Receiver
	pages    []packet.Page
	sources  map[packet.SourceID]store.Source
	bytes    sources.Bytes
	analysis func(packet.Page) *check.PageAnalysis
	findings checking.Findings
	sideways map[packet.PageID]bool // the pages that are found to lie so
	plan     export.Plan
	added    export.Finished
	text     map[packet.PageID]requirements.Answer
	files    []requirements.File
	canRead  bool // there is a program that recognises text
}

// hold gathers what is known of a packet. It is for a receiver.
func (s *Service) hold(ctx context.Context, p store.Packet, all []store.Source) (h held, err error) {
	h = held{
		Packet: p, receiver: *p.State.Receiver, pages: p.State.Pages(), bytes: sources.BytesOf(all), canRead: s.reading.CanRead(), sources: map[packet.SourceID]store.Source{},
		sideways: map[packet.PageID]bool{},
	}
	for _, source := range all {
		h.sources[packet.SourceID(source.ID)] = source
	}
	if h.analysis, err = s.packets.Analysis(ctx, all); err != nil {
		return h, err
	}
	if h.findings, err = s.checking.Findings(ctx, p.ID); err != nil {
		return h, err
	}
	for _, finding := range h.findings.Findings {
		if finding.Kind == check.Sideways {
			h.sideways[finding.Page] = true
		}
	}
	if h.plan, err = s.export.Plan(ctx, p.ID, ""); err != nil {
		return h, err
	}
	if h.added, err = s.export.Finished(ctx, p.ID); err != nil {
		return h, err
	}
	if h.text, err = s.reading.Searchable(ctx, p.ID, h.pages, h.kindOf); err != nil {
		return h, err
	}
	h.files, err = s.filesOf(ctx, h)
	return h, err
}

func (h held) isPDF(page packet.Page) bool {
	source, ok := h.sources[page.Source]
	return ok && sources.IsPDF(source)
}

// kindOf tells whether a page is one of a PDF, and whether it is a picture of a page in one.
func (h held) kindOf(page packet.Page) (ofPDF, isScan bool) {
	analysis := h.analysis(page)
	return h.isPDF(page), analysis != nil && analysis.Holdings != nil && analysis.Holdings.DPI > 0
}

// filesOf are the files that the packet would be handed in as.
func (s *Service) filesOf(ctx context.Context, h held) ([]requirements.File, error) {
	if len(h.pages) == 0 {
		return nil, nil
	}
	order := export.ExportOrder{Size: h.plan.Size, Limit: h.plan.Limit}
	if h.receiver.Rules.Files != requirements.FilePerPart {
		name, err := s.export.FileName(ctx, h.ID, order)
		return []requirements.File{{Name: name, Bytes: h.plan.After, Doubt: h.plan.Uncertainty, Pages: len(h.pages)}}, err
	}
	order.Make = export.PDFPerPart
	planned, err := s.export.Preview(ctx, h.ID, order)
	var files []requirements.File
	for _, file := range planned {
		files = append(files, requirements.File{Name: file.Name, Bytes: file.Bytes, Doubt: file.Uncertainty, Pages: file.Pages})
	}
	return files, err
}

// facts are those that the rules ask for.
func (h held) facts(now time.Time) requirements.Facts {
	f := h.State.Finish.OrDefaults()
	facts := requirements.Facts{
		Today: now.Format(time.DateOnly), Files: h.files, Parts: len(h.State.Parts),
		Bookmarks: requirements.AnswerOf(f.Bookmarks.On && len(h.State.Parts) > 0),
		Contents:  requirements.AnswerOf(slices.ContainsFunc(h.pages, func(p packet.Page) bool { return p.Made == finish.ContentsPage })),
		Locked:    requirements.AnswerOf(f.Protection.On && f.Protection.Locked),
		Attached:  requirements.No, // they never go into the document
		Version:   versionOf(f), Fonts: requirements.Yes, Properties: propertiesOf(f.Properties, h.State.Name),
	}
	marks := h.marksByPage()
	encodings := map[packet.PageID]export.PlannedPage{}
	for _, planned := range h.plan.Pages {
		encodings[planned.Page] = planned
	}
	for _, page := range h.pages {
		fact := h.pageFacts(page, marks[page.ID])
		if planned, ok := encodings[page.ID]; ok && planned.DPI > 0 && fact.DPI > 0 {
			fact.DPI = min(fact.DPI, planned.DPI)
		}
		facts.Pages = append(facts.Pages, fact)
		facts.Fonts = facts.Fonts.And(h.fonts(page))
	}
	return facts
}

// versionOf is the version of PDF that is written: protection takes the newest.
func versionOf(f finish.Finish) string {
	if f.Protection.On {
		return "2.0"
	}
	return "1.7"
}

func propertiesOf(p finish.Properties, name string) map[string]bool {
	told := map[string]bool{"title": name != ""} // it is the packet's name, if nothing else is said
	if p.On {
		for property, value := range map[string]string{
			"author": p.Author, "subject": p.Subject, "keywords": p.Keywords, "reference": p.Reference,
			"caseNumber": p.CaseNumber, "senderReference": p.SenderReference,
		} {
			told[property] = value != ""
		}
	}
	return told
}

// marksByPage are what is added to the pages.
func (h held) marksByPage() map[packet.PageID][]finish.Mark {
	marks := map[packet.PageID][]finish.Mark{}
	for _, page := range h.added.Pages {
		for _, at := range page.Marks {
			marks[page.Page] = append(marks[page.Page], h.added.Marks[at])
		}
	}
	return marks
}

// pageFacts are those of a page as it will be in the document.
func (h held) pageFacts(page packet.Page, marks []finish.Mark) requirements.Page {
	analysis := h.analysis(page)
	fact := requirements.Page{
		Size: page.Size(), Upright: h.upright(page, analysis), DPI: h.dpi(page, analysis), Colours: h.colours(page, analysis, marks), Text: h.text[page.ID],
		Number: requirements.AnswerOf(hasNumber(analysis, marks)),
	}
	holdings := h.holdings(page, analysis)
	fact.Fields, fact.Comments, fact.Links = holdings(func(p check.Holdings) bool { return p.Fields && page.Annotations.Fields == annotation.Kept }),
		holdings(func(p check.Holdings) bool { return p.Comments && page.Annotations.Comments == annotation.Kept }),
		holdings(func(p check.Holdings) bool { return p.Links && !h.State.Finish.Bookmarks.NoLinks })
	if slices.ContainsFunc(marks, func(m finish.Mark) bool { return m.To > 0 }) {
		fact.Links = requirements.Yes
	}
	return fact
}

// upright tells whether a page stands upright, as far as it was analysed. What somebody said to be as
// it should be does.
func (h held) upright(page packet.Page, analysis *check.PageAnalysis) requirements.Answer {
	switch {
	case h.sideways[page.ID]:
		return requirements.No
	case analysis == nil && !page.IsBlank():
		return requirements.Unknown
	}
	return requirements.Yes
}

// dpi is the resolution of a page that is a picture; 0 of others.
func (h held) dpi(page packet.Page, analysis *check.PageAnalysis) int {
	if h.isPDF(page) && page.IsMadeAnew(true) {
		return export.DrawnDPI(page)
	}
	if analysis != nil && analysis.Holdings != nil {
		return analysis.Holdings.DPI
	}
	return h.bytes.DPI(page)
}

// colours are those that a page will show; empty where that is not known.
func (h held) colours(page packet.Page, analysis *check.PageAnalysis, marks []finish.Mark) requirements.Colours {
	shown := requirements.BlackWhite
	switch {
	case page.IsBlank() || page.Tone.Mode == raster.BlackWhite:
	case page.Tone.Mode == raster.GrayTone:
		shown = requirements.Grey
	case analysis == nil || analysis.Coloured == nil:
		return ""
	case *analysis.Coloured:
		return requirements.Colour
	case analysis.Holdings == nil || analysis.Holdings.Pictures && !analysis.Holdings.OneBit:
		shown = requirements.Grey
	}
	for _, mark := range marks {
		switch {
		case !mark.Picture.IsZero():
			return "" // of the letterhead's or the cover's picture nothing is known
		case !isGrey(mark.Colour):
			return requirements.Colour
		}
	}
	return shown
}

// isGrey tells of a colour as #1f2a2c whether it passes for a shade of grey.
func isGrey(colour string) bool {
	if len(colour) != 7 {
		return true
	}
	least, most := 255, 0
	for i := 1; i < 7; i += 2 {
		value, err := strconv.ParseInt(colour[i:i+2], 16, 32)
		if err != nil {
			return true
		}
		least, most = min(least, int(value)), max(most, int(value))
	}
	return most-least <= raster.ColourStep
}

func hasNumber(analysis *check.PageAnalysis, marks []finish.Mark) bool {
	return analysis != nil && analysis.Printed != check.Printed{} ||
		slices.ContainsFunc(marks, func(m finish.Mark) bool { return m.Kind == finish.NumberMark })
}

// holdings asks what a page of a PDF holds. What is made anew, or was never a PDF, holds nothing.
func (h held) holdings(page packet.Page, analysis *check.PageAnalysis) func(func(check.Holdings) bool) requirements.Answer {
	return func(ask func(check.Holdings) bool) requirements.Answer {
		switch {
		case !h.isPDF(page) || page.IsMadeAnew(true):
			return requirements.No
		case analysis == nil || analysis.Holdings == nil:
			return requirements.Unknown
		}
		return requirements.AnswerOf(ask(*analysis.Holdings))
	}
}

// fonts tells whether all fonts of a page are embedded.
func (h held) fonts(page packet.Page) requirements.Answer {
	return h.holdings(page, h.analysis(page))(func(p check.Holdings) bool { return p.LooseFonts }).Not()
}
