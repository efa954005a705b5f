package message

import (
	"fmt"
	"hash/fnv"
	"regexp"
	"strconv"
	"strings"
	"sync"
	"unicode"
)

// format is a format of fmt.Sprintf taken apart.
type format struct {
	code  string
	verbs []verb
}

type verb struct {
	text     string // such as "%.1f"
	letter   byte   // such as 'f'
	decimals int
}

var (
	verbs   = regexp.MustCompile(`%[-+# 0]*\d*(?:\.(\d+))?([a-zA-Z%])`)
	noWords = regexp.MustCompile(`[^\pL\pN]+`)
	formats sync.Map // formats that were taken apart already, by their strings
)

func formatOf(text string) *format {
	if known, ok := formats.Load(text); ok {
		return known.(*format) //nolint:forcetypeassert // nothing else is kept
	}
	told := &format{}
	for _, found := range verbs.FindAllStringSubmatch(text, -1) {
		if letter := found[2][0]; letter != '%' {
			decimals, _ := strconv.Atoi(found[1])
			told.verbs = append(told.verbs, verb{found[0], letter, decimals})
		}
	}
	told.code = codeOf(text)
	formats.Store(text, told)
	return told
}

// longestCode is how many bytes of a text's words are in its code.
const longestCode = 60

// codeOf makes a key of a format's words and the numbers of its placeholders: "Page-0-leans-by-1". That of a long
// format is cut. It and that of a format without words end with a hash of the format.
func codeOf(text string) string {
	code := strings.Trim(noWords.ReplaceAllString(Pattern(text), "-"), "-")
	hasWords := strings.ContainsFunc(code, unicode.IsLetter)
	if hasWords && len(code) <= longestCode {
		return code
	}
	if len(code) > longestCode {
		code = code[:max(1, strings.LastIndexByte(code[:longestCode], '-'))]
	}
	hash := fnv.New32a()
	hash.Write([]byte(text))
	return fmt.Sprintf("%s-%08x", code, hash.Sum32())
}

// Code is the key of the texts that are made of a format.
func Code(format string) string { return formatOf(format).code }

// Pattern is a format as catalogues have it: with {{0}}, {{1}} and so on for what is put in.
func Pattern(format string) string {
	n := -1
	return verbs.ReplaceAllStringFunc(format, func(verb string) string {
		if strings.HasSuffix(verb, "%") {
			return "%"
		}
		n++
		return "{{" + strconv.Itoa(n) + "}}"
	})
}

func (f *format) valuesOf(values []any) []Value {
	var told []Value
	for i, verb := range f.verbs[:min(len(f.verbs), len(values))] {
		value := valueOf(verb.letter, verb.decimals, values[i])
		if value.isWords() {
			value.Words = fmt.Sprintf(verb.text, values[i])
		}
		told = append(told, value)
	}
	return told
}

func valueOf(letter byte, decimals int, value any) Value {
	switch value := value.(type) {
	case interface{ Message() Text }:
		return textValue(value.Message())
	case error:
		return textValue(OfError(value))
	case Day:
		return Value{Day: string(value)}
	}
	if strings.IndexByte("df", letter) < 0 {
		return Value{Words: fmt.Sprint(value)}
	}
	number, err := strconv.ParseFloat(fmt.Sprint(value), 64)
	if err != nil {
		return Value{Words: fmt.Sprint(value)}
	}
	return Value{Number: &number, Decimals: decimals}
}

func (v Value) isWords() bool { return v.Text == nil && v.Number == nil && v.Day == "" }

// textValue needs no Text for words that are the same in every language.
func textValue(text Text) Value {
	if text.Code == "" {
		return Value{Words: text.English}
	}
	return Value{Text: &text}
}
