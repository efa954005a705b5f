package finish

import (
	"cmp"
	"maps"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"dorbin/core/geometry"
	"dorbin/core/message"
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

// fields stand for what is the same in the whole document, by names.
type fields map[string]string

// fields of a document.
func (f Finish) fields(facts Facts) fields {
	p := f.Properties
	fields := fields{}
	own, _ := p.OwnFields() // what was accepted has no error
	for _, field := range slices.Backward(own) {
		fields[field.Name] = field.Value
	}
	maps.Copy(fields, map[string]string{
		"packet": facts.Packet, "date": facts.Date, "receiver": facts.Receiver, "title": cmp.Or(p.Title, facts.Packet),
		"author": p.Author, "subject": p.Subject, "reference": p.Reference, "caseNumber": p.CaseNumber, "senderReference": p.SenderReference,
	})
	return fields
}

// Fill fills in the fields that are the same on all pages.
func (f Finish) Fill(text string, facts Facts) string {
	fields := f.fields(facts)
	return filled(text, func(name string) (value string, known bool) {
		value, known = fields[name]
		return value, known
	})
}

// filler fills in the fields of a page.
type filler struct {
	fields fields
	page   Page
	place  Place
}

// on fills in the fields of a page.
func (f fields) on(page Page, place Place) filler { return filler{f, page, place} }

func (f filler) fill(text string) string { return filled(text, f.value) }

// value is what a field stands for on the page.
func (f filler) value(name string) (value string, known bool) {
	switch name {
	case "page":
		return strconv.Itoa(f.place.At + 1), true
	case "pages":
		return strconv.Itoa(f.place.Of), true
	case "number":
		return f.place.Number, true
	case "part":
		return f.page.Part, true
	case "partNumber":
		return ordinal(f.page.Annex), true
	case "letter":
		return letters(f.page.Annex), true
	}
	value, known = f.fields[name]
	return value, known
}

// filled is a text in which names in braces are replaced by what they stand for; what is not known stays.
func filled(text string, valueOf func(name string) (value string, known bool)) string {
	result := ""
	for {
		start := strings.IndexByte(text, '{')
		if start < 0 {
			return result + text
		}
		result, text = result+text[:start], text[start:]
		end := strings.IndexAny(text[1:], "{}") + 1
		if end <= 0 {
			return result + text
		}
		if text[end] == '{' { // the first brace begins no name
			result, text = result+text[:end], text[end:]
			continue
		}
		value, known := valueOf(text[1:end])
		if !known {
			value = text[:end+1]
		}
		result, text = result+value, text[end+1:]
	}
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
			return nil, message.Errorf("a property of your own is a name of plain letters, a colon and a value, not %q", strings.TrimSpace(line))
		case utf8.RuneCountInString(value) > longestText:
			return nil, message.Errorf("the property %q has at most %d letters", name, longestText)
		case len(own) == mostOwn:
			return nil, message.Errorf("there are at most %d properties of your own", mostOwn)
		}
		own = append(own, Field{name, value})
	}
	return own, nil
}
