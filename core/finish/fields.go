package finish

import (
	"cmp"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
)

// The fields that texts may have, besides properties of the user's own: those that differ from page
// to page, and those that are the same in the whole document.
var (
	PageFields     = []string{"page", "pages", "number", "part", "partNumber", "letter"}
	DocumentFields = []string{"packet", "title", "date", "receiver", "author", "subject", "reference", "caseNumber", "senderReference"}
)

// Facts are what fields stand for that Finish does not say itself.
type Facts struct {
	Packet   string
	Date     string // as it is to be written
	Receiver string
	Pictures map[string]geometry.Size `json:",omitempty"` // sizes in points, by source and page
}

// fields stand for what differs from page to page, and for what is the same on all.
type fields struct {
	common []string // names in braces and what they stand for, in turn
}

// fields of a document.
func (f Finish) fields(facts Facts) fields {
	p := f.Properties
	common := []string{
		"{packet}", facts.Packet, "{date}", facts.Date, "{receiver}", facts.Receiver, "{title}", cmp.Or(p.Title, facts.Packet),
		"{author}", p.Author, "{subject}", p.Subject,
		"{reference}", p.Reference, "{caseNumber}", p.CaseNumber, "{senderReference}", p.SenderReference,
	}
	own, _ := p.OwnFields() // what was accepted has no error
	for _, field := range own {
		common = append(common, "{"+field.Name+"}", field.Value)
	}
	return fields{common}
}

// Fill fills in the fields that are the same on all pages.
func (f Finish) Fill(text string, facts Facts) string {
	return strings.NewReplacer(f.fields(facts).common...).Replace(text)
}

// on fills in the fields of a page.
func (f fields) on(page Page, place Place) *strings.Replacer {
	return strings.NewReplacer(append([]string{
		"{page}", strconv.Itoa(place.At + 1), "{pages}", strconv.Itoa(place.Of), "{number}", place.Number, "{part}", page.Part,
		"{partNumber}", ordinal(page.Annex), "{letter}", letters(page.Annex),
	}, f.common...)...)
}

func ordinal(n int) string {
	if n == 0 {
		return ""
	}
	return strconv.Itoa(n)
}

// letters writes a number from 1 in capitals: A to Z, then AA.
func letters(n int) string {
	text := ""
	for ; n > 0; n = (n - 1) / 26 {
		text = string(rune('A'+(n-1)%26)) + text
	}
	return text
}

// Field is a property of the user's own.
type Field struct{ Name, Value string }

// mostOwn properties there are.
const mostOwn = 20

var ownName = regexp.MustCompile(`^[A-Za-z][A-Za-z0-9 _-]{0,39}$`)

// OwnFields are the properties of the user's own.
func (p Properties) OwnFields() (own []Field, err error) {
	for line := range strings.Lines(p.Own) {
		if strings.TrimSpace(line) == "" {
			continue
		}
		name, value, found := strings.Cut(line, ":")
		name, value = strings.TrimSpace(name), strings.TrimSpace(value)
		switch {
		case !found || !ownName.MatchString(name):
			return nil, fmt.Errorf("a property of your own is a name of plain letters, a colon and a value, not %q", strings.TrimSpace(line))
		case utf8.RuneCountInString(value) > longestText:
			return nil, fmt.Errorf("the property %q has at most %d letters", name, longestText)
		case len(own) == mostOwn:
			return nil, fmt.Errorf("there are at most %d properties of your own", mostOwn)
		}
		own = append(own, Field{name, value})
	}
	return own, nil
}
