package pdf

import (
	"crypto/sha256"
	"fmt"
	"io"
	"time"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/annotation"
	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/text"
	"dorbin/core/typeface"
)

// Assembler writes one PDF from pages of several documents and from images.
// Documents may be added in any order; each page goes to its own position, so a
// document is needed in memory only while it is added.
type Assembler struct {
	// KeepPictures has the files of pictures go in as they are, with what they tell about
	// themselves.
	KeepPictures bool
	// Repack has pictures of documents be written in fewer bytes, with every pixel the same.
	Repack bool
	// OnRepacked, when not nil, is called after each of them, and stops the work by returning an error: pages may
	// share very many.
	OnRepacked func() error

	out       *writer
	pages     []int // number of each page object, by position
	filled    []bool
	tree      int // number of the page tree's root
	written   map[[sha256.Size]byte]int
	shared    map[string]types.Object // streams that pages share, by their content
	form      form
	layers    layers
	outlines  []outlineItem
	leftOut   Tally
	savedOn   map[int]int64   // bytes, by repacking pictures, by the position of the first page that draws them
	marks     [][]finish.Mark // by position
	fonts     map[typeface.Face]*embedded
	overlays  map[finish.Picture]*overlay
	lastForms map[string]lastForm // of marks, by the names of their groups
	lastDrawn lastDrawn
	version2  bool
	textOf    func(position int) (text.Page, error)
	textFont  *textFont
}

// Placement puts a page of a document at a position of the assembled file. Both
// are counted from 0.
type Placement struct {
	Position int
	Page     int
	// Framing is on top of the page's own rotation and crop box. Its flat size is
	// the page's own when it is zero. An image page was straightened and cropped before.
	geometry.Framing
	Annotations annotation.Policy
	NoLinks     bool // links of the page are left out
	Again       bool // the page was added before: its document's bookmarks lead to that one
}

// Bookmark opens at a run of pages: positions First to First+Count-1. The
// bookmarks that documents bring along for these pages are put below it.
type Bookmark struct {
	Title string
	First int
	Count int
	Bare  bool // nothing is below it
	Open  bool // what is below it is shown at first
	// Headings are below it where documents bring no bookmarks along, in order.
	Headings []Heading
}

// Heading is a bookmark below another. It is below the one before it that is of a higher level, which
// is a smaller number.
type Heading struct {
	Title    string
	Position int
	Level    int
}

// Properties describe the assembled document.
type Properties struct {
	Title     string
	Producer  string
	Created   time.Time
	Bookmarks []Bookmark

	Author, Subject, Keywords string
	Own                       []Property
	Described                 bool     // the properties are written as XMP as well
	Labels                    []string // what readers show as the pages' numbers; nil leaves it to them
	Opening                   *Opening // nil leaves it to the reader
	Language                  string   // of its text, a BCP 47 tag; empty is not told
	RightToLeft               bool     // its language is written so
}

// Property is one besides those that all documents may have.
type Property struct{ Name, Value string }

// NewAssembler starts a file of pageCount pages. The caller buffers w.
func NewAssembler(w io.Writer, pageCount int) *Assembler {
	a := &Assembler{
		out:     newWriter(w),
		pages:   make([]int, pageCount),
		filled:  make([]bool, pageCount),
		written: map[[sha256.Size]byte]int{},
		form:    newForm(),
		leftOut: Tally{},
		savedOn: map[int]int64{},
		fonts:   map[typeface.Face]*embedded{},
		shared:  map[string]types.Object{}, overlays: map[finish.Picture]*overlay{}, lastForms: map[string]lastForm{},
	}
	a.tree = a.out.allocate()
	for i := range a.pages {
		a.pages[i] = a.out.allocate()
	}
	return a
}

// AddDocument copies pages of a document. A document is added with all the pages
// that are wanted of it, so that links between them are kept; one page may be placed
// several times. The
// function onPage, when not nil, is called after each page, and stops the work
// by returning an error.
func (a *Assembler) AddDocument(doc *Document, placements []Placement, onPage func() error) error {
	c := newCopier(a, doc)
	positions := map[int]int{}
	for _, p := range placements {
		if p.Page < 0 || p.Page >= len(doc.pages) {
			return fmt.Errorf("the document has %d pages, there is no page %d", len(doc.pages), p.Page+1)
		}
		if err := a.claim(p.Position); err != nil {
			return err
		}
		if _, again := c.pages[p.Page]; !again {
			c.pages[p.Page] = a.pages[p.Position]
			c.reshaped[p.Page] = doc.reshapingOf(p)
			if !p.Again {
				positions[p.Page] = p.Position
			}
		}
	}
	pruning := newPruning(doc, c.pages)
	fields := newFieldPlans(c, placements)
	for i, p := range placements {
		if err := c.page(p, fields[i], pruning); err != nil {
			return err
		}
		if onPage != nil {
			if err := onPage(); err != nil {
				return err
			}
		}
	}
	c.assignSaved(placements)
	fields.writeNodes(c)
	a.form.mergeDefaults(c)
	a.layers.collect(c)
	a.leftOut.count(HiddenLayers, len(c.hidden))
	a.outlines = append(a.outlines, c.outline(positions)...)
	a.version2 = a.version2 || doc.ctx.XRefTable.PDF20()
	return a.out.err
}

// Saved tells how many bytes fewer the pictures of pages take up that were repacked, by position: each with the
// first page that draws it.
func (a *Assembler) Saved() map[int]int64 { return a.savedOn }

func (a *Assembler) claim(position int) error {
	if position < 0 || position >= len(a.pages) {
		return fmt.Errorf("the assembled document has %d pages, there is no position %d", len(a.pages), position)
	}
	if a.filled[position] {
		return fmt.Errorf("position %d is filled twice", position)
	}
	a.filled[position] = true
	return nil
}

// pageEntries are those of a page (table 31) that are copied as they are, beside its content.
var pageEntries = []string{"Group", "UserUnit", "BleedBox", "TrimBox", "ArtBox", "BoxColorInfo", "OutputIntents"}

// page writes the copy of one page.
func (c *copier) page(p Placement, plan *fieldPlan, pruning *pruning) error {
	node := c.doc.pages[p.Page]
	number := c.Assembler.pages[p.Position]
	c.annots = plan.annots
	visible := c.visibleContent(p.Page)
	copied := types.Dict{}
	for _, key := range pageEntries {
		if value := c.value(node.dict[key]); value != nil {
			copied[key] = value
		}
	}
	c.countLeftOutOf(node)
	copied["Type"] = types.Name("Page")
	copied["Parent"] = reference(c.tree)
	copied["MediaBox"] = c.box(node.mediaBox)
	if _, ok := c.doc.rectangle(node.cropBox); ok {
		copied["CropBox"] = c.box(node.cropBox)
	}
	copied["Resources"] = c.resources(p.Page, visible, pruning)
	reshaping := c.doc.reshapingOf(p)
	turn := geometry.NormalTurn(node.rotate + p.Turn)
	box := c.doc.shown(node)
	if reshaping != nil {
		box = reshaping.reshape(copied)
	}
	scale, _ := c.doc.scaleTo(p.Page, p.Flat)
	marks, err := c.drawAdded(p.Position, box, turn, scale, c.doc.markSuffix(p.Page))
	if err != nil {
		return err
	}
	contents := c.drawnAround(c.contents(node, visible), p.Page, copied, plan, reshaping, marks)
	switch len(contents) {
	case 0:
	case 1:
		copied["Contents"] = contents[0]
	default:
		copied["Contents"] = contents
	}
	if turn != 0 {
		copied["Rotate"] = types.Integer(turn)
	}
	if annots := c.annotations(p, number, plan); len(annots) > 0 {
		copied["Annots"] = annots
	}
	c.out.object(number, appendObject(nil, copied))
	return nil
}

// contents copies the content of a page, or writes what is visible of it where that is not all.
func (c *copier) contents(node pageNode, visible []byte) types.Array {
	if visible != nil {
		return types.Array{c.smallStream(visible)}
	}
	if streams, several := c.doc.resolve(node.dict["Contents"]).(types.Array); several {
		copied, _ := c.value(streams).(types.Array)
		return copied
	}
	if content := c.value(node.dict["Contents"]); content != nil {
		return types.Array{content}
	}
	return nil
}

func (c *copier) box(o types.Object) types.Object {
	r, ok := c.doc.rectangle(o)
	if !ok {
		return numbers(0, 0, geometry.Letter.Width, geometry.Letter.Height)
	}
	return numbers(r.x0, r.y0, r.x1, r.y1)
}

func (c *copier) resources(page int, visible []byte, pruning *pruning) types.Object {
	resources := c.doc.pages[page].resources
	if pruned := pruning.resources(page, visible); pruned != nil {
		return c.value(pruned)
	}
	if copied := c.value(resources); copied != nil {
		return copied
	}
	return types.Dict{}
}

// Finish writes what holds the document together. It fails when a position was
// left empty or writing failed.
func (a *Assembler) Finish(p Properties) error {
	for position, filled := range a.filled {
		if !filled {
			return fmt.Errorf("position %d was left empty", position)
		}
	}
	if err := a.checkOverlays(); err != nil {
		return err
	}
	a.writePageTree()
	preferences := types.Dict{"DisplayDocTitle": types.Boolean(true)}
	if p.RightToLeft {
		preferences["Direction"] = types.Name("R2L")
	}
	root := types.Dict{"Type": types.Name("Catalog"), "Pages": reference(a.tree), "ViewerPreferences": preferences}
	if p.Language != "" {
		root["Lang"] = textString(p.Language)
	}
	if a.version2 {
		root["Version"] = types.Name("2.0")
	}
	a.writeFonts()
	a.writeTextFont()
	if p.Labels != nil {
		root["PageLabels"] = pageLabels(p.Labels)
	}
	if p.Described {
		root["Metadata"] = a.metadata(p)
	}
	if outline := a.writeOutline(p.Bookmarks); outline != 0 {
		root["Outlines"] = reference(outline)
		root["PageMode"] = types.Name("UseOutlines")
	}
	if form := a.form.dict(); form != nil {
		root["AcroForm"] = form
	}
	if layers := a.layers.dict(); layers != nil {
		root["OCProperties"] = layers
	}
	a.open(root, p.Opening)
	return a.out.finish(a.add(root), a.add(p.information()))
}

// add writes a dictionary as a new object and returns its number.
func (a *Assembler) add(d types.Dict) int {
	number := a.out.allocate()
	a.out.object(number, appendDict(nil, d))
	return number
}

// writePageTree hangs all pages under one root (7.7.3.2): parents are known
// before the first page is written.
func (a *Assembler) writePageTree() {
	kids := make(types.Array, len(a.pages))
	for i, number := range a.pages {
		kids[i] = reference(number)
	}
	a.out.object(a.tree, appendDict(nil, types.Dict{
		"Type": types.Name("Pages"), "Kids": kids, "Count": types.Integer(len(kids)),
	}))
}
