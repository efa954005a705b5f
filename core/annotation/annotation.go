package annotation

import (
	"bytes"
	"encoding/json"
	"fmt"

	"dorbin/core/message"
)

// Handling is what becomes of one kind of annotation.
type Handling string

// The handlings.
const (
	Kept    Handling = ""        // stays what it is: a field can be filled in, a comment opened
	Fixed   Handling = "fixed"   // becomes part of the page, as it looks
	LeftOut Handling = "leftOut" // is neither seen nor there
)

// Policy is what becomes of the annotations of a page. Its zero value keeps them all.
type Policy struct {
	Fields   Handling `json:"fields,omitempty" enum:",fixed,leftOut" doc:"Of the fields of its form."`
	Comments Handling `json:"comments,omitempty" enum:",fixed,leftOut" doc:"Of notes, marks and stamps on it."`
}

// NoneSeen leaves out fields and comments.
var NoneSeen = Policy{Fields: LeftOut, Comments: LeftOut}

// IsZero tells whether all annotations are kept.
func (p Policy) IsZero() bool { return p == Policy{} }

// Check tells whether there are such handlings.
func (p Policy) Check() error {
	for _, handling := range []Handling{p.Fields, p.Comments} {
		switch handling {
		case Kept, Fixed, LeftOut:
		default:
			return message.Errorf("form fields and comments are kept, fixed or leftOut, not %q", string(handling))
		}
	}
	return nil
}

// UnmarshalJSON reads a policy. In packets that were stored before fields and comments were
// told apart it is true: both are left out.
func (p *Policy) UnmarshalJSON(text []byte) error {
	switch string(bytes.TrimSpace(text)) {
	case "true":
		*p = NoneSeen
		return nil
	case "false":
		*p = Policy{}
		return nil
	}
	type plain Policy
	if err := json.Unmarshal(text, (*plain)(p)); err != nil {
		return fmt.Errorf("decode what becomes of annotations: %w", err)
	}
	return nil
}
