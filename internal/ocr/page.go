package ocr

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/text/language"
	"golang.org/x/text/language/display"

	"dorbin/core/text"
)

// Text reads a page, whose writing stands upright, in languages by tesseract's names for them. The
// places of words are in pixels of the picture, which has so many of them an inch. It returns
// ErrNotInstalled when there is no program to read with.
func (r Reader) Text(ctx context.Context, img image.Image, languages []string, dpi int) (text.Page, error) {
	var out bytes.Buffer
	err := r.run(ctx, img, &out, "stdin", "stdout", "-l", strings.Join(languages, "+"),
		"--dpi", strconv.Itoa(dpi), "--psm", "3", "-c", "tessedit_create_hocr=1")
	if err != nil {
		return text.Page{}, err
	}
	page, err := parseHOCR(&out)
	if err != nil {
		return text.Page{}, fmt.Errorf("read text: %w", err)
	}
	return page, nil
}

// Language is one in which text can be read.
type Language struct {
	Code string `json:"code" doc:"The recognition program's name for it, such as deu."`
	Name string `json:"name" doc:"Its name in English."`
	Tag  string `json:"tag" doc:"Its BCP 47 tag, such as de."`
}

// notLanguages are data of tesseract for something else.
var notLanguages = []string{"osd", "equ", "snum"}

// Languages lists those that are installed, by name. It returns ErrNotInstalled when there is no
// program to read with.
func (r Reader) Languages(ctx context.Context) ([]Language, error) {
	var out bytes.Buffer
	if err := r.run(ctx, nil, &out, "--list-langs"); err != nil {
		return nil, fmt.Errorf("list the languages that text can be read in: %w", err)
	}
	return parseLanguages(out.String()), nil
}

// parseLanguages reads tesseract's list: a line of words, then a name in each line. Scripts are in
// a folder of their own.
func parseLanguages(list string) []Language {
	var languages []Language
	for line := range strings.Lines(list) {
		code := strings.TrimSpace(line)
		if code == "" || strings.ContainsAny(code, " /:\\") || slices.Contains(notLanguages, code) {
			continue
		}
		languages = append(languages, languageOf(code))
	}
	slices.SortFunc(languages, func(a, b Language) int { return strings.Compare(a.Name, b.Name) })
	return languages
}

// tags are those of names that are no codes of ISO 639.
var tags = map[string]string{
	"chi_sim": "zh-Hans", "chi_tra": "zh-Hant", "srp_latn": "sr-Latn", "aze_cyrl": "az-Cyrl", "uzb_cyrl": "uz-Cyrl",
	"kmr": "kmr", "frk": "de-Latf", "dan_frak": "da-Latf", "slk_frak": "sk-Latf", "spa_old": "es", "ita_old": "it", "kat_old": "ka",
}

// Tag is the BCP 47 tag of a language by tesseract's name for it; empty where it has none.
func Tag(code string) string {
	plain := strings.TrimSuffix(code, "_vert")
	if tag, ok := tags[plain]; ok {
		return tag
	}
	parsed, err := language.Parse(plain)
	if err != nil {
		return ""
	}
	return parsed.String()
}

func languageOf(code string) Language {
	plain, isVertical := strings.CutSuffix(code, "_vert")
	l := Language{Code: code, Name: code}
	parsed, err := language.Parse(Tag(code))
	if err != nil {
		return l
	}
	l.Tag = parsed.String()
	if name := display.English.Tags().Name(parsed); name != "" {
		l.Name = name
	}
	switch {
	case isVertical:
		l.Name += ", upright lines"
	case strings.HasSuffix(plain, "_old"):
		l.Name += ", old print"
	}
	return l
}

// IsNonsense tells whether what was read failed because the answer was none.
func IsNonsense(err error) bool { return errors.Is(err, errNonsense) }
