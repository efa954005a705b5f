package packet

// Verb is a kind of command.
type Verb struct {
	Name   string
	Doc    string   // what it does to the packet
	Fields []string // those of a Command that it takes, by their names in JSON
	Needs  []string // those of them that must be there
	act    act
}

// act carries out a command, and says in words what was done.
type act func(p *Packet, c Command, known Known) (string, error)

// Verbs lists all kinds of commands.
func Verbs() []Verb { return verbs }

// Groups of fields that go together.
var (
	onPages = []string{"pages", "range"}
	// destination: after or before a page, or in a part, at an index or its end.
	destination = []string{"after", "before", "part", "at"}
)

var verbs = []Verb{
	{Name: "move", act: move, Fields: fields(onPages, destination), Doc: "Pages go to a destination."},
	{
		Name: "turn", act: turn, Fields: fields(onPages, list("by")), Needs: list("by"),
		Doc: "Pages are turned by 90, 180 or 270 degrees clockwise.",
	},
	{
		Name: "flip", act: flip, Fields: fields(onPages, list("axis")), Needs: list("axis"),
		Doc: "Pages are mirrored leftRight or topBottom, as they now stand.",
	},
	{
		Name: "outline", act: outline, Fields: fields(onPages, list("outline")),
		Doc: "The paper in pictures is laid flat; without an outline the whole pictures are shown.",
	},
	{
		Name: "cut", act: cut, Fields: fields(onPages, list("fold", "rightFirst")), Needs: list("fold"),
		Doc: "Each page becomes two at its fold: the left half and the right half, or the other way round.",
	},
	{
		Name: "straighten", act: straighten, Fields: fields(onPages, list("angle")),
		Doc: "Pages are turned by an angle in degrees clockwise, as they now stand; 0 is their own.",
	},
	{
		Name: "crop", act: crop, Fields: fields(onPages, list("box", "boxes", "mirrored")),
		Doc: "A rectangle is kept of each page, in points of the page as it would stand uncropped: one for all, whose " +
			"left and right may change places on even pages, or one for each. Without any, the crop is removed.",
	},
	{
		Name: "fit", act: fit, Fields: fields(onPages, list("fit", "mirrored")),
		Doc: "Pages are laid on a sheet, as they now stand, whose margins may be mirrored on even pages; without a sheet they are not.",
	},
	{Name: "tone", act: tone, Fields: fields(onPages, list("tone")), Doc: "Pages get a tone."},
	{Name: "clean", act: clean, Fields: fields(onPages, list("clean")), Doc: "Dark edges and specks are wiped off pages."},
	{
		Name: "paint", act: paint, Fields: fields(onPages, list("box", "at")),
		Doc: "A rectangle is painted over with paper, in points of the page as it would stand uncropped; without one, what " +
			"was painted is removed, all or what is at an index.",
	},
	{Name: "picture", act: picture, Fields: fields(onPages, list("picture")), Doc: "Pictures are made of pages, or not."},
	{Name: "bare", act: bare, Fields: fields(onPages, list("bare")), Doc: "Comments and form fields are left out, or not."},
	{Name: "setAside", act: setAside, Fields: onPages, Doc: "Pages are set aside."},
	{Name: "keepOnly", act: keepOnly, Fields: onPages, Doc: "All other pages are set aside."},
	{
		Name: "restore", act: restore, Fields: fields(onPages, destination),
		Doc: "Pages that were set aside come back to a destination, or to where they were.",
	},
	{Name: "duplicate", act: duplicate, Fields: onPages, Doc: "Each page is followed by its double."},
	{
		Name: "insertBlank", act: insertBlank, Fields: fields(list("size"), destination), Needs: list("size"),
		Doc: "A blank page of a size in points comes to a destination.",
	},
	{
		Name: "note", act: note, Fields: fields(onPages, list("title")),
		Doc: "A note is left on pages; an empty one removes theirs.",
	},
	{
		Name: "arrange", act: arrange, Fields: onPages,
		Doc: "Pages come in the order in which they are named, among the places they have.",
	},
	{Name: "swap", act: swap, Fields: onPages, Doc: "Two pages change places."},
	{Name: "reverse", act: reverse, Fields: onPages, Doc: "Pages come in reverse order, among the places they have."},
	{
		Name: "interleave", act: interleave, Fields: fields(onPages, list("backwards")),
		Doc: "The first half of pages and the second alternate, the second from its end if backwards.",
	},
	{
		Name: "deal", act: deal, Fields: fields(onPages, list("backwards")),
		Doc: "The first, third, fifth page and so on come first, then the others, from their end if backwards.",
	},
	{Name: "sort", act: sortByName, Fields: onPages, Doc: "Pages are sorted by the names of their sources."},
	{
		Name: "split", act: split, Fields: fields(onPages, list("title")),
		Doc: "Pages become a part of their own after their part.",
	},
	{
		Name: "divide", act: divide, Fields: fields(onPages, list("titles")),
		Doc: "Each page begins a part; titles name these.",
	},
	{Name: "join", act: join, Fields: list("parts"), Needs: list("parts"), Doc: "Parts become one, where the first is."},
	{
		Name: "movePart", act: movePart, Fields: list("part", "at"), Needs: list("part", "at"),
		Doc: "A part goes to an index among the other parts.",
	},
	{Name: "partPerSource", act: partPerSource, Doc: "Pages are gathered by source, in parts that are named after them."},
	{Name: "expect", act: expect, Fields: list("count"), Doc: "There should be so many pages; 0 is unknown."},
	{
		Name: "place", act: place, Fields: fields(list("source", "take", "replace", "title", "bare"), destination), Needs: list("source"),
		Doc: "Pages of a source, all or those that are taken, come to a destination, or in place of pages that are set aside " +
			"for them, or become a part of a title, at the end or at an index.",
	},
	{Name: "removeSource", act: removeSource, Fields: list("source"), Needs: list("source"), Doc: "A source and all its pages are taken out."},
	{Name: "returnSource", act: returnSource, Fields: list("source"), Needs: list("source"), Doc: "A source that was taken out is in the intake again."},
	{Name: "rename", act: rename, Fields: list("title"), Needs: list("title"), Doc: "The packet is renamed."},
	{Name: "renamePart", act: renamePart, Fields: list("part", "title"), Needs: list("part", "title"), Doc: "A part is renamed."},
}

var verbByName = func() map[string]Verb {
	byName := make(map[string]Verb, len(verbs))
	for _, verb := range verbs {
		byName[verb.Name] = verb
	}
	return byName
}()

func list(names ...string) []string { return names }

func fields(groups ...[]string) (all []string) {
	for _, group := range groups {
		all = append(all, group...)
	}
	return all
}
