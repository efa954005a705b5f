package handin

import (
	"context"
	"fmt"
	"io"
	"os"
	"strings"

	"dorbin/core/message"
	"dorbin/core/requirements"
)

// channel brings a document to its receiver, and gives the receiver's answer.
//
// It returns a problem.Error where the receiver refuses the document, or nothing can be done about it,
// and a brokenError where it may be tried again.
type channel interface {
	send(ctx context.Context, s *sending) (answer message.Text, err error)
}

// document is what is handed in, with what is said about it.
type document struct {
	id          string // of the delivery: the same when it is tried again
	path        string
	name        string // of the file
	contentType string
	bytes       int64
	sha256      string
	pages       int
	reference   string
	title       string
	fill        func(text string) string // the fields in braces
}

// sending is a document on its way.
type sending struct {
	document
	delivery requirements.Delivery
	password string
	stage    string                   // that an earlier try noted
	note     func(stage string) error // keeps how far this one has come
	sent     func(bytes int64)
}

// open opens the file, and counts what is read of it.
func (s *sending) open() (io.ReadCloser, error) {
	file, err := os.Open(s.path)
	if err != nil {
		return nil, fmt.Errorf("open the document: %w", err)
	}
	return &counted{File: file, tell: s.sent}, nil
}

// counted tells how many bytes were read of a file.
type counted struct {
	*os.File
	read int64
	tell func(bytes int64)
}

// Read reads from the file.
func (c *counted) Read(p []byte) (int, error) {
	n, err := c.File.Read(p)
	c.read += int64(n)
	c.tell(c.read)
	return n, err //nolint:wrapcheck // io.EOF is told as it is
}

// WriteTo hides the file's own, which would not be counted.
func (c *counted) WriteTo(w io.Writer) (int64, error) {
	return io.Copy(w, struct{ io.Reader }{c})
}

// brokenError is a line that broke, or a receiver that has no time.
type brokenError struct {
	sentence       message.Text
	cause          error
	mayHaveArrived bool
}

// Error gives the sentence and its cause.
func (e *brokenError) Error() string { return fmt.Sprintf("%s (%v)", e.sentence, e.cause) }

// Unwrap gives the cause.
func (e *brokenError) Unwrap() error { return e.cause }

func broke(cause error, format string, values ...any) error {
	return &brokenError{sentence: message.Of(format, values...), cause: cause}
}

// placedAnswer says under which name a document was placed.
func placedAnswer(wanted, got string) message.Text {
	if wanted == got {
		return message.Text{}
	}
	return message.Of("Placed as %s, as there was a %s.", got, wanted)
}

// Stages of the channels that place a file: its name follows the colon.
const placing = "placing:"

// placedBefore is the name under which an earlier try was about to place the file; empty where none
// was.
func (s *sending) placedBefore() string {
	name, ok := strings.CutPrefix(s.stage, placing)
	if !ok {
		return ""
	}
	return name
}

// partName is the name that a file has while it is written.
func (s *sending) partName() string { return "." + s.id + ".part" }
