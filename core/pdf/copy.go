package pdf

import (
	"bytes"
	"crypto/sha256"
	"slices"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// copier copies objects of one document into the assembled file. Objects are
// copied once each; objects equal to one already written, from whichever
// document, are not written again.
type copier struct {
	*Assembler
	doc      *Document
	copies   map[int]*objectCopy // by object number in the document
	pages    map[int]int         // page index → number of the page's first copy
	reshaped map[int]*reshaping  // page index → how its first copy is reshaped, if it is
	annots   map[int]int         // annotations of the page being copied → new number
	layers   map[int]int         // optional content groups met → new number
	hidden   map[int]bool        // groups and memberships whose content is not copied, as they are off
	depth    int                 // of the object being copied, from the first
	actions  int                 // actions copied
	saved    map[int]int64       // bytes, of pictures that were repacked, by object number in the document
	// withMarks are resources of pages with what marks need besides, by what they are made of.
	withMarks map[string]types.IndirectRef
}

func newCopier(a *Assembler, doc *Document) *copier {
	return &copier{
		Assembler: a, doc: doc,
		copies: map[int]*objectCopy{}, pages: map[int]int{}, reshaped: map[int]*reshaping{},
		layers: map[int]int{}, hidden: map[int]bool{}, saved: map[int]int64{}, withMarks: map[string]types.IndirectRef{},
	}
}

type objectCopy struct {
	number     int // 0: null
	open       bool
	referenced bool // referred to while open: part of a cycle
}

// value copies an object, following references. Below maxDepth it is null, and the document
// fails with ErrTooDeep.
func (c *copier) value(o types.Object) types.Object {
	if c.depth++; c.depth > maxDepth {
		c.fail(ErrTooDeep)
		o = nil
	}
	defer func() { c.depth-- }()
	switch v := o.(type) {
	case types.IndirectRef:
		return c.reference(v)
	case types.Dict:
		if c.isLeftOut(v) {
			return nil
		}
		return c.dictExcept(v)
	case types.Array:
		array := make(types.Array, len(v))
		for i, item := range v {
			array[i] = c.value(item)
		}
		return array
	case types.StreamDict:
		return nil // a stream is never a direct object (7.3.8.1)
	}
	return o
}

// fail has the assembled file fail, with the first thing that went wrong.
func (c *copier) fail(err error) {
	if c.out.err == nil {
		c.out.err = err
	}
}

// dictExcept copies a dictionary without the named keys.
func (c *copier) dictExcept(d types.Dict, except ...string) types.Dict {
	copied := make(types.Dict, len(d))
next:
	for key, value := range d {
		for _, skip := range except {
			if key == skip {
				continue next
			}
		}
		if kept := c.value(value); kept != nil {
			copied[key] = kept
		}
	}
	return copied
}

// reference copies what is referred to, and returns a reference to the copy, or
// null where the target is not to be in the assembled file: pages left out,
// annotations of other pages, and the document's own structure.
func (c *copier) reference(ref types.IndirectRef) types.Object {
	object := ref.ObjectNumber.Value()
	if index, isPage := c.doc.pageIndex[object]; isPage {
		return referenceOrNull(c.pages[index])
	}
	if number, ok := c.annots[object]; ok {
		return reference(number)
	}
	if c.doc.annots[object] {
		return nil
	}
	if done, ok := c.copies[object]; ok {
		done.referenced = done.referenced || done.open
		return referenceOrNull(done.number)
	}
	entry := &objectCopy{}
	c.copies[object] = entry
	switch v := c.doc.resolve(ref).(type) {
	case nil, types.ObjectStreamDict, types.XRefStreamDict:
	case types.StreamDict:
		switch {
		case c.isLeftOut(v):
		case c.isOnHiddenLayer(v.Dict):
			entry.number = c.emptyForm()
		case !c.replace(object, entry, v.Dict):
			c.copyStream(object, entry, v)
		}
	case types.Dict:
		if !structural(c.doc.name(v["Type"])) && !c.isLeftOut(v) {
			c.copyObject(object, entry, v, nil, false)
		}
	default:
		c.copyObject(object, entry, v, nil, false)
	}
	return referenceOrNull(entry.number)
}

// replace writes an image otherwise, where its document says so.
func (c *copier) replace(object int, entry *objectCopy, dict types.Dict) bool {
	if c.doc.Instead == nil || c.doc.name(dict["Subtype"]) != "Image" {
		return false
	}
	replacement, err := c.doc.Instead(object)
	if err != nil {
		c.fail(err)
	}
	if replacement == nil || err != nil {
		return false
	}
	entry.number = c.writeReplacement(dict, replacement)
	return true
}

// structural names the types of objects that hold a document together and lead
// to pages that may have been left out.
func structural(typeName string) bool {
	switch typeName {
	case "Catalog", "Pages", "Outlines", "StructTreeRoot", "StructElem", "ObjStm", "XRef":
		return true
	}
	return false
}

func (c *copier) copyObject(object int, entry *objectCopy, o types.Object, raw []byte, isStream bool) {
	entry.number = c.out.allocate()
	entry.open = true
	var copied types.Object
	dict, isDict := o.(types.Dict)
	switch {
	case isStream:
		copied = c.dictExcept(dict, streamEntriesLeftOut...)
	case isDict:
		copied = c.dictExcept(dict, entriesLeftOut...)
	default:
		copied = c.value(o)
	}
	entry.open = false
	isLayer := isDict && c.doc.name(dict["Type"]) == "OCG"
	if isLayer {
		c.layers[object] = entry.number
		if c.doc.layersOff()[object] {
			copied = types.Dict{"Type": types.Name("OCG"), "Name": textString(hiddenName)}
		}
	}
	body := appendObject(nil, copied)
	if !entry.referenced && !isLayer {
		key := contentKey(body, raw)
		if twin, ok := c.written[key]; ok {
			c.out.release(entry.number)
			entry.number = twin
			return
		}
		c.written[key] = entry.number
	}
	if isStream {
		c.out.stream(entry.number, copied.(types.Dict), bytes.NewReader(raw), int64(len(raw)))
	} else {
		c.out.object(entry.number, body)
	}
}

// entriesLeftOut are those of dictionaries that tie them to the rest of their document, or to programs.
var entriesLeftOut = []string{"StructParent", "StructParents", "PieceInfo"}

// streamEntriesLeftOut are those of streams that tie them to the rest of their document, to
// programs, or to other files (7.3.8.2, 8.10.4, 14.11.7), and those that hold pictures that are
// not shown (8.9.5.4).
var streamEntriesLeftOut = slices.Concat(entriesLeftOut, []string{
	"Length", "LastModified", "F", "FFilter", "FDecodeParms", "Ref", "OPI", "Alternates", "AF",
})

// copyStream copies a stream without what is on layers that are switched off, and without what
// a picture tells about itself.
func (c *copier) copyStream(object int, entry *objectCopy, stream types.StreamDict) {
	if visible := c.visibleForm(stream); visible != nil {
		stream = *visible
	}
	dict, data := c.pictureOnly(object, stream)
	c.copyObject(object, entry, dict, data, true)
}

// emptyForm writes a form that draws nothing, once.
func (c *copier) emptyForm() int {
	sum := contentKey([]byte("a form that draws nothing"), nil)
	if number, ok := c.written[sum]; ok {
		return number
	}
	number := c.out.allocate()
	c.out.stream(number, types.Dict{
		"Type": types.Name("XObject"), "Subtype": types.Name("Form"), "BBox": numbers(0, 0, 0, 0),
	}, bytes.NewReader(nil), 0)
	c.written[sum] = number
	return number
}

func contentKey(body, raw []byte) [sha256.Size]byte {
	h := sha256.New()
	h.Write(body)
	h.Write([]byte{0})
	h.Write(raw)
	return [sha256.Size]byte(h.Sum(nil))
}

func referenceOrNull(number int) types.Object {
	if number == 0 {
		return nil
	}
	return reference(number)
}
