package pdf

import (
	"sync"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// layers gathers the optional content groups (8.11) that kept pages use, with
// their state. What is on a layer that is switched off is not copied; its group is, without
// its name, so that what could not be taken out of its content stays unseen.
type layers struct {
	all, off types.Array
}

func (l *layers) collect(c *copier) {
	for _, group := range c.doc.array(c.doc.dict(c.doc.root["OCProperties"])["OCGs"]) {
		object := objectNumber(group)
		number, used := c.layers[object]
		if !used {
			continue
		}
		l.all = append(l.all, reference(number))
		if c.doc.layersOff()[object] {
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

// hiddenName is that of a layer that is switched off: its own may tell what it was.
const hiddenName = "Layer"

// newLayerStates works out once which groups are off.
func newLayerStates(d *Document) func() map[int]bool {
	return sync.OnceValue(func() map[int]bool {
		off := map[int]bool{}
		properties := d.dict(d.root["OCProperties"])
		config := d.dict(properties["D"])
		on, switchedOff := d.objectSet(config["ON"]), d.objectSet(config["OFF"])
		offByDefault := d.name(config["BaseState"]) == "OFF"
		for _, group := range d.array(properties["OCGs"]) {
			object := objectNumber(group)
			if switchedOff[object] || (offByDefault && !on[object]) {
				off[object] = true
			}
		}
		d.switchForViewing(off, config)
		return off
	})
}

// switchForViewing applies the usage of groups for viewing (8.11.4.4), where the configuration
// asks for it. A group whose usage shows it is on for some readers whether it asks or not, and
// so is not taken to be off.
func (d *Document) switchForViewing(off map[int]bool, config types.Dict) {
	viewState := func(group types.Object) string {
		return d.name(d.dict(d.dict(d.dict(group)["Usage"])["View"])["ViewState"])
	}
	for _, o := range d.array(config["AS"]) {
		usage := d.dict(o)
		if d.name(usage["Event"]) != "View" {
			continue
		}
		for _, group := range d.array(usage["OCGs"]) {
			if viewState(group) == "OFF" {
				off[objectNumber(group)] = true
			}
		}
	}
	for _, group := range d.array(d.dict(d.root["OCProperties"])["OCGs"]) {
		if viewState(group) == "ON" {
			delete(off, objectNumber(group))
		}
	}
}

// isHidden tells whether a group, or a membership of groups, is switched off (8.11.2).
func (d *Document) isHidden(o types.Object) bool {
	if len(d.layersOff()) == 0 {
		return false
	}
	if d.layersOff()[objectNumber(o)] {
		return true
	}
	membership := d.dict(o)
	if d.name(membership["Type"]) != "OCMD" {
		return false
	}
	if expression := d.array(membership["VE"]); len(expression) > 0 {
		return !d.isVisibleBy(expression, 0)
	}
	return !d.isMembershipVisible(membership)
}

// isMembershipVisible applies the policy of a membership (table 97).
func (d *Document) isMembershipVisible(membership types.Dict) bool {
	groups := d.array(membership["OCGs"])
	if groups == nil && membership["OCGs"] != nil {
		groups = types.Array{membership["OCGs"]}
	}
	on, off := 0, 0
	for _, group := range groups {
		switch {
		case d.dict(group) == nil: // null, and so of no account
		case d.layersOff()[objectNumber(group)]:
			off++
		default:
			on++
		}
	}
	if on+off == 0 {
		return true
	}
	switch d.name(membership["P"]) {
	case "AllOn":
		return off == 0
	case "AnyOff":
		return off > 0
	case "AllOff":
		return on == 0
	}
	return on > 0
}

// isVisibleBy works out a visibility expression (8.11.2.2).
func (d *Document) isVisibleBy(expression types.Array, depth int) bool {
	if depth > maxFormDepth {
		return true
	}
	term := func(o types.Object) bool {
		if nested := d.array(o); len(nested) > 0 {
			return d.isVisibleBy(nested, depth+1)
		}
		return !d.layersOff()[objectNumber(o)]
	}
	operator, terms := d.name(expression[0]), expression[1:]
	for _, o := range terms {
		switch {
		case operator == "Not":
			return !term(o)
		case operator == "Or" && term(o):
			return true
		case operator == "And" && !term(o):
			return false
		}
	}
	return operator != "Or"
}

// hiddenProperties are the names of property lists in resources whose content is switched off.
func (d *Document) hiddenProperties(resources types.Dict) map[string]bool {
	var hidden map[string]bool
	if len(d.layersOff()) == 0 {
		return nil
	}
	for name, o := range d.dict(resources["Properties"]) {
		if !d.isHidden(o) {
			continue
		}
		if hidden == nil {
			hidden = map[string]bool{}
		}
		hidden[name] = true
	}
	return hidden
}
