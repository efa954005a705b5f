package pdf

import "github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

// layers gathers the optional content groups (8.11) that kept pages use, with
// their state, so that a layer hidden in its document stays hidden.
type layers struct {
	all, off types.Array
}

func (l *layers) collect(c *copier) {
	if len(c.layers) == 0 {
		return
	}
	config := c.doc.dict(c.doc.dict(c.doc.root["OCProperties"])["D"])
	on, off := c.doc.objectSet(config["ON"]), c.doc.objectSet(config["OFF"])
	offByDefault := c.doc.name(config["BaseState"]) == "OFF"
	for _, group := range c.doc.array(c.doc.dict(c.doc.root["OCProperties"])["OCGs"]) {
		object := objectNumber(group)
		number, used := c.layers[object]
		if !used {
			continue
		}
		l.all = append(l.all, reference(number))
		if off[object] || (offByDefault && !on[object]) {
			l.off = append(l.off, reference(number))
		}
	}
}

func (d *Document) objectSet(o types.Object) map[int]bool {
	set := map[int]bool{}
	for _, item := range d.array(o) {
		set[objectNumber(item)] = true
	}
	return set
}

func (l *layers) dict() types.Object {
	if len(l.all) == 0 {
		return nil
	}
	config := types.Dict{"Order": l.all}
	if len(l.off) > 0 {
		config["OFF"] = l.off
	}
	return types.Dict{"OCGs": l.all, "D": config}
}
