package packet

import (
	"bytes"
	"dorbin/core/problem"
	"encoding/json"
	"fmt"
	"reflect"
)

// Verb is a kind of command.
type Verb struct {
	Name string       // "do" in its JSON
	Doc  string       // what it does to the packet
	Type reflect.Type // of the command, a struct
}

// Verbs lists all kinds of commands.
func Verbs() []Verb { return verbs }

var verbs = []Verb{
	verb[Move]("move", "Pages go to a destination."),
	verb[Turn]("turn", "Pages are turned by 90, 180 or 270 degrees clockwise."),
	verb[Flip]("flip", "Pages are mirrored leftRight or topBottom, as they now stand."),
	verb[Outline]("outline", "The paper in pictures is laid flat; without an outline the whole pictures are shown."),
	verb[Cut]("cut", "Each page becomes two at its fold: the left half and the right half, or the other way round."),
	verb[Slice]("slice", "Each page becomes several, cut across, from top to bottom, each on a sheet of its own."),
	verb[Straighten]("straighten", "Pages are turned by an angle in degrees clockwise, as they now stand; 0 is their own."),
	verb[Crop]("crop", "A rectangle is kept of each page, in points of the page as it would stand uncropped: one for all, whose "+
		"left and right may change places on even pages, or one for each. Without any, the crop is removed."),
	verb[Fit]("fit", "Pages are laid on a sheet, as they now stand, whose margins may be mirrored on even pages; without a sheet they are not."),
	verb[Tone]("tone", "Pages get a tone."),
	verb[Clean]("clean", "Dark edges and specks are wiped off pages."),
	verb[Paint]("paint", "A rectangle is painted over with paper, in points of the page as it would stand uncropped; without one, what "+
		"was painted is removed, all or what is at an index."),
	verb[Picture]("picture", "Pictures are made of pages, or not."),
	verb[Correct]("correct", "Words that were recognised on pages are corrected, are right as they were read, or are no text."),
	verb[Annotate]("annotate", "Form fields and comments are kept, fixed as part of the page, or leftOut."),
	verb[SetAside]("setAside", "Pages are set aside."),
	verb[KeepOnly]("keepOnly", "All other pages are set aside."),
	verb[Restore]("restore", "Pages that were set aside come back to a destination, or to where they were."),
	verb[Duplicate]("duplicate", "Each page is followed by its double."),
	verb[Copy]("copy", "Doubles of pages come to a destination."),
	verb[Bring]("bring", "Doubles of another packet's pages come to a destination, or become a part at the end."),
	verb[InsertBlank]("insertBlank", "Blank pages of a size in points come to a destination."),
	verb[Note]("note", "A note is left on pages; an empty one removes theirs."),
	verb[Arrange]("arrange", "Pages come in the order in which they are named, among the places they have."),
	verb[Swap]("swap", "Two pages change places."),
	verb[Reverse]("reverse", "Pages come in reverse order, among the places they have."),
	verb[Interleave]("interleave", "The first half of pages and the second alternate, the second from its end if backwards."),
	verb[Deal]("deal", "The first, third, fifth page and so on come first, then the others, from their end if backwards."),
	verb[Sort]("sort", "Pages are sorted by the names of their sources."),
	verb[Split]("split", "Pages become a part of their own after their part."),
	verb[Divide]("divide", "Each page begins a part; titles name these."),
	verb[Join]("join", "Parts become one, where the first is."),
	verb[MovePart]("movePart", "A part goes to an index among the other parts."),
	verb[PartPerSource]("partPerSource", "Pages are gathered by source, in parts that are named after them."),
	verb[Finish]("finish", "What is added to the document changes: page numbers, a header, a footer, properties, how it opens. "+
		"A section that is not given stays."),
	verb[SetReceiver]("receiver", "The packet is for a receiver, and held against their rules; without one it is for nobody."),
	verb[IsPaper]("paper", "Parts are one of the papers that the receiver asks for, by its title; an empty title takes that back."),
	verb[Expect]("expect", "There should be so many pages; 0 is unknown."),
	verb[Place]("place", "Pages of a source, all or those that are taken, come to a destination, or in place of pages that are set aside "+
		"for them, or become a part of a title, at the end or at an index."),
	verb[RemoveSource]("removeSource", "A source and all its pages are taken out."),
	verb[ReturnSource]("returnSource", "A source that was taken out is in the intake again."),
	verb[Rename]("rename", "The packet is renamed."),
	verb[RenamePart]("renamePart", "A part is renamed."),
}

func verb[T Command](name, doc string) Verb { return Verb{name, doc, reflect.TypeFor[T]()} }

var (
	verbByName = map[string]Verb{}
	nameByType = map[reflect.Type]string{}
)

func init() {
	for _, verb := range verbs {
		verbByName[verb.Name] = verb
		nameByType[verb.Type] = verb.Name
	}
}

func nameOf(c Command) string { return nameByType[reflect.TypeOf(c)] }

// Commands is a list of commands. In JSON each is an object with its fields and "do", its
// verb's name.
type Commands []Command

// MarshalJSON writes the list.
func (c Commands) MarshalJSON() ([]byte, error) {
	list := make([]json.RawMessage, len(c))
	for i, command := range c {
		fields, err := json.Marshal(command)
		if err != nil {
			return nil, fmt.Errorf("encode a command: %w", err)
		}
		separator := ","
		if string(fields) == "{}" {
			separator = ""
		}
		list[i] = fmt.Appendf(nil, `{"do":%q%s%s`, nameOf(command), separator, bytes.TrimPrefix(fields, []byte("{")))
	}
	return json.Marshal(list)
}

// UnmarshalJSON reads a list. Fields that a command does not have are ignored.
func (c *Commands) UnmarshalJSON(text []byte) error {
	var list []json.RawMessage
	if err := json.Unmarshal(text, &list); err != nil {
		return fmt.Errorf("decode commands: %w", err)
	}
	*c = make(Commands, len(list))
	for i, fields := range list {
		var head struct {
			Do string `json:"do"`
		}
		if err := json.Unmarshal(fields, &head); err != nil {
			return fmt.Errorf("decode a command: %w", err)
		}
		verb, ok := verbByName[head.Do]
		if !ok {
			return problem.New(problem.Invalid, "there is no command %q", head.Do)
		}
		command := reflect.New(verb.Type)
		if err := json.Unmarshal(fields, command.Interface()); err != nil {
			return fmt.Errorf("decode a command to %s: %w", head.Do, err)
		}
		(*c)[i] = command.Elem().Interface().(Command)
	}
	return nil
}
