package pdf

import (
	"errors"
	"fmt"
	"io"
	"sync"

	"github.com/pdfcpu/pdfcpu/pkg/api"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/model"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/geometry"
)

// Errors of Open beside those of the parser.
var (
	ErrNoPages   = errors.New("the document has no pages")
	ErrEncrypted = errors.New("the document is encrypted")
)

// Document is a parsed PDF.
type Document struct {
	// Instead gives what an image, by its object's number, is written as instead; nil for
	// one that stays as it is.
	Instead func(object int) (*Replacement, error)

	ctx       *model.Context
	root      types.Dict
	pages     []pageNode
	pageIndex map[int]int  // object number of a page → its index
	annots    map[int]bool // object numbers of all annotations of all pages
	layersOff func() map[int]bool
}

// pageNode is a page with the attributes it inherits (7.7.3.4).
type pageNode struct {
	object    int // object number; 0 for a page that is a direct object
	dict      types.Dict
	resources types.Object
	mediaBox  types.Object
	cropBox   types.Object
	rotate    int
}

// disableConfig keeps the parser from reading or writing a folder of its own.
var disableConfig = sync.OnceFunc(api.DisableConfigDir)

// Open parses a PDF that is not encrypted. Errors are those of the parser,
// ErrNoPages or ErrEncrypted.
func Open(r io.ReadSeeker) (doc *Document, err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("parse PDF: the parser gave up: %v", p)
		}
	}()
	disableConfig()
	conf := model.NewDefaultConfiguration()
	conf.ValidationMode = model.ValidationRelaxed
	conf.Offline = true
	ctx, err := api.ReadContext(r, conf)
	if err != nil {
		return nil, fmt.Errorf("parse PDF: %w", err)
	}
	if ctx.E != nil {
		return nil, ErrEncrypted
	}
	root, err := ctx.Catalog()
	if err != nil {
		return nil, fmt.Errorf("find the PDF's catalog: %w", err)
	}
	doc = &Document{ctx: ctx, root: root, pageIndex: map[int]int{}, annots: map[int]bool{}}
	doc.layersOff = newLayerStates(doc)
	doc.collectPages(root["Pages"], inherited{}, map[int]bool{}, 0)
	if len(doc.pages) == 0 {
		return nil, ErrNoPages
	}
	doc.collectAnnots()
	return doc, nil
}

// PageCount is the number of pages.
func (d *Document) PageCount() int { return len(d.pages) }

// PageSize is the size in points of a page, counted from 0, as a reader shows
// it: its crop box, turned by its own rotation (14.11.2, 7.7.3.3).
func (d *Document) PageSize(page int) geometry.Size {
	node := d.pages[page]
	box := d.shown(node)
	unit := d.unit(node)
	size := geometry.Size{Width: (box.x1 - box.x0) * unit, Height: (box.y1 - box.y0) * unit}
	return size.Turned(node.rotate)
}

// unit is how many points the unit of a page's user space is (table 31).
func (d *Document) unit(node pageNode) float64 {
	if unit, ok := d.number(node.dict["UserUnit"]); ok && unit > 0 {
		return unit
	}
	return 1
}

type inherited struct {
	resources, mediaBox, cropBox, rotate types.Object
}

// collectPages walks the page tree (7.7.3). It is lenient about nodes without
// a type and visits no node twice.
func (d *Document) collectPages(o types.Object, from inherited, seen map[int]bool, depth int) {
	object := objectNumber(o)
	node := d.dict(o)
	if node == nil || depth > maxTreeDepth || (object > 0 && seen[object]) {
		return
	}
	if object > 0 {
		seen[object] = true
	}
	from = from.override(node)
	if kids := d.array(node["Kids"]); kids != nil {
		for _, kid := range kids {
			d.collectPages(kid, from, seen, depth+1)
		}
		return
	}
	if name := d.name(node["Type"]); name == "Pages" || name == "Catalog" {
		return
	}
	rotate, _ := d.number(from.rotate)
	if object > 0 {
		d.pageIndex[object] = len(d.pages)
	}
	d.pages = append(d.pages, pageNode{
		object: object, dict: node, resources: from.resources,
		mediaBox: from.mediaBox, cropBox: from.cropBox, rotate: geometry.NormalTurn(int(rotate)),
	})
}

func (i inherited) override(node types.Dict) inherited {
	for key, field := range map[string]*types.Object{
		"Resources": &i.resources, "MediaBox": &i.mediaBox, "CropBox": &i.cropBox, "Rotate": &i.rotate,
	} {
		if value, ok := node[key]; ok && value != nil {
			*field = value
		}
	}
	return i
}

func (d *Document) collectAnnots() {
	for _, page := range d.pages {
		for _, annot := range d.array(page.dict["Annots"]) {
			if object := objectNumber(annot); object > 0 {
				d.annots[object] = true
			}
		}
	}
}

func objectNumber(o types.Object) int {
	if ref, ok := o.(types.IndirectRef); ok {
		return ref.ObjectNumber.Value()
	}
	return 0
}

// resolve follows references; what cannot be found is null (7.3.10).
func (d *Document) resolve(o types.Object) types.Object {
	if _, ok := o.(types.IndirectRef); !ok {
		return o
	}
	value, err := d.ctx.Dereference(o)
	if err != nil {
		return nil
	}
	return value
}

func (d *Document) dict(o types.Object) types.Dict {
	switch value := d.resolve(o).(type) {
	case types.Dict:
		return value
	case types.StreamDict:
		return value.Dict
	}
	return nil
}

func (d *Document) array(o types.Object) types.Array {
	value, _ := d.resolve(o).(types.Array)
	return value
}

func (d *Document) name(o types.Object) string {
	value, _ := d.resolve(o).(types.Name)
	return string(value)
}

func (d *Document) number(o types.Object) (float64, bool) {
	switch value := d.resolve(o).(type) {
	case types.Integer:
		return float64(value), true
	case types.Float:
		return float64(value), true
	}
	return 0, false
}

// text gives the bytes of a string object, with escapes undone.
func (d *Document) text(o types.Object) (string, bool) {
	switch value := d.resolve(o).(type) {
	case types.StringLiteral:
		bytes, err := types.Unescape(string(value))
		return string(bytes), err == nil
	case types.HexLiteral:
		bytes, err := value.Bytes()
		return string(bytes), err == nil
	}
	return "", false
}

type rectangle struct{ x0, y0, x1, y1 float64 }

// rectangle reads a box given by any two opposite corners (7.9.5).
func (d *Document) rectangle(o types.Object) (rectangle, bool) {
	corners := d.array(o)
	if len(corners) < 4 {
		return rectangle{}, false
	}
	var v [4]float64
	for i := range v {
		n, ok := d.number(corners[i])
		if !ok {
			return rectangle{}, false
		}
		v[i] = n
	}
	r := rectangle{min(v[0], v[2]), min(v[1], v[3]), max(v[0], v[2]), max(v[1], v[3])}
	return r, r.x1 > r.x0 && r.y1 > r.y0
}

func (r rectangle) intersect(s rectangle) rectangle {
	both := rectangle{max(r.x0, s.x0), max(r.y0, s.y0), min(r.x1, s.x1), min(r.y1, s.y1)}
	if both.x1 <= both.x0 || both.y1 <= both.y0 {
		return s
	}
	return both
}
