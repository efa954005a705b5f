package requirements

import "dorbin/core/geometry"

// Answer is what is known of a question.
type Answer int8

// The answers.
const (
	Unknown Answer = iota
	No
	Yes
)

// AnswerOf is the answer to what is known.
func AnswerOf(yes bool) Answer {
	if yes {
		return Yes
	}
	return No
}

// And is the answer to two questions at once.
func (a Answer) And(b Answer) Answer {
	switch {
	case a == No || b == No:
		return No
	case a == Unknown || b == Unknown:
		return Unknown
	}
	return Yes
}

// Not is the answer to the opposite question.
func (a Answer) Not() Answer {
	switch a {
	case Yes:
		return No
	case No:
		return Yes
	}
	return Unknown
}

// Or is the answer to either of two questions.
func (a Answer) Or(b Answer) Answer { return a.Not().And(b.Not()).Not() }

// Facts are what is known of a document that is handed in. A finished document and a packet that is
// still being assembled have the same; of the latter some are not known yet.
type Facts struct {
	Today string // as 2026-03-31
	Files []File // that would be handed in
	Parts int    // of the packet; 0 of a finished document, of which nobody knows
	Pages []Page

	Bookmarks Answer
	Contents  Answer // whether there is a contents page
	Locked    Answer // whether a password is needed to open it
	// Attached tells whether there are attached files or scripts.
	Attached Answer
	Version  string // of PDF; empty where it is not known
	Fonts    Answer // whether all are embedded
	// Properties are those that are filled in, by their names; nil where they are not known.
	Properties map[string]bool
}

// File is a file that is handed in.
type File struct {
	Name  string
	Bytes int64
	// Doubt is by how many bytes it may turn out smaller or larger.
	Doubt int64
	Pages int
}

// Page is what is known of a page as it will be, or is, in the document.
type Page struct {
	Size    geometry.Size
	Upright Answer
	// DPI is the resolution of the picture that the page is; 0 where it is none.
	DPI int
	// Colours is empty where it is not known.
	Colours  Colours
	Text     Answer // whether it can be searched; Yes where there is nothing to read
	Number   Answer // whether it has a page number
	Fields   Answer
	Comments Answer
	Links    Answer
}
