package pdfium

import (
	"fmt"
	"math"

	"github.com/klippa-app/go-pdfium/references"
	"github.com/klippa-app/go-pdfium/requests"

	"dorbin/core/check"
	"dorbin/core/geometry"
)

const (
	mostText     = 20_000 // characters of a page that are read
	anglesSample = 120    // characters whose direction is measured
)

// Text reads the text of a page of a PDF, counted from 1, and which way it runs
// as the page is shown.
func (l *Library) Text(path string, page int) (check.Text, error) {
	var text check.Text
	err := l.use(func() error {
		doc, err := l.document(path)
		if err != nil {
			return err
		}
		which := requests.Page{ByIndex: &requests.PageByIndex{Document: doc, Index: page - 1}}
		loaded, err := l.instance.FPDFText_LoadPage(&requests.FPDFText_LoadPage{Page: which})
		if err != nil {
			return fmt.Errorf("read text of page %d: %w", page, err)
		}
		defer func() {
			_, _ = l.instance.FPDFText_ClosePage(&requests.FPDFText_ClosePage{TextPage: loaded.TextPage}) // nothing to be done about it
		}()
		rotation, err := l.instance.FPDFPage_GetRotation(&requests.FPDFPage_GetRotation{Page: which})
		if err != nil {
			return fmt.Errorf("read rotation of page %d: %w", page, err)
		}
		text, err = l.text(loaded.TextPage, int(rotation.PageRotation)*90)
		return err
	})
	return text, err
}

func (l *Library) text(page references.FPDF_TEXTPAGE, rotation int) (check.Text, error) {
	count, err := l.instance.FPDFText_CountChars(&requests.FPDFText_CountChars{TextPage: page})
	if err != nil {
		return check.Text{}, fmt.Errorf("count characters: %w", err)
	}
	if count.Count <= 0 {
		return check.Text{}, nil
	}
	read, err := l.instance.FPDFText_GetText(&requests.FPDFText_GetText{TextPage: page, Count: min(count.Count, mostText)})
	if err != nil {
		return check.Text{}, fmt.Errorf("read characters: %w", err)
	}
	text := check.Text{Lines: read.Text}
	text.Turn, text.Share = l.direction(page, count.Count, rotation)
	return text, nil
}

// direction samples the characters' angles, which PDFium gives counterclockwise
// in the page's own axes, before its rotation.
func (l *Library) direction(page references.FPDF_TEXTPAGE, count, rotation int) (turn int, share float64) {
	votes := map[int]int{}
	sampled := 0
	for i := 0; i < count; i += max(1, count/anglesSample) {
		angle, err := l.instance.FPDFText_GetCharAngle(&requests.FPDFText_GetCharAngle{TextPage: page, Index: i})
		if err != nil || angle.CharAngle < 0 {
			continue // a character that is not on the page, such as a line's end
		}
		quarter := int(math.Round(float64(angle.CharAngle) / (math.Pi / 2)))
		votes[geometry.NormalTurn(quarter*90-rotation)]++
		sampled++
	}
	best := 0
	for candidate, n := range votes {
		if n > best {
			best, turn = n, candidate
		}
	}
	return turn, float64(best) / float64(max(1, sampled))
}
