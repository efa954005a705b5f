package message

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"
)

// Text is a text for users. The zero Text is empty.
type Text struct {
	English string `json:"english" doc:"The text in English."`
	// Code names what the text is made of; it is empty where that is not known.
	Code     string  `json:"code,omitempty" doc:"The text's key in catalogues of other languages; missing where it is in English only."`
	Values   []Value `json:"values,omitempty" nullable:"false" doc:"What stands for {{0}}, {{1}} and so on; the items of a list."`
	Count    *int    `json:"count,omitempty" doc:"The number that the form of a plural goes by."`
	Sentence bool    `json:"sentence,omitempty" doc:"It ends with a full stop, and begins with a capital letter unless it begins with words that are a value."`
}

// Value is what stands in a text for a placeholder: a text, a number, a day, or else words that are the same in every
// language, such as the name of a file.
type Value struct {
	Text     *Text    `json:"text,omitempty"`
	Number   *float64 `json:"number,omitempty"`
	Decimals int      `json:"decimals,omitempty" doc:"Of the number."`
	Day      string   `json:"day,omitempty" doc:"Such as 2026-03-31."`
	Words    string   `json:"words,omitempty"`
}

// Day is a day such as 2026-03-31, which is written out in a text.
type Day string

// String writes the day as people do in English: 31 March 2026.
func (d Day) String() string {
	at, err := time.Parse(time.DateOnly, string(d))
	if err != nil {
		return string(d)
	}
	return at.Format("2 January 2006")
}

// Codes of lists, whose values are the items.
const (
	listAnd    = "list-and"
	listOr     = "list-or"
	listCommas = "list-commas"
	listThen   = "list-then"
	listSpaces = "list-spaces"
)

// Of makes a text of a constant format, as of fmt.Sprintf, and values. A value may be a Text, or an error that has one.
func Of(format string, values ...any) Text {
	told := formatOf(format)
	return Text{English: fmt.Sprintf(format, values...), Code: told.code, Values: told.valuesOf(values)}
}

// Sentence is Of as a sentence: see AsSentence.
func Sentence(format string, values ...any) Text { return Of(format, values...).AsSentence() }

// Count makes a text of one of two constant formats, by a number. Without other values the number is what stands
// for the placeholder.
func Count(n int, one, other string, values ...any) Text {
	if len(values) == 0 {
		values = []any{n}
	}
	told := formatOf(other)
	text := Text{Code: told.code, Values: told.valuesOf(values), Count: &n}
	if n == 1 {
		other = one
	}
	text.English = fmt.Sprintf(other, values[:strings.Count(strings.ReplaceAll(other, "%%", ""), "%")]...)
	return text
}

// Plain is a text that is the same in every language, such as a name.
func Plain(words string) Text { return Text{English: words} }

// And lists items: "a, b and c".
func And[T any](items ...T) Text { return list(listAnd, ", ", " and ", items) }

// Or lists alternatives: "a, b or c".
func Or[T any](items ...T) Text { return list(listOr, ", ", " or ", items) }

// Commas lists items with commas only.
func Commas[T any](items ...T) Text { return list(listCommas, ", ", ", ", items) }

func list[T any](code, between, last string, items []T) Text {
	if len(items) == 0 {
		return Text{}
	}
	text := Text{Code: code}
	for i, item := range items {
		switch {
		case i > 0 && i == len(items)-1:
			text.English += last
		case i > 0:
			text.English += between
		}
		value := valueOf('s', 0, item)
		text.Values = append(text.Values, value)
		text.English += fmt.Sprint(item)
	}
	return text
}

// Sentences puts sentences one behind the other.
func Sentences(items ...Text) Text { return list(listSpaces, " ", " ", items) }

// Then lists what was done one after the other: "Turned page 3 right, then set aside page 4".
func Then(items ...Text) Text {
	told := make([]Text, len(items))
	for i, item := range items {
		if told[i] = item; i > 0 {
			_, first := utf8.DecodeRuneInString(item.English)
			told[i].English = strings.ToLower(item.English[:first]) + item.English[first:]
		}
	}
	return list(listThen, ", then ", ", then ", told)
}

// String gives the text in English.
func (t Text) String() string { return t.English }

// Message gives the text itself.
func (t Text) Message() Text { return t }

// IsEmpty tells whether there is no text.
func (t Text) IsEmpty() bool { return t.English == "" }

// AsSentence makes the text end with a full stop, and begin with a capital letter unless it begins with words such as
// the name of a file.
func (t Text) AsSentence() Text {
	if t.English == "" {
		return t
	}
	beginsWith := func(value Value) bool { return value.Words != "" && strings.HasPrefix(t.English, value.Words) }
	if !slices.ContainsFunc(t.Values, beginsWith) {
		first, size := utf8.DecodeRuneInString(t.English)
		t.English = string(unicode.ToUpper(first)) + t.English[size:]
	}
	if !strings.ContainsRune(".!?", rune(t.English[len(t.English)-1])) {
		t.English += "."
	}
	t.Sentence = true
	return t
}

// UnmarshalJSON also takes a string, as data folders of earlier versions have it: it is English.
func (t *Text) UnmarshalJSON(data []byte) error {
	*t = Text{}
	if strings.HasPrefix(string(data), `"`) {
		return json.Unmarshal(data, &t.English) //nolint:wrapcheck // the package's caller is encoding/json
	}
	type bare Text
	return json.Unmarshal(data, (*bare)(t)) //nolint:wrapcheck // as above
}

// Error is an error whose text users read.
type Error struct{ text Text }

// Errorf makes an error of a constant format and values, as Of does.
func Errorf(format string, values ...any) error { return &Error{Of(format, values...)} }

// Error gives the text in English.
func (e *Error) Error() string { return e.text.English }

// Message gives the text.
func (e *Error) Message() Text { return e.text }

// OfError is the text of an error for users: its own where it has one, else what it says. Of joined errors the texts are
// listed.
func OfError(err error) Text {
	switch err := err.(type) { //nolint:errorlint // what wraps an error with a text says more than it
	case interface{ Message() Text }:
		return err.Message()
	case interface{ Unwrap() []error }:
		var texts []Text
		for _, joined := range err.Unwrap() {
			texts = append(texts, OfError(joined))
		}
		if len(texts) == 1 {
			return texts[0]
		}
		return Commas(texts...)
	}
	return Plain(err.Error())
}
