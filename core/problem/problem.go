package problem

import (
	"dorbin/core/message"
)

// Kind is what sort of answer a problem gets. Errors of a kind match it by errors.Is.
type Kind string

// The kinds.
const (
	Invalid  Kind = "it cannot be done"      // what was asked for makes no sense, or a file or device does not
	Conflict Kind = "it cannot be done now"  // something else is under way, or was done meanwhile
	Missing  Kind = "what it is for is gone" // what was asked for is not there
)

// Error implements error.
func (k Kind) Error() string { return string(k) }

// Reason is which problem it is, for programs. The room that has such problems lists them.
type Reason string

// Error is a problem in words for its user.
type Error struct {
	Kind     Kind
	Reason   Reason       // which problem it is, for programs; empty where none asks
	Sentence message.Text // what is wrong and where, such as the name of a file, and what to do about it
	Cause    error        `json:"-"` // what led to it, for the log; may be nil
}

// Error gives the sentence in English.
func (e *Error) Error() string { return e.Sentence.English }

// Message gives the sentence.
func (e *Error) Message() message.Text { return e.Sentence }

// Unwrap gives the cause.
func (e *Error) Unwrap() error { return e.Cause }

// Is tells whether the problem is of a kind.
func (e *Error) Is(kind error) bool { return e.Kind == kind }

// New makes a problem of a constant format and values, which become a sentence.
func New(kind Kind, format string, values ...any) *Error {
	return &Error{Kind: kind, Sentence: message.Sentence(format, values...)}
}

// Because makes a problem of an error whose text a user can read.
func Because(kind Kind, cause error) *Error {
	return &Error{Kind: kind, Sentence: message.OfError(cause).AsSentence(), Cause: cause}
}
