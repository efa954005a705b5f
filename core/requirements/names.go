package requirements

import (
	"path"
	"regexp"
	"strings"
	"unicode"
	"unicode/utf8"

	"golang.org/x/text/unicode/norm"

	"dorbin/core/message"
)

func (r Rules) nameTitle() message.Text {
	var words []message.Text
	if r.FileName != "" {
		words = append(words, message.Of("named %s", r.FileName))
	}
	if r.PlainName {
		words = append(words, message.Of("of letters, digits, - and _"))
	}
	if r.LongestName > 0 {
		words = append(words, message.Of("of at most %d characters", r.LongestName))
	}
	return when(len(words) > 0, message.Of("File name %s", message.Commas(words...)))
}

// fileName holds the names against the rules. A pattern is filled in by whoever knows the packet; of a
// finished document it is not known what was to be filled in.
func (j judge) fileName() Verdict {
	for _, file := range j.facts.Files {
		switch {
		case j.rules.PlainName && strings.ContainsFunc(file.Name, isNotPlain):
			return notMet(message.Of("%s has other characters", file.Name))
		case j.rules.LongestName > 0 && utf8.RuneCountInString(file.Name) > j.rules.LongestName:
			return notMet(message.Of("%s has %d characters", file.Name, utf8.RuneCountInString(file.Name)))
		case j.rules.FileName != "" && !matches(j.rules.FileName, file.Name):
			return notMet(message.Of("%s is named otherwise", file.Name))
		}
	}
	if len(j.facts.Files) == 0 {
		return pending(message.Text{})
	}
	return met(message.Plain(j.facts.Files[0].Name))
}

func isNotPlain(r rune) bool {
	return !(r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '_' || r == '.')
}

// matches tells whether a name can be of a pattern: what stands between its fields is there, in its
// order.
func matches(pattern, name string) bool {
	var expression strings.Builder
	expression.WriteString("^")
	for i, piece := range strings.Split(pattern, "{") {
		if _, fixed, isField := strings.Cut(piece, "}"); isField && i > 0 {
			expression.WriteString(".*")
			piece = fixed
		} else if i > 0 {
			piece = "{" + piece
		}
		expression.WriteString(regexp.QuoteMeta(folded(piece)))
	}
	expression.WriteString("$")
	matcher, err := regexp.Compile(expression.String())
	return err == nil && matcher.MatchString(folded(strings.TrimSuffix(name, path.Ext(name))))
}

// folded is a name as it is compared: systems that refuse characters have others in their place.
func folded(s string) string { return strings.ToLower(plain(s)) }

// plain is a text without accents, whose other characters became hyphens.
func plain(s string) string {
	return strings.Map(func(r rune) rune {
		switch {
		case unicode.Is(unicode.Mn, r):
			return -1
		case isNotPlain(r):
			return '-'
		}
		return r
	}, norm.NFD.String(s))
}

// NameFor joins a name and its ending, such as a number and the extension, to a file name as the rules
// want it: the name is cut, not the ending.
func (r Rules) NameFor(name, ending string) string {
	if r.PlainName {
		name, ending = plain(name), plain(ending)
	}
	if room := r.LongestName - utf8.RuneCountInString(ending); r.LongestName > 0 && utf8.RuneCountInString(name) > room {
		name = strings.TrimRight(string([]rune(name)[:max(1, room)]), " -_.")
	}
	return name + ending
}
