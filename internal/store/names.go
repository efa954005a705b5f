package store

import (
	"crypto/rand"
	"errors"
	"strings"
)

// Kinds of jobs. Their keys are in parentheses.
const (
	JobPageBytes    = "pageBytes"    // (source) measures how many bytes the pages of a PDF are
	JobAnalyze      = "analyze"      // (source) analyses its pages for findings
	JobCompareInk   = "compareInk"   // (packet) compares the ink of scans that look alike
	JobFacing       = "facing"       // (source) looks for two facing pages in scans
	JobPageNumber   = "pageNumber"   // (packet and page of its batch) reads a scanned page's printed number
	JobMeasure      = "measure"      // (packet) measures how its pages can be encoded
	JobExport       = "export"       // (export) makes a document
	JobComparePages = "comparePages" // (export) compares the pages of a finished document with the packet's
	JobOwnText      = "ownText"      // (source) reads the text that the pages of a PDF have
	JobReadText     = "readText"     // (packet) recognises the text of its pages
	JobCompareWords = "compareWords" // (export) compares the words of a finished document
	JobHandIn       = "handIn"       // (delivery) hands a finished document in
)

// NewID makes an identifier that cannot be guessed. The prefix tells what it names.
func NewID(prefix string) string { return prefix + strings.ToLower(rand.Text()[:16]) }

// UnlessGone drops the error of work on something that was deleted meanwhile.
func UnlessGone(err error) error {
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	return err
}
