package pdf

import (
	"bytes"
	"encoding/binary"
	"encoding/hex"
	"fmt"
	"maps"
	"math"
	"slices"
	"strconv"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/typeface"
)

// SetMarks says what comes on the pages, by their positions. It is called before any page is
// added.
func (a *Assembler) SetMarks(marks [][]finish.Mark) { a.marks = marks }

// resourceNames are short, as every page has them.
var resourceNames = map[typeface.Face]string{typeface.Sans: "DbSa", typeface.Serif: "DbSe"}

// hasMarks tells whether anything comes on a page.
func (a *Assembler) hasMarks(position int) bool {
	return position < len(a.marks) && len(a.marks[position]) > 0
}

// drawnMarks are the marks of a page as content: what is under it, and what is over it in three
// pieces, of which the first and the last are the same on many pages. The resources that they name
// are entered into the page's.
type drawnMarks struct {
	text            string // that is not seen, under all
	under           string
	head, own, tail string
	fonts           types.Dict
	forms           types.Dict // by their names
}

func (d drawnMarks) isEmpty() bool { return d.text == "" && d.under == "" && d.head == "" }

func (d drawnMarks) over() string { return d.head + d.own + d.tail }

// markGroup is what of a page's marks is drawn together.
type markGroup struct {
	name  string // of their form; the empty name draws them on the page itself
	marks []finish.Mark
}

// Names of forms of marks in the resources of a page.
const (
	underForm   = "DbMu"
	stampForm   = "DbMw"
	runningForm = "DbMk"
)

var markForms = []string{underForm, stampForm, runningForm}

// grouped parts marks into those that are under the page, those that the page is made of, and those
// that are artifacts (14.8.2.2). What may be the same on other pages shares a form with these.
func grouped(marks []finish.Mark) (under, content, artifacts []markGroup) {
	var below, stamp, running, made []finish.Mark
	for _, mark := range marks {
		switch {
		case mark.Under:
			below = append(below, mark)
		case mark.Kind == finish.CoverMark || mark.Kind == finish.ContentsMark || mark.Kind == finish.SheetMark:
			made = append(made, mark)
		case mark.Kind == finish.WatermarkMark || mark.Kind == finish.LetterheadMark:
			stamp = append(stamp, mark)
		default:
			running = append(running, mark)
		}
	}
	return []markGroup{{underForm, below}}, []markGroup{{"", made}}, []markGroup{{stampForm, stamp}, {runningForm, running}}
}

// markedPage is what the marks of a page are drawn by, but for the text of its number.
type markedPage struct {
	box    rectangle
	rotate int
	unit   float64
	suffix string // of names of resources
	number writing
}

// writing is how a number looks; its size is 0 where there is none.
type writing struct {
	face   typeface.Face
	size   float64
	colour string
}

// lastDrawn are the marks that were drawn last: those of the next page mostly differ in their number
// alone.
type lastDrawn struct {
	page  markedPage
	marks []finish.Mark
	drawn drawnMarks
}

// drawMarks draws the marks of a page, which is seen turned by its rotation and scaled by its
// unit. Names of resources end with a suffix that tells them from those that the page has already.
// A number is the last of the marks.
func (a *Assembler) drawMarks(position int, box rectangle, rotate int, unit float64, suffix string) drawnMarks {
	if !a.hasMarks(position) {
		return drawnMarks{}
	}
	marks, page := a.marks[position], markedPage{box: box, rotate: rotate, unit: unit, suffix: suffix}
	var number finish.Mark
	if last := marks[len(marks)-1]; last.Kind == finish.NumberMark {
		number, marks = last, marks[:len(marks)-1]
		page.number = writing{number.Face, number.Size, number.Colour}
	}
	if a.lastDrawn.page != page || !slices.Equal(a.lastDrawn.marks, marks) {
		a.lastDrawn = lastDrawn{page, marks, a.drawAround(page, marks)}
	}
	drawn := a.lastDrawn.drawn
	if page.number.size > 0 {
		drawn.own = string(appendText(nil, number, a.font(number.Face)))
	}
	return drawn
}

// drawAround draws the marks of a page but its number, whose text comes between head and tail.
func (a *Assembler) drawAround(page markedPage, marks []finish.Mark) drawnMarks {
	d := drawnMarks{fonts: types.Dict{}, forms: types.Dict{}}
	m := fromSeen(page.box, page.rotate, page.unit)
	placed := fmt.Sprintf("q %s cm\n", operands(m.A, m.B, m.C, m.D, m.E, m.F))
	const artifact = "/Artifact<</Type/Pagination>>BDC "
	under, content, artifacts := grouped(marks)
	if drawn := a.drawGroups(under, page.suffix, &d); drawn != "" {
		d.under = artifact + placed + drawn + "Q EMC\n"
	}
	if drawn := a.drawGroups(content, page.suffix, &d); drawn != "" {
		d.head = placed + drawn + "Q\n"
	}
	forms := a.drawGroups(artifacts, page.suffix, &d)
	if forms == "" && page.number.size == 0 {
		return d
	}
	d.head += artifact + placed + forms
	if n := page.number; n.size > 0 {
		name := resourceNames[n.face] + page.suffix
		d.fonts[name] = reference(a.font(n.face).number)
		d.head += fmt.Sprintf("BT /%s %s Tf %s rg\n", name, operands(n.size), rgb(n.colour))
		d.tail = "ET\n"
	}
	d.tail += "Q EMC\n"
	return d
}

// appendText has content show the text of a mark in the font that was chosen.
func appendText(content []byte, mark finish.Mark, font *embedded) []byte {
	m := mark.Line()
	content = append(appendOperands(content, m.A, m.B, -m.C, -m.D, m.E, m.F), " Tm<"...)
	for _, r := range mark.Text {
		var glyph [2]byte
		binary.BigEndian.PutUint16(glyph[:], font.subset.Use(r))
		content = hex.AppendEncode(content, glyph[:])
	}
	return append(content, ">Tj\n"...)
}

func (a *Assembler) drawGroups(groups []markGroup, suffix string, d *drawnMarks) (drawn string) {
	for _, group := range groups {
		switch {
		case len(group.marks) == 0:
		case group.name == "":
			content, named := a.markContent(group.marks, suffix)
			drawn += content
			maps.Copy(d.fonts, named.fonts)
			maps.Copy(d.forms, named.overlays)
		default:
			d.forms[group.name+suffix] = reference(a.markForm(group))
			drawn += "/" + group.name + suffix + " Do\n"
		}
	}
	return drawn
}

// lastForm is the form of a group that was written last.
type lastForm struct {
	marks  []finish.Mark
	number int
}

// markForm gives a form that draws marks, which is written once for all pages on which they are the
// same.
func (a *Assembler) markForm(group markGroup) int {
	last, ok := a.lastForms[group.name]
	if !ok || !slices.Equal(last.marks, group.marks) {
		last = lastForm{group.marks, a.writeMarkForm(group.marks)}
		a.lastForms[group.name] = last
	}
	return last.number
}

func (a *Assembler) writeMarkForm(marks []finish.Mark) int {
	content, named := a.markContent(marks, "")
	key := contentKey([]byte("a form of marks"), []byte(content))
	if number, ok := a.written[key]; ok {
		return number
	}
	number := a.out.allocate()
	data := deflate([]byte(content))
	box := marks[0].Box()
	for _, mark := range marks {
		box = box.Union(mark.Box())
	}
	resources := types.Dict{}
	for category, entries := range map[string]types.Dict{"Font": named.fonts, "XObject": named.overlays, "ExtGState": graphicsStates(marks)} {
		if len(entries) > 0 {
			resources[category] = entries
		}
	}
	a.out.stream(number, types.Dict{
		"Type": types.Name("XObject"), "Subtype": types.Name("Form"), "BBox": numbers(round(box.X0), round(box.Y0), round(box.X1), round(box.Y1)),
		"Resources": resources, "Filter": types.Name(Flate),
	}, bytes.NewReader(data), int64(len(data)))
	a.written[key] = number
	return number
}

// graphicsStates are those of marks that are seen through (11.6.4.4), or multiplied with what
// is beneath (11.3.5.2). Only marks in forms are.
func graphicsStates(marks []finish.Mark) types.Dict {
	states := types.Dict{}
	for _, mark := range marks {
		if name := stateName(mark); name != "" {
			state := types.Dict{}
			if mark.Multiplied {
				state["BM"] = types.Name("Multiply")
			}
			if mark.Opacity > 0 {
				state["ca"] = types.Float(mark.Opacity)
			}
			states[name] = state
		}
	}
	return states
}

// stateName is that of the graphics state of a mark; empty for one that is simply drawn.
func stateName(mark finish.Mark) string {
	name := ""
	if mark.Multiplied {
		name = "M"
	}
	if mark.Opacity > 0 && mark.Opacity < 1 {
		name += "O" + strconv.Itoa(int(math.Round(mark.Opacity*1000)))
	}
	return name
}

// named is what content names: fonts, and pictures by what is their object.
type named struct{ fonts, overlays types.Dict }

// markContent is content that draws marks on a page as it is seen, and what it names.
func (a *Assembler) markContent(marks []finish.Mark, suffix string) (content string, names named) {
	names = named{types.Dict{}, types.Dict{}}
	var boxes strings.Builder
	var texts []byte
	setFont, setColour, setState := "", "", ""
	for _, mark := range marks {
		if !mark.Picture.IsZero() {
			boxes.WriteString(a.drawPicture(mark, names.overlays))
			continue
		}
		if mark.Rule {
			fmt.Fprintf(&boxes, "%s rg %s re f\n", rgb(mark.Colour), operands(mark.At.X, mark.At.Y, mark.Width, mark.Size))
			continue
		}
		font := a.font(mark.Face)
		name := resourceNames[mark.Face] + suffix
		names.fonts[name] = reference(font.number)
		if state := stateName(mark); state != setState {
			texts = fmt.Appendf(texts, "/%s gs ", state)
			setState = state
		}
		if choice := fmt.Sprintf("/%s %s Tf ", name, operands(mark.Size)); choice != setFont {
			texts = append(texts, choice...)
			setFont = choice
		}
		if choice := rgb(mark.Colour) + " rg "; choice != setColour {
			texts = append(texts, choice...)
			setColour = choice
		}
		texts = appendText(texts, mark, font)
	}
	if len(texts) > 0 {
		boxes.WriteString("BT " + string(texts) + "ET\n")
	}
	return boxes.String(), names
}

// drawPicture is content that draws the picture of a mark.
func (a *Assembler) drawPicture(mark finish.Mark, overlays types.Dict) string {
	number := a.overlay(mark.Picture).number
	name := fmt.Sprintf("DbOv%d", number)
	overlays[name] = reference(number)
	state := stateName(mark)
	if state != "" {
		state = "/" + state + " gs "
	}
	m := geometry.Scaling(mark.Width, mark.Size).Then(mark.Line())
	return fmt.Sprintf("q %s%s cm /%s Do Q\n", state, operands(m.A, m.B, m.C, m.D, m.E, m.F), name)
}

// markLinks are annotations for the marks of a page that lead to other pages (12.5.6.5).
func (a *Assembler) markLinks(position int, box rectangle, rotate int, unit float64) types.Array {
	if !a.hasMarks(position) {
		return nil
	}
	var links types.Array
	m := fromSeen(box, rotate, unit)
	for _, mark := range a.marks[position] {
		if mark.To < 1 || mark.To > len(a.pages) {
			continue
		}
		at := mark.Box().Mapped(m)
		links = append(links, reference(a.add(types.Dict{
			"Type": types.Name("Annot"), "Subtype": types.Name("Link"), "Border": numbers(0, 0, 0), "F": types.Integer(annotationPrints),
			"Rect": numbers(round(at.X0), round(at.Y0), round(at.X1), round(at.Y1)), "Contents": textString(mark.Text),
			"Dest": types.Array{reference(a.pages[mark.To-1]), types.Name("Fit")},
		})))
	}
	return links
}

// annotationPrints is the flag of annotations that are printed (table 167).
const annotationPrints = 1 << 2

// markSuffix is what names of a page's resources have to end with so that it has none of them
// already: a document of our own may be assembled again.
func (d *Document) markSuffix(page int) string {
	resources := d.dict(d.pages[page].resources)
	fonts, objects := d.dict(resources["Font"]), d.dict(resources["XObject"])
	suffix := ""
	for n := 2; ; n++ {
		isTaken := slices.ContainsFunc(markForms, func(name string) bool { return objects[name+suffix] != nil })
		isTaken = isTaken || fonts[textFontName+suffix] != nil
		for _, name := range resourceNames {
			isTaken = isTaken || fonts[name+suffix] != nil
		}
		if !isTaken {
			return suffix
		}
		suffix = strconv.Itoa(n)
	}
}

// fromSeen leads from a page as it is seen, in points from its top left, to its user space.
func fromSeen(box rectangle, rotate int, unit float64) geometry.Affine {
	upright := geometry.Size{Width: box.x1 - box.x0, Height: box.y1 - box.y0}
	return geometry.Translation(-box.x0, -box.y1).Then(geometry.Scaling(1, -1)).
		Then(geometry.Framing{Flat: upright, Turn: rotate}.Transform()).Then(geometry.Scaling(unit, unit)).Inverse()
}

// operands writes numbers as briefly as they can be, to a ten-thousandth.
func operands(values ...float64) string { return string(appendOperands(nil, values...)) }

// appendOperands appends numbers as operands writes them.
func appendOperands(content []byte, values ...float64) []byte {
	for i, v := range values {
		if i > 0 {
			content = append(content, ' ')
		}
		if v = math.Round(v*1e4) / 1e4; v == 0 {
			v = 0 // without a sign
		}
		content = strconv.AppendFloat(content, v, 'f', -1, 64)
	}
	return content
}

// rgb is a colour such as #1c5a52 as three operands.
func rgb(colour string) string {
	value, err := strconv.ParseUint(strings.TrimPrefix(colour, "#"), 16, 32)
	if err != nil {
		return "0 0 0"
	}
	share := func(shift int) float64 { return float64(value>>shift&0xFF) / 255 }
	return operands(share(16), share(8), share(0))
}

// worthDeflating is how many bytes of content are that can become fewer by compressing.
const worthDeflating = 120

func (a *Assembler) plainStream(content []byte) types.Object {
	number := a.out.allocate()
	a.out.stream(number, types.Dict{}, bytes.NewReader(content), int64(len(content)))
	return reference(number)
}

// smallStream writes content, compressed where that is shorter.
func (a *Assembler) smallStream(content []byte) types.Object {
	dict, data := types.Dict{}, content
	if len(content) < worthDeflating {
		return a.plainStream(content)
	}
	if deflated := deflate(content); len(deflated)+len("/Filter /FlateDecode") < len(content) {
		dict["Filter"], data = types.Name(Flate), deflated
	}
	number := a.out.allocate()
	a.out.stream(number, dict, bytes.NewReader(data), int64(len(data)))
	return reference(number)
}

// sharedStream writes content that many pages have once.
func (a *Assembler) sharedStream(content string) types.Object {
	number, ok := a.shared[content]
	if !ok {
		number = a.plainStream([]byte(content))
		a.shared[content] = number
	}
	return number
}
