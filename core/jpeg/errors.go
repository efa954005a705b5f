package jpeg

import (
	"errors"
	"fmt"
)

// ErrNotJPEG is returned for what does not begin as a JPEG does.
var ErrNotJPEG = errors.New("it is not a JPEG")

// UnsupportedError tells of a JPEG of a kind that is not read.
type UnsupportedError string

// Error says which kind.
func (e UnsupportedError) Error() string { return "it is a rare kind of JPEG: " + string(e) }

// FormatError tells of a JPEG whose headers or tables make no sense.
type FormatError string

// Error says what is wrong.
func (e FormatError) Error() string { return "it is a broken JPEG: " + string(e) }

// DamagedError tells of a JPEG of which a part was decoded.
type DamagedError struct {
	// Rows of pixels, from the top, are whole in all scans that were begun.
	Rows int
	// Scans were decoded, of which the last may have broken off.
	Scans int
	// Progressive pictures are whole after their first scans, but coarse.
	Progressive bool
	Cause       error
}

// Error says what is wrong.
func (e *DamagedError) Error() string {
	return fmt.Sprintf("it is damaged after %d rows of scan %d: %v", e.Rows, e.Scans, e.Cause)
}

// Unwrap gives the cause.
func (e *DamagedError) Unwrap() error { return e.Cause }
