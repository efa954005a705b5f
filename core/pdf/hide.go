package pdf

import (
	"bytes"
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// isOnHiddenLayer tells whether what has an optional content entry is on a layer that is
// switched off, and notes the layer.
func (c *copier) isOnHiddenLayer(dict types.Dict) bool {
	if dict["OC"] == nil || !c.doc.isHidden(dict["OC"]) {
		return false
	}
	c.hidden[objectNumber(dict["OC"])] = true
	return true
}

// visibleContent gives the content of a page without what is on layers that are switched off.
// It is nil where there is none, or the content cannot be read.
func (c *copier) visibleContent(page int) []byte {
	node := c.doc.pages[page]
	if c.doc.hiddenProperties(c.doc.dict(node.resources)) == nil {
		return nil
	}
	var visible []byte
	for _, content := range c.doc.contentOf(node) {
		visible = c.withoutHidden(content, c.doc.dict(node.resources))
	}
	return visible
}

// visibleForm gives a form, or another stream with content, as a stream without what is on
// layers that are switched off. It is nil where there is none.
func (c *copier) visibleForm(form types.StreamDict) *types.StreamDict {
	resources := c.doc.dict(form.Dict["Resources"])
	if resources == nil || c.doc.hiddenProperties(resources) == nil || form.DecodeWithLimit(maxContent) != nil {
		return nil
	}
	content := c.withoutHidden(form.Content, resources)
	if content == nil {
		return nil
	}
	visible := form
	visible.Dict = form.Dict.Clone().(types.Dict) //nolint:forcetypeassert // the clone of a dictionary is one
	pruning := pruning{doc: c.doc}
	named := map[string]bool{}
	pruning.collectNamesIn(content, resources, named, 0)
	visible.Dict["Resources"] = pruning.only(resources, named)
	visible.Dict["Filter"] = types.Name(Flate)
	delete(visible.Dict, "DecodeParms")
	visible.Raw = deflate(content)
	return &visible
}

// withoutHidden gives content without what it paints on layers that are switched off, and notes
// these layers. What sets the state of painting stays, as it holds for what follows
// (8.11.3.2). It is nil where nothing is hidden.
func (c *copier) withoutHidden(content []byte, resources types.Dict) []byte {
	hidden := c.doc.hiddenProperties(resources)
	properties := c.doc.dict(resources["Properties"])
	var out bytes.Buffer
	copied := 0      // bytes of the content that were copied or passed over
	var open []bool  // of marked content: whether it is hidden
	hiddenOpen := 0  // how many of these are
	isFound := false // that something is hidden
	scanContent(content, func(op operator) {
		switch op.name {
		case "BDC", "BMC":
			isHidden := op.name == "BDC" && op.tag == "OC" && hidden[op.named]
			if open = append(open, isHidden); isHidden {
				hiddenOpen++
				isFound = true
				c.hidden[objectNumber(properties[op.named])] = true
			}
		case "EMC":
			if n := len(open); n > 0 {
				if open[n-1] {
					hiddenOpen--
				}
				open = open[:n-1]
			}
		default:
			instead, paints := unpainted(op)
			if hiddenOpen == 0 || !paints {
				return
			}
			out.Write(content[copied:op.start])
			out.WriteString(instead)
			copied = op.end
		}
	})
	if !isFound {
		return nil
	}
	out.Write(content[copied:])
	return out.Bytes()
}

// unpainted gives what stands in the place of an operator that paints, so that the state of
// painting is what it is after it; nearly so after text, whose place is set anew before other text
// follows.
func unpainted(op operator) (instead string, paints bool) {
	switch {
	case op.name == "'":
		return " T* ", true
	case op.name == "\"" && len(op.numbers) >= 2:
		return fmt.Sprintf(" %f Tw %f Tc T* ", op.numbers[0], op.numbers[1]), true
	case showing[op.name], op.name == "Do", op.name == "sh", op.name == "BI", op.name == "ID", op.name == "EI":
		return " ", true
	case painting[op.name]:
		return " n ", true // ends the path
	}
	return "", false
}
