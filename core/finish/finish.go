package finish

import (
	"errors"
	"regexp"
	"slices"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/typeface"
)

// Finish is all that is added to a packet's document. Its zero value adds nothing but bookmarks.
type Finish struct {
	Cover      Cover      `json:"cover"`
	Contents   Contents   `json:"contents"`
	Sheets     Sheets     `json:"sheets"`
	Numbers    Numbers    `json:"numbers"`
	Header     Line       `json:"header"`
	Footer     Line       `json:"footer"`
	Watermark  Watermark  `json:"watermark"`
	Letterhead Letterhead `json:"letterhead"`
	Bookmarks  Bookmarks  `json:"bookmarks"`
	Properties Properties `json:"properties"`
	Opening    Opening    `json:"opening"`
	Protection Protection `json:"protection"`
}

// Writing is how a text on pages looks.
type Writing struct {
	Face   typeface.Face `json:"face" enum:"sans,serif"`
	Size   float64       `json:"size" doc:"Points."`
	Colour string        `json:"colour" doc:"Such as #1c5a52."`
	Edge   float64       `json:"edge" doc:"Points from the paper's edges."`
}

// Style is how a page's number is written.
type Style string

// The styles.
const (
	Plain    Style = "plain"    // 3
	Dashes   Style = "dashes"   // - 3 -
	Slash    Style = "slash"    // 3/20
	OfTotal  Style = "ofTotal"  // Page 3 of 20
	Roman    Style = "roman"    // iii
	Prefixed Style = "prefixed" // A-0003
)

// Side is where across a page a text is.
type Side string

// The sides. Outer is the right of odd pages and the left of even ones, for printing on both
// sides.
const (
	Left   Side = "left"
	Middle Side = "middle"
	Right  Side = "right"
	Outer  Side = "outer"
)

// Numbers are page numbers.
type Numbers struct {
	On      bool   `json:"on"`
	First   int    `json:"first" doc:"The number on the first page that has one."`
	From    int    `json:"from" doc:"The first page that has one, counted from 1."`
	To      int    `json:"to" doc:"The last page that has one; 0 is the last of the packet."`
	Style   Style  `json:"style" enum:"plain,dashes,slash,ofTotal,roman,prefixed"`
	Prefix  string `json:"prefix" doc:"Before the number, where it is prefixed."`
	Digits  int    `json:"digits" doc:"At least so many, where it is prefixed."`
	PerPart bool   `json:"perPart" doc:"They begin anew in each part."`
	Head    bool   `json:"head" doc:"At the head of the page, not at its foot."`
	Side    Side   `json:"side" enum:"left,middle,right,outer"`
	Skip    string `json:"skip" doc:"Pages without one, as a selection in words."`
	// Printed has pages without one that have a number already.
	Printed   bool   `json:"printed" doc:"Pages whose text says a page number already get none."`
	Elsewhere string `json:"elsewhere" doc:"Ids of pages that have it at the other end, separated by commas."`
	Writing
}

// Texts are what a line says at the left, in the middle and at the right. Fields in braces stand
// for what differs: PageFields and DocumentFields.
type Texts struct {
	Left   string `json:"left"`
	Middle string `json:"middle"`
	Right  string `json:"right"`
}

// Line is a header or a footer.
type Line struct {
	On bool `json:"on"`
	Texts
	Apart  bool   `json:"apart" doc:"Even pages have texts of their own."`
	Even   Texts  `json:"even" doc:"Of even pages, where these are apart."`
	Mirror bool   `json:"mirror" doc:"Left and right change places on even pages."`
	Rule   bool   `json:"rule" doc:"A line between it and the page."`
	Skip   string `json:"skip" doc:"Pages without it, as a selection in words."`
	Writing
}

// Properties describe the document to programs that keep it. What they tell is told by fields, too,
// also where they are not switched on.
type Properties struct {
	On              bool   `json:"on"`
	Title           string `json:"title" doc:"The packet's name when it is empty."`
	Author          string `json:"author"`
	Subject         string `json:"subject"`
	Keywords        string `json:"keywords"`
	Reference       string `json:"reference"`
	CaseNumber      string `json:"caseNumber"`
	SenderReference string `json:"senderReference"`
	Own             string `json:"own" doc:"Others, one a line: Name: value."`
}

// Opening is how a reader is asked to show the document first.
type Opening struct {
	On        bool   `json:"on"`
	Layout    string `json:"layout" enum:"page,scroll,facing" doc:"Page by page, scrolling, or facing pages."`
	Page      int    `json:"page" doc:"Counted from 1."`
	Fit       string `json:"fit" enum:"page,width,actual"`
	Bookmarks bool   `json:"bookmarks" doc:"They are shown beside the page."`
}

// Bookmarks lead to the parts. Links of documents lead within the document and beyond it.
type Bookmarks struct {
	On      bool   `json:"on"`
	Nested  bool   `json:"nested" doc:"Those that documents bring along are below them."`
	Open    bool   `json:"open" doc:"What is below a part is shown at first."`
	Text    bool   `json:"text,omitempty" doc:"Headings in the text are below the parts whose documents bring no bookmarks along."`
	NoLinks bool   `json:"noLinks" doc:"Links on pages of documents are left out."`
	Skip    string `json:"skip" doc:"Ids of parts and of headings without one, separated by commas."`
	Order   string `json:"order" doc:"Ids of parts in the order of their bookmarks, separated by commas; others follow."`
	Titles  string `json:"titles" doc:"Other titles than those of parts and headings, one a line: id, a colon and the title."`
}

// Protection is by passwords, which are asked for at each export.
type Protection struct {
	On     bool `json:"on"`
	Locked bool `json:"locked" doc:"A password is needed to open the document."`
	Print  bool `json:"print" doc:"It may be printed without the password to change it."`
	Copy   bool `json:"copy" doc:"Text may be copied without it."`
	Fill   bool `json:"fill" doc:"Forms may be filled in and comments made without it."`
}

// Default is what is proposed before anything is switched on.
func Default() Finish {
	writing := Writing{Face: typeface.Sans, Size: 10, Colour: "#1f2a2c", Edge: geometry.FromMM(12)}
	small := writing
	small.Size = 9
	return Finish{
		Cover: Cover{
			Design: PlainCover, Face: typeface.Sans, Colour: "#1c5a52",
			Title: "{title}", From: "{author}", To: "{receiver}", Reference: "{reference}", Date: "{date}",
		},
		Contents:   Contents{Title: "Contents", Face: typeface.Sans},
		Sheets:     Sheets{As: AsSheet, Text: "Annex {letter}", Side: Right, Writing: writing},
		Numbers:    Numbers{First: 1, From: 1, Style: Slash, Side: Right, Prefix: "A-", Digits: 4, Skip: "cover", Writing: writing},
		Header:     Line{Texts: Texts{Left: "{packet}", Right: "{date}"}, Skip: "cover", Writing: small},
		Footer:     Line{Texts: Texts{Left: "{part}"}, Skip: "cover", Writing: small},
		Watermark:  Watermark{Text: "Draft", Face: typeface.Sans, Colour: "#a3262a", Angle: 45, Place: AtMiddle, Strength: 20},
		Bookmarks:  Bookmarks{On: true, Nested: true},
		Opening:    Opening{Layout: "page", Page: 1, Fit: "page", Bookmarks: true},
		Protection: Protection{Locked: true, Print: true, Copy: true, Fill: true},
	}
}

// OrDefaults has what is proposed in place of each section that was never set.
func (f Finish) OrDefaults() Finish {
	proposed := Default()
	orProposed(&f.Cover, proposed.Cover)
	orProposed(&f.Contents, proposed.Contents)
	orProposed(&f.Sheets, proposed.Sheets)
	orProposed(&f.Numbers, proposed.Numbers)
	orProposed(&f.Header, proposed.Header)
	orProposed(&f.Footer, proposed.Footer)
	orProposed(&f.Watermark, proposed.Watermark)
	orProposed(&f.Bookmarks, proposed.Bookmarks)
	orProposed(&f.Opening, proposed.Opening)
	orProposed(&f.Protection, proposed.Protection)
	return f
}

func orProposed[T comparable](section *T, proposed T) {
	var unset T
	if *section == unset {
		*section = proposed
	}
}

const (
	longestText = 500 // letters of a field
	mostNumber  = 10_000_000
)

var colour = regexp.MustCompile(`^#[0-9a-fA-F]{6}$`)

// Check tells what of it makes no sense for a packet of so many pages.
func (f Finish) Check(pages int) error {
	return errors.Join(
		f.Cover.check(), f.Contents.check(), f.Sheets.check(), f.Numbers.check(pages), f.Header.check(message.Of("the header")), f.Footer.check(message.Of("the footer")),
		f.Watermark.check(), f.Letterhead.check(), f.Bookmarks.check(), f.Properties.check(), f.Opening.check(pages), f.Protection.check(),
	)
}

func (n Numbers) check(pages int) error {
	switch {
	case n == Numbers{}:
		return nil
	case n.First < 0 || n.First > mostNumber:
		return message.Errorf("page numbers begin at 0 or above, not at %d", n.First)
	case n.From < 1 || n.From > max(pages, 1):
		return message.Errorf("page numbers begin on a page from 1 to %d, not on %d", max(pages, 1), n.From)
	case n.To != 0 && n.To < n.From:
		return message.Errorf("page numbers cannot end on page %d, before they begin", n.To)
	case !slices.Contains([]Style{Plain, Dashes, Slash, OfTotal, Roman, Prefixed}, n.Style):
		return message.Errorf("there are no page numbers %q", string(n.Style))
	case !slices.Contains([]Side{Left, Middle, Right, Outer}, n.Side):
		return message.Errorf("page numbers are left, middle, right or outer, not %q", string(n.Side))
	case n.Digits < 0 || n.Digits > 12:
		return message.Errorf("page numbers have at most 12 digits")
	}
	return errors.Join(checkText(message.Of("page numbers"), n.Face, n.Prefix), n.Writing.check(message.Of("page numbers")))
}

func (l Line) check(what message.Text) error {
	if l == (Line{}) {
		return nil
	}
	return errors.Join(
		checkText(what, l.Face, l.Left, l.Middle, l.Right, l.Even.Left, l.Even.Middle, l.Even.Right), l.Writing.check(what),
	)
}

func (w Writing) check(what message.Text) error {
	switch {
	case !(w.Size >= 4 && w.Size <= 72):
		return message.Errorf("%s: text is from 4 to 72 points, not %g", what, w.Size)
	case !(w.Edge >= 0 && w.Edge <= geometry.FromMM(100)):
		return message.Errorf("%s: it stands from 0 to 100 mm from the edge", what)
	}
	return checkLooks(what, w.Face, w.Colour)
}

func checkLooks(what message.Text, face typeface.Face, inColour string) error {
	switch {
	case !slices.Contains(typeface.Faces, face):
		return message.Errorf("%s: there is no typeface %q", what, string(face))
	case !colour.MatchString(inColour):
		return message.Errorf("%s: %q is no colour such as #1c5a52", what, inColour)
	}
	return nil
}

func checkText(what message.Text, face typeface.Face, texts ...string) error {
	for _, text := range texts {
		if n := utf8.RuneCountInString(text); n > longestText {
			return message.Errorf("%s: a text has at most %d letters, this one has %d", what, longestText, n)
		}
		if letter, missing := face.Missing(text); missing {
			return message.Errorf("%s: the typeface does not have the letter %q", what, letter)
		}
	}
	return nil
}

func (p Properties) check() error {
	for _, property := range []struct {
		name message.Text
		text string
	}{
		{message.Of("the title"), p.Title},
		{message.Of("the author"), p.Author},
		{message.Of("the subject"), p.Subject},
		{message.Of("the keywords"), p.Keywords},
		{message.Of("the reference"), p.Reference},
		{message.Of("the case number"), p.CaseNumber},
		{message.Of("the sender’s reference"), p.SenderReference},
	} {
		if n := utf8.RuneCountInString(property.text); n > longestText {
			return message.Errorf("%s has at most %d letters, this one has %d", property.name, longestText, n)
		}
	}
	_, err := p.OwnFields()
	return err
}

func (p Protection) check() error {
	if p.On && !p.Locked && p.Print && p.Copy && p.Fill {
		return message.Errorf("the protection allows everything: have it opened with a password, or take something away")
	}
	return nil
}

func (o Opening) check(pages int) error {
	switch {
	case o == Opening{}:
		return nil
	case !slices.Contains([]string{"page", "scroll", "facing"}, o.Layout):
		return message.Errorf("a document opens by page, scroll or facing, not %q", o.Layout)
	case !slices.Contains([]string{"page", "width", "actual"}, o.Fit):
		return message.Errorf("a page is fitted by page, width or actual, not %q", o.Fit)
	case o.Page < 1 || o.Page > max(pages, 1):
		return message.Errorf("a document opens at a page from 1 to %d, not at %d", max(pages, 1), o.Page)
	}
	return nil
}
