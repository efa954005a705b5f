package pdf

import (
	"regexp"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// pruning finds the resources that a kept page shares with pages that were left
// out, and drops those entries the page does not name in its content. Without
// it the pictures of a page that was set aside would travel along in a resource
// dictionary that all pages of a document share.
type pruning struct {
	doc    *Document
	shared map[int]bool // object numbers of resource dictionaries that pages left out use too
}

// contentCategories are the resources that can hold something to see (7.8.3).
var contentCategories = []string{"XObject", "Pattern", "Shading", "Font", "Properties"}

func newPruning(doc *Document, kept map[int]int) *pruning {
	p := &pruning{doc: doc, shared: map[int]bool{}}
	for index, page := range doc.pages {
		if kept[index] == 0 {
			for _, object := range p.dictionaries(page) {
				p.shared[object] = true
			}
		}
	}
	return p
}

// dictionaries lists the indirect objects that make up a page's resources.
func (p *pruning) dictionaries(page pageNode) []int {
	objects := []int{objectNumber(page.resources)}
	resources := p.doc.dict(page.resources)
	for _, category := range contentCategories {
		objects = append(objects, objectNumber(resources[category]))
	}
	if page.dict["Resources"] == nil {
		objects = append(objects, inheritedMark)
	}
	return objects
}

// inheritedMark stands for resources that are a direct object of a page tree
// node, which has no number of its own to go by.
const inheritedMark = -1

// resources returns the pruned resources of a page, or nil when it shares none
// with pages left out, or when its content cannot be read. Visible is the page's content where
// some of it is not copied; nil otherwise.
func (p *pruning) resources(page int, visible []byte) types.Object {
	node := p.doc.pages[page]
	resources := p.doc.dict(node.resources)
	named := map[string]bool{}
	switch {
	case visible != nil:
		p.collectNamesIn(visible, resources, named, 0)
	case !p.isShared(node) || !p.collectNames(node.dict["Contents"], resources, named, 0):
		return nil
	}
	return p.only(resources, named)
}

// only gives resources with those alone that are named.
func (p *pruning) only(resources types.Dict, named map[string]bool) types.Dict {
	pruned := types.Dict{}
	for key, value := range resources {
		pruned[key] = value
	}
	for _, category := range contentCategories {
		entries := p.doc.dict(resources[category])
		if entries == nil {
			continue
		}
		kept := types.Dict{}
		for name, value := range entries {
			if named[name] {
				kept[name] = value
			}
		}
		pruned[category] = kept
	}
	return pruned
}

func (p *pruning) isShared(node pageNode) bool {
	for _, object := range p.dictionaries(node) {
		if object != 0 && p.shared[object] {
			return true
		}
	}
	return false
}

var nameToken = regexp.MustCompile(`/([^\x00\t\n\f\r /\[\]()<>{}%]+)`)

// collectNames notes every name that content mentions, also in forms that have
// no resources of their own and use the page's. More than are used may be
// noted; none that is used is missed. It is false when content cannot be read.
func (p *pruning) collectNames(contents types.Object, resources types.Dict, named map[string]bool, depth int) bool {
	streams, ok := p.contents(contents, 0)
	for _, stream := range streams {
		ok = p.collectNamesIn(stream, resources, named, depth) && ok
	}
	return ok
}

func (p *pruning) collectNamesIn(content []byte, resources types.Dict, named map[string]bool, depth int) (ok bool) {
	ok = true
	xobjects := p.doc.dict(resources["XObject"])
	for _, match := range nameToken.FindAllSubmatch(content, -1) {
		name := decodedName(match[1])
		if named[name] {
			continue
		}
		named[name] = true
		form, isStream := p.doc.resolve(xobjects[name]).(types.StreamDict)
		if isStream && form.Dict["Resources"] == nil && p.doc.name(form.Dict["Subtype"]) == "Form" && depth < maxTreeDepth {
			ok = p.collectNames(xobjects[name], resources, named, depth+1) && ok
		}
	}
	return ok
}

// contents decodes a content stream or an array of them (7.8.2).
func (p *pruning) contents(o types.Object, depth int) (streams [][]byte, ok bool) {
	if depth > maxTreeDepth {
		return nil, false
	}
	switch v := p.doc.resolve(o).(type) {
	case types.Array:
		for _, item := range v {
			more, ok := p.contents(item, depth+1)
			if !ok {
				return nil, false
			}
			streams = append(streams, more...)
		}
	case types.StreamDict:
		if err := v.DecodeWithLimit(maxContent); err != nil {
			return nil, false
		}
		streams = append(streams, v.Content)
	}
	return streams, true
}
