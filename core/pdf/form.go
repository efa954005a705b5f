package pdf

import (
	"fmt"
	"regexp"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/annotation"
)

// form gathers the interactive forms of all documents into one (12.7.3).
type form struct {
	fields          types.Array
	names           map[string]bool // names of root fields taken
	resources       map[string]types.Dict
	needAppearances bool
}

func newForm() form {
	return form{names: map[string]bool{}, resources: map[string]types.Dict{}}
}

func (f *form) dict() types.Object {
	if len(f.fields) == 0 {
		return nil
	}
	d := types.Dict{"Fields": f.fields}
	if len(f.resources) > 0 {
		resources := types.Dict{}
		for category, entries := range f.resources {
			resources[category] = entries
		}
		d["DR"] = resources
	}
	if f.needAppearances {
		d["NeedAppearances"] = types.Boolean(true)
	}
	return d
}

// freeName gives the name itself when no field has it yet, or else the name
// with the first free number behind it. Names must not contain a period
// (12.7.4.2).
func (f *form) freeName(name string) string {
	free := name
	for n := 2; f.names[free]; n++ {
		free = fmt.Sprintf("%s_%d", name, n)
	}
	f.names[free] = true
	return free
}

// fieldPlan says, for one placed page, which annotations are kept, under which
// object numbers, and how its widgets hang in the form.
type fieldPlan struct {
	annots map[int]int // annotation's object number → new number
	keep   []bool      // by place in the page's Annots
	fixed  []drawing   // of annotations that become part of the page
	tree   *fieldTree  // shared by the pages placed in the same round
}

// fieldPlans are the plans of all placements of one document. A page placed
// again gets widgets of its own, in a tree of its own.
type fieldPlans []*fieldPlan

// fieldTree is the new form's copy of a document's fields, as far as their
// widgets are on kept pages.
type fieldTree struct {
	nodes   map[int]*fieldNode // field's object number → its copy
	ordered []*fieldNode
}

type fieldNode struct {
	number  int
	object  int
	dict    types.Dict
	parent  *fieldNode
	kids    types.Array
	newName string // of a root field
	widget  bool   // field and widget in one dictionary
}

func newFieldPlans(c *copier, placements []Placement) fieldPlans {
	c.form.needAppearances = c.form.needAppearances || c.doc.resolve(c.doc.dict(c.doc.root["AcroForm"])["NeedAppearances"]) == types.Boolean(true)
	round := map[int]int{}
	trees := []*fieldTree{}
	plans := make(fieldPlans, len(placements))
	for i, p := range placements {
		n := round[p.Page]
		round[p.Page]++
		if n == len(trees) {
			trees = append(trees, &fieldTree{nodes: map[int]*fieldNode{}})
		}
		plans[i] = c.planPage(p, trees[n])
	}
	return plans
}

func (c *copier) planPage(p Placement, tree *fieldTree) *fieldPlan {
	annots := c.doc.array(c.doc.pages[p.Page].dict["Annots"])
	plan := &fieldPlan{annots: map[int]int{}, keep: make([]bool, len(annots)), tree: tree}
	reshaping := c.doc.reshapingOf(p)
	for i, o := range annots {
		dict := c.doc.dict(o)
		if dict == nil || c.isCutAway(dict, reshaping) {
			continue
		}
		handling := c.doc.handlingOf(dict, p.Annotations)
		if p.NoLinks && c.doc.name(dict["Subtype"]) == "Link" {
			continue
		}
		if handling == annotation.LeftOut || c.leavesOut(dict) || c.leadsNowhere(dict) || (handling == annotation.Fixed && c.fix(dict, plan)) {
			continue
		}
		plan.keep[i] = true
		object := objectNumber(o)
		if object == 0 {
			continue
		}
		plan.annots[object] = c.out.allocate()
		if c.doc.name(dict["Subtype"]) == "Widget" && !c.doc.isSigned(dict) {
			c.planWidget(object, dict, plan)
		}
	}
	return plan
}

// planWidget hangs a widget in the tree, with all fields above it.
func (c *copier) planWidget(object int, dict types.Dict, plan *fieldPlan) {
	number := plan.annots[object]
	parent := c.planParents(dict["Parent"], plan.tree, 0)
	node := &fieldNode{number: number, object: object, dict: dict, parent: parent, widget: true}
	plan.tree.nodes[object] = node
	if parent != nil {
		parent.kids = append(parent.kids, reference(number))
		return
	}
	if dict["FT"] != nil || dict["T"] != nil {
		c.planRoot(node)
	}
}

func (c *copier) planParents(o types.Object, tree *fieldTree, depth int) *fieldNode {
	object := objectNumber(o)
	dict := c.doc.dict(o)
	if object == 0 || dict == nil || depth > maxTreeDepth {
		return nil
	}
	if node, ok := tree.nodes[object]; ok {
		return node
	}
	node := &fieldNode{number: c.out.allocate(), object: object, dict: dict}
	tree.nodes[object] = node
	tree.ordered = append(tree.ordered, node)
	node.parent = c.planParents(dict["Parent"], tree, depth+1)
	if node.parent != nil {
		node.parent.kids = append(node.parent.kids, reference(node.number))
	} else {
		c.planRoot(node)
	}
	return node
}

func (c *copier) planRoot(node *fieldNode) {
	name, _ := c.doc.text(node.dict["T"])
	node.newName = c.form.freeName(decodeText(name))
	c.form.fields = append(c.form.fields, reference(node.number))
}

// isSigned tells of the widget of a signature that has been made. Its document
// is changed by assembling, so the signature could only fail.
func (d *Document) isSigned(widget types.Dict) bool {
	for depth := 0; widget != nil && depth < maxTreeDepth; depth++ {
		if widget["V"] != nil && d.inheritedName(widget, "FT") == "Sig" {
			return true
		}
		widget = d.dict(widget["Parent"])
	}
	return false
}

func (d *Document) inheritedName(field types.Dict, key string) string {
	for depth := 0; field != nil && depth < maxTreeDepth; depth++ {
		if name := d.name(field[key]); name != "" {
			return name
		}
		field = d.dict(field["Parent"])
	}
	return ""
}

// signatureEntries are those of the widget of a signature that a stamp does not have.
var signatureEntries = []string{"FT", "T", "TU", "TM", "Ff", "V", "DV", "MK", "DA", "Q", "Lock", "SV"}

// finishWidget ties the copy of a widget to its field. The widget of a
// signature becomes a stamp that looks the same.
func (plan *fieldPlan) finishWidget(c *copier, dict, copied types.Dict, object int) {
	node, ok := plan.tree.nodes[object]
	if !ok {
		if c.doc.isSigned(dict) {
			copied["Subtype"] = types.Name("Stamp")
		}
		return
	}
	c.finishField(node, copied)
}

func (c *copier) finishField(node *fieldNode, copied types.Dict) {
	if node.parent != nil {
		copied["Parent"] = reference(node.parent.number)
	}
	if node.newName != "" {
		copied["T"] = textString(node.newName)
	}
	defaults := c.doc.dict(c.doc.root["AcroForm"])
	if node.parent == nil {
		for _, key := range []string{"DA", "Q"} {
			if copied[key] == nil && defaults[key] != nil {
				copied[key] = c.value(defaults[key])
			}
		}
	}
	if da, ok := c.doc.text(copied["DA"]); ok {
		copied["DA"] = textString(c.renameFonts(da))
	}
}

// writeNodes writes the fields that are not widgets themselves.
func (plans fieldPlans) writeNodes(c *copier) {
	done := map[*fieldTree]bool{}
	for _, plan := range plans {
		if done[plan.tree] {
			continue
		}
		done[plan.tree] = true
		for _, node := range plan.tree.ordered {
			copied := c.dictExcept(node.dict, "Parent", "Kids", "A", "AA", "P")
			c.copyActions(node.dict, copied)
			c.finishField(node, copied)
			copied["Kids"] = node.kids
			c.out.object(node.number, appendDict(nil, copied))
		}
	}
}

// mergeDefaults adds the document's default resources (DR, 12.7.3) to the
// form's. A name that stands for something else already is not replaced: fonts
// are renamed in renameFonts, anything else is found in appearance streams.
func (f *form) mergeDefaults(c *copier) {
	for category, o := range c.doc.defaultResources() {
		if category == "Font" {
			continue
		}
		for name, value := range c.doc.dict(o) {
			f.addResource(category, name, c.value(value))
		}
	}
}

func (d *Document) defaultResources() types.Dict {
	return d.dict(d.dict(d.root["AcroForm"])["DR"])
}

// addResource adds an entry unless its name is taken; it tells whether the name
// now stands for the value.
func (f *form) addResource(category, name string, value types.Object) bool {
	if value == nil {
		return false
	}
	entries := f.resources[category]
	if entries == nil {
		entries = types.Dict{}
		f.resources[category] = entries
	}
	if taken, ok := entries[name]; ok {
		return string(appendObject(nil, taken)) == string(appendObject(nil, value))
	}
	entries[name] = value
	return true
}

var fontInAppearance = regexp.MustCompile(`/([^\s/\[\]()<>{}%]+)(\s+-?[\d.]+\s+Tf)`)

// renameFonts brings the fonts that a default appearance (12.7.4.3) uses into
// the form's resources, under another name where theirs is taken.
func (c *copier) renameFonts(appearance string) string {
	fonts := c.doc.dict(c.doc.defaultResources()["Font"])
	return fontInAppearance.ReplaceAllStringFunc(appearance, func(match string) string {
		parts := fontInAppearance.FindStringSubmatch(match)
		font := c.value(fonts[parts[1]])
		if font == nil {
			return match
		}
		name := parts[1]
		for n := 2; !c.form.addResource("Font", name, font); n++ {
			name = fmt.Sprintf("%s_%d", parts[1], n)
		}
		return "/" + name + parts[2]
	})
}

// fieldFonts are the fonts that the fields of a page are filled in with, by the names that these have for them.
func (d *Document) fieldFonts(page pageNode) types.Dict {
	all, used := d.dict(d.defaultResources()["Font"]), types.Dict{}
	for _, o := range d.array(page.dict["Annots"]) {
		widget := d.dict(o)
		if d.name(widget["Subtype"]) != "Widget" {
			continue
		}
		appearance, _ := d.text(d.inherited(widget, "DA"))
		for _, parts := range fontInAppearance.FindAllStringSubmatch(appearance, -1) {
			if font := all[parts[1]]; font != nil {
				used[parts[1]] = font
			}
		}
	}
	return used
}
