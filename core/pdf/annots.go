package pdf

import (
	"slices"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// annotations copies the annotations of a page (12.5) and returns the new
// page's Annots. Links to pages that were left out are not copied.
func (c *copier) annotations(p Placement, pageNumber int, plan *fieldPlan) types.Array {
	var kept types.Array
	node := c.doc.pages[p.Page]
	reshaping := c.doc.reshapingOf(p)
	for i, o := range c.doc.array(node.dict["Annots"]) {
		dict := c.doc.dict(o)
		if dict == nil || !plan.keep[i] {
			continue
		}
		copied := c.annotation(dict, objectNumber(o), pageNumber, plan)
		if reshaping != nil && reshaping.moves {
			c.reshapeAnnotation(dict, copied, reshaping)
		}
		number, ok := plan.annots[objectNumber(o)]
		if !ok {
			number = c.out.allocate()
		}
		c.out.object(number, appendDict(nil, copied))
		kept = append(kept, reference(number))
	}
	return kept
}

func (c *copier) annotation(dict types.Dict, object, pageNumber int, plan *fieldPlan) types.Dict {
	if mediaAnnotations[c.doc.name(dict["Subtype"])] {
		return c.posterOf(dict)
	}
	leftOut := []string{"P", "Parent", "Kids", "A", "PA", "AA", "Dest", "StructParent"}
	if c.doc.name(dict["Subtype"]) == "Widget" && c.doc.isSigned(dict) {
		leftOut = append(leftOut, signatureEntries...)
	}
	copied := c.dictExcept(dict, leftOut...)
	copied["P"] = reference(pageNumber)
	c.copyActions(dict, copied)
	switch c.doc.name(dict["Subtype"]) {
	case "Widget":
		plan.finishWidget(c, dict, copied, object)
	case "Popup":
		if parent := c.value(dict["Parent"]); parent != nil {
			copied["Parent"] = parent
		}
	}
	return copied
}

// copyActions copies what an annotation or field does when it is used: a
// destination (12.3.2), its actions and its trigger events (12.6.3).
func (c *copier) copyActions(dict, copied types.Dict) {
	if dest := c.destination(dict["Dest"]); dest != nil {
		copied["Dest"] = dest
	}
	for _, key := range []string{"A", "PA"} {
		if action := c.action(dict[key], 0); action != nil {
			copied[key] = action
		}
	}
	triggers := types.Dict{}
	for event, o := range c.doc.dict(dict["AA"]) {
		if action := c.action(o, 0); action != nil {
			triggers[event] = action
		}
	}
	if len(triggers) > 0 {
		copied["AA"] = triggers
	}
}

// leadsNowhere tells of a link whose only purpose is a page that was left out, or an action that
// is not kept.
func (c *copier) leadsNowhere(annot types.Dict) bool {
	if c.doc.name(annot["Subtype"]) != "Link" {
		return false
	}
	if annot["Dest"] != nil {
		return c.destination(annot["Dest"]) == nil
	}
	action := c.doc.dict(annot["A"])
	if kind, active := c.doc.activeAction(action); active {
		return c.counted(kind)
	}
	return c.doc.name(action["S"]) == "GoTo" && c.destination(action["D"]) == nil
}

// action copies an action and those that follow it (12.6). It is nil when the
// action goes to a page that was left out, or to a structure that is not kept, or is active.
func (c *copier) action(o types.Object, depth int) types.Object {
	dict := c.doc.dict(o)
	if dict == nil || depth > maxActionDepth || c.actions > maxActions {
		return nil
	}
	c.actions++
	if kind, active := c.doc.activeAction(dict); active {
		c.leftOut[kind]++
		return nil
	}
	switch c.doc.name(dict["S"]) {
	case "Thread":
		return nil // article threads are not kept
	case "GoTo":
		dest := c.destination(dict["D"])
		if dest == nil {
			return nil
		}
		return c.withNext(types.Dict{"S": types.Name("GoTo"), "D": dest}, dict, depth)
	}
	return c.withNext(c.dictExcept(dict, "Next", "SD"), dict, depth)
}

func (c *copier) withNext(copied, dict types.Dict, depth int) types.Object {
	following := c.doc.array(dict["Next"])
	if following == nil && dict["Next"] != nil {
		following = types.Array{dict["Next"]}
	}
	var next types.Array
	for _, o := range following {
		if action := c.action(o, depth+1); action != nil {
			next = append(next, action)
		}
	}
	if len(next) > 0 {
		copied["Next"] = next
	}
	return copied
}

// destination makes an explicit destination (12.3.2.2) of a named or explicit
// one. It is nil when the page was left out or cannot be found.
func (c *copier) destination(o types.Object) types.Object {
	dest := c.doc.explicitDestination(o)
	if len(dest) == 0 {
		return nil
	}
	index, ok := c.doc.pageIndex[objectNumber(dest[0])]
	if !ok {
		n, isNumber := c.doc.number(dest[0])
		if index = int(n); !isNumber {
			return nil
		}
	}
	number := c.pages[index]
	if number == 0 {
		return nil
	}
	copied := slices.Clone(dest)
	copied[0] = reference(number)
	for i := 1; i < len(dest); i++ {
		copied[i] = c.value(dest[i])
	}
	if r := c.reshaped[index]; r != nil && r.moves {
		r.destination(c.doc, copied)
	}
	return copied
}

// explicitDestination looks a destination up by name where it is a name, in the
// catalog's Dests or its name tree (12.3.2.4).
func (d *Document) explicitDestination(o types.Object) types.Array {
	switch v := d.resolve(o).(type) {
	case types.Array:
		return v
	case types.Dict:
		return d.array(v["D"])
	case types.Name:
		return d.explicitOf(d.dict(d.root["Dests"])[string(v)])
	case types.StringLiteral, types.HexLiteral:
		name, _ := d.text(v)
		tree := d.dict(d.root["Names"])["Dests"]
		search := nameSearch{doc: d, name: name, nodes: maxNameNodes}
		return d.explicitOf(search.in(tree, 0))
	}
	return nil
}

func (d *Document) explicitOf(o types.Object) types.Array {
	if dict := d.dict(o); dict != nil {
		return d.array(dict["D"])
	}
	return d.array(o)
}

// nameSearch looks for a name in a name tree (7.9.6).
type nameSearch struct {
	doc   *Document
	name  string
	nodes int // that may yet be searched
}

func (s *nameSearch) in(node types.Object, depth int) types.Object {
	dict := s.doc.dict(node)
	if s.nodes--; dict == nil || depth > maxTreeDepth || s.nodes < 0 || !s.doc.withinLimits(dict, s.name) {
		return nil
	}
	names := s.doc.array(dict["Names"])
	for i := 0; i+1 < len(names); i += 2 {
		if key, ok := s.doc.text(names[i]); ok && key == s.name {
			return names[i+1]
		}
	}
	for _, kid := range s.doc.array(dict["Kids"]) {
		if found := s.in(kid, depth+1); found != nil {
			return found
		}
	}
	return nil
}

func (d *Document) withinLimits(node types.Dict, name string) bool {
	limits := d.array(node["Limits"])
	if len(limits) < 2 {
		return true
	}
	low, okLow := d.text(limits[0])
	high, okHigh := d.text(limits[1])
	return !okLow || !okHigh || (name >= low && name <= high)
}
