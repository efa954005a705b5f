package ocr

import (
	"context"
	"image"
	"strconv"
	"strings"
	"unicode"
)

// Word is a word that was read, without what is no letter or digit in it.
type Word struct {
	Text       string
	Confidence float64 // 0 to 100
}

// Words gives the words on a page, of two letters or digits at least.
func (r Reader) Words(ctx context.Context, img image.Image) ([]Word, error) {
	table, err := r.read(ctx, img, "--psm", "3", "tsv")
	if err != nil {
		return nil, err
	}
	return parseTable(table), nil
}

// Columns of tesseract's table, which has one row for every block, line and word.
const (
	confidenceColumn = 10
	textColumn       = 11
)

func parseTable(table string) []Word {
	var words []Word
	for row := range strings.Lines(table) {
		columns := strings.Split(strings.TrimRight(row, "\r\n"), "\t")
		if len(columns) <= textColumn {
			continue
		}
		confidence, err := strconv.ParseFloat(columns[confidenceColumn], 64)
		if err != nil || confidence < 0 {
			continue // of a block or a line, or the head of the table
		}
		text := strings.Map(func(r rune) rune {
			if unicode.IsLetter(r) || unicode.IsDigit(r) {
				return r
			}
			return -1
		}, columns[textColumn])
		if len([]rune(text)) > 1 {
			words = append(words, Word{text, confidence})
		}
	}
	return words
}
