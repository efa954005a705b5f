package finished

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode"

	"dorbin/core/check"
	"dorbin/core/geometry"
	"dorbin/core/raster"
	"dorbin/core/requirements"
	"dorbin/core/text"
	"dorbin/internal/render"
)

// mostPages is how many pages of a document are looked at.
const mostPages = 100_000

// Document is a finished PDF.
type Document struct {
	Path     string
	Name     string // of its file, as it is handed in
	Bytes    int64
	Password string // that opens it; empty where none is needed
	// Readable is where it is without its password; the same as Path where none is needed.
	Readable string
	// NothingToRead tells of pages, from 1, on which recognition found no words; nil where nobody
	// asked.
	NothingToRead func(page int) bool
}

// Reader finds out what documents are.
type Reader struct {
	Engine   *render.Engine
	Pictures *render.Pictures
}

// Facts finds out what a document is, as far as these rules ask for it. Errors wrap render.ErrPassword
// or render.ErrNotPDF.
func (r Reader) Facts(ctx context.Context, doc Document, rules requirements.Rules) (requirements.Facts, error) {
	facts := requirements.Facts{Locked: requirements.No, Attached: requirements.No}
	_, err := r.Engine.PageSizes(ctx, doc.Path, "", 1)
	switch {
	case errors.Is(err, render.ErrPassword):
		facts.Locked = requirements.Yes
	case err != nil:
		return facts, fmt.Errorf("open %s: %w", doc.Name, err)
	}
	sizes, err := r.Engine.PageSizes(ctx, doc.Path, doc.Password, mostPages)
	if err != nil {
		return facts, fmt.Errorf("open %s: %w", doc.Name, err)
	}
	about, err := r.Engine.About(ctx, doc.Path, doc.Password, len(sizes))
	if err != nil {
		return facts, fmt.Errorf("read what %s says of itself: %w", doc.Name, err)
	}
	facts.Files = []requirements.File{{Name: doc.Name, Bytes: doc.Bytes, Pages: len(sizes)}}
	facts.Version = fmt.Sprintf("%d.%d", about.Version/10, about.Version%10)
	facts.Bookmarks = requirements.AnswerOf(about.Bookmarks)
	facts.Attached = requirements.AnswerOf(about.Attached)
	facts.Properties = propertiesOf(about.Properties)
	facts.Fonts, facts.Contents = requirements.Yes, requirements.No
	needs := needsOf(rules)
	for i, size := range sizes {
		page := requirements.Page{Size: size}
		if needs.holdings {
			holdings, err := r.Engine.Holdings(ctx, doc.Readable, i+1)
			if err != nil {
				return facts, fmt.Errorf("look at page %d of %s: %w", i+1, doc.Name, err)
			}
			takeHoldings(&facts, &page, holdings, i)
		}
		if needs.text || needs.picture {
			if err := r.readPage(ctx, doc, i+1, about.Labels[i], needs, &page); err != nil {
				return facts, err
			}
		}
		facts.Pages = append(facts.Pages, page)
	}
	return facts, nil
}

// needs are what must be found out of every page.
type needs struct{ holdings, text, number, picture bool }

func needsOf(r requirements.Rules) needs {
	return needs{
		holdings: r.NoForms || r.NoComments || r.NoLinks || r.Contents || r.Fonts || r.LeastDPI > 0 || r.MostDPI > 0 || r.Colours != "",
		text:     r.Searchable || r.Numbers || r.Upright,
		number:   r.Numbers,
		picture:  r.Upright || r.Colours != "" || r.Searchable,
	}
}

// contentsWithin is among how many pages, from the first, a page of contents is looked for.
const contentsWithin = 12

func takeHoldings(facts *requirements.Facts, page *requirements.Page, holdings check.Holdings, place int) {
	page.Fields, page.Comments = requirements.AnswerOf(holdings.Fields), requirements.AnswerOf(holdings.Comments)
	page.Links, page.DPI = requirements.AnswerOf(holdings.Links), holdings.DPI
	if holdings.LooseFonts {
		facts.Fonts = requirements.No
	}
	if holdings.LinksWithin && place < contentsWithin {
		facts.Contents = requirements.Yes
	}
	// Whether there are colours is seen in its picture.
	if page.Colours = requirements.Grey; holdings.OneBit || !holdings.Pictures {
		page.Colours = requirements.BlackWhite
	}
}

// Pixels of the longer edge at which a page is drawn: writing is told from a scan's picture, while
// of a page with text it is enough to see colours.
const (
	scanEdge = 1400
	textEdge = 400
)

func (r Reader) readPage(ctx context.Context, doc Document, number int, label string, needs needs, page *requirements.Page) error {
	words, err := r.Engine.Text(ctx, doc.Readable, number)
	if err != nil {
		return fmt.Errorf("read page %d of %s: %w", number, doc.Name, err)
	}
	hasText := strings.TrimSpace(words.Lines) != ""
	if needs.number {
		numbered, err := r.isNumbered(ctx, doc, number, words, label, page.Size)
		if err != nil {
			return err
		}
		page.Number = requirements.AnswerOf(numbered)
	}
	page.Text = requirements.AnswerOf(hasText || doc.NothingToRead != nil && doc.NothingToRead(number))
	page.Upright = requirements.AnswerOf(words.Turn == 0)
	if !needs.picture || !needs.holdings && words.IsEnough() {
		return nil
	}
	edge := scanEdge
	if words.IsEnough() {
		edge = textEdge
	}
	img, err := r.Pictures.Upright(ctx, render.Page{Path: doc.Readable, IsPDF: true, Number: number, Size: page.Size}, edge)
	if err != nil {
		return fmt.Errorf("draw page %d of %s: %w", number, doc.Name, err)
	}
	if raster.ShowsColour(img) {
		page.Colours = requirements.Colour
	}
	if words.IsEnough() {
		return nil
	}
	analysis := check.Analyze(img, words, page.Size)
	page.Upright = requirements.AnswerOf(analysis.Standing.Turn == 0 || analysis.Standing.Sure < check.PlainlyTurned)
	if analysis.IsNearlyBlank() {
		page.Text = requirements.Yes // there is nothing to read
	}
	return nil
}

// edgeShare is how much of a page's height at its top and its foot has page numbers.
const edgeShare = 0.15

// isNumbered tells whether a page bears its number: one as people print it, or its label in a line at
// its top or foot.
func (r Reader) isNumbered(ctx context.Context, doc Document, number int, read check.Text, label string, size geometry.Size) (bool, error) {
	if _, ok := read.Printed(); ok {
		return true, nil
	}
	if label = spaced(label); label == "" {
		return false, nil
	}
	words, err := r.Engine.Words(ctx, doc.Readable, number)
	if err != nil {
		return false, fmt.Errorf("read the words of page %d of %s: %w", number, doc.Name, err)
	}
	return slices.ContainsFunc(words.Page.Lines, func(line text.Line) bool {
		isAtEdge := line.At.Y < edgeShare*size.Height || line.At.Y > (1-edgeShare)*size.Height
		return isAtEdge && strings.Contains(" "+spaced(line.String())+" ", " "+label+" ")
	}), nil
}

// spaced is a text as it is compared, with single spaces for all that is no letter or digit: 2 of 2/3.
func spaced(s string) string {
	apart := func(c rune) bool { return !unicode.IsLetter(c) && !unicode.IsDigit(c) }
	return strings.Join(strings.FieldsFunc(text.Fold(s), apart), " ")
}

// keys of the properties in a document's information, by their names in the packet.
var keys = map[string]string{
	"title": "Title", "author": "Author", "subject": "Subject", "keywords": "Keywords",
	"reference": "Reference", "caseNumber": "CaseNumber", "senderReference": "SenderReference",
}

func propertiesOf(told map[string]string) map[string]bool {
	properties := map[string]bool{}
	for name, key := range keys {
		properties[name] = strings.TrimSpace(told[key]) != ""
	}
	return properties
}

// Joined are the facts of several files that are handed in together.
func Joined(all []requirements.Facts) requirements.Facts {
	var joined requirements.Facts
	for i, facts := range all {
		if i == 0 {
			joined = facts
			continue
		}
		joined.Files, joined.Pages = append(joined.Files, facts.Files...), append(joined.Pages, facts.Pages...)
		joined.Bookmarks, joined.Fonts = joined.Bookmarks.And(facts.Bookmarks), joined.Fonts.And(facts.Fonts)
		joined.Locked, joined.Attached = joined.Locked.And(facts.Locked), joined.Attached.Or(facts.Attached)
		joined.Contents = joined.Contents.Or(facts.Contents)
		joined.Version = max(joined.Version, facts.Version)
		for name, told := range facts.Properties {
			joined.Properties[name] = joined.Properties[name] && told
		}
	}
	return joined
}
