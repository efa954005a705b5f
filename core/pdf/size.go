package pdf

import "github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

// PageBytes is how many bytes a page of a document takes up.
type PageBytes struct {
	// Bytes are those of all objects that the page leads to, as they are encoded. An object that several pages lead to, such
	// as a font, is divided among them evenly.
	Bytes int64 `json:"bytes"`
	// Shared are those of the objects that other pages lead to as well, undivided.
	Shared int64 `json:"shared"`
}

// MeasureSize tells how many bytes each page takes up.
func MeasureSize(doc *Document) []PageBytes {
	w := weigher{doc: doc, sizes: map[int]int64{}, users: map[int]int{}, seen: map[int]int{}}
	reached := make([][]int, len(doc.pages))
	sizes := make([]PageBytes, len(doc.pages))
	for i, page := range doc.pages {
		w.page, w.reached = i+1, nil
		sizes[i].Bytes = w.walk(page.dict)
		if page.dict["Resources"] == nil {
			w.walk(page.resources)
		}
		reached[i] = w.reached
		for _, object := range w.reached {
			w.users[object]++
		}
	}
	for i := range sizes {
		for _, object := range reached[i] {
			sizes[i].Bytes += w.sizes[object] / int64(w.users[object])
			if w.users[object] > 1 {
				sizes[i].Shared += w.sizes[object]
			}
		}
	}
	return sizes
}

type weigher struct {
	doc     *Document
	sizes   map[int]int64
	users   map[int]int // how many pages lead to an object
	seen    map[int]int // the last page (from 1) that reached an object
	page    int
	reached []int
	depth   int
}

// walk follows all references from an object, down to maxDepth, and returns its own size.
func (w *weigher) walk(o types.Object) int64 {
	if w.depth++; w.depth > maxDepth {
		o = nil
	}
	defer func() { w.depth-- }()
	switch v := o.(type) {
	case types.IndirectRef:
		w.visit(v)
		return 6
	case types.Array:
		size := int64(2)
		for _, item := range v {
			size += w.walk(item) + 1
		}
		return size
	case types.Dict:
		size := int64(4)
		for key, item := range v {
			if key != "Parent" && key != "P" && key != "StructParents" {
				size += w.walk(item) + int64(len(key)) + 2
			}
		}
		return size
	case types.StreamDict:
		return w.walk(v.Dict) + int64(len(v.Raw))
	case types.StringLiteral:
		return int64(len(v)) + 2
	case types.HexLiteral:
		return int64(len(v)) + 2
	case types.Name:
		return int64(len(v)) + 1
	}
	return 4
}

func (w *weigher) visit(ref types.IndirectRef) {
	object := ref.ObjectNumber.Value()
	if _, isPage := w.doc.pageIndex[object]; isPage || w.seen[object] == w.page {
		return
	}
	w.seen[object] = w.page
	value := w.doc.resolve(ref)
	if dict, ok := value.(types.Dict); ok && structural(w.doc.name(dict["Type"])) {
		return
	}
	w.reached = append(w.reached, object)
	w.sizes[object] = w.walk(value)
}
