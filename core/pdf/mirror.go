package pdf

import (
	"bytes"
	"fmt"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// mirror is a reflection of a page about the middle of what is shown of it, such
// that left is right as the page is seen: with its own rotation, that may be top
// and bottom of its content.
type mirror struct {
	middle   float64
	vertical bool
}

func (c *copier) mirrorOf(node pageNode) mirror {
	shown, ok := c.doc.rectangle(node.cropBox)
	if !ok {
		shown, _ = c.doc.rectangle(node.mediaBox)
	}
	if node.rotate%180 != 0 {
		return mirror{(shown.y0 + shown.y1) / 2, true}
	}
	return mirror{(shown.x0 + shown.x1) / 2, false}
}

func (m mirror) box(r rectangle) types.Array {
	if m.vertical {
		return numbers(r.x0, 2*m.middle-r.y1, r.x1, 2*m.middle-r.y0)
	}
	return numbers(2*m.middle-r.x1, r.y0, 2*m.middle-r.x0, r.y1)
}

func (m mirror) matrix() string {
	if m.vertical {
		return fmt.Sprintf("1 0 0 -1 0 %.4f cm", 2*m.middle)
	}
	return fmt.Sprintf("-1 0 0 1 %.4f 0 cm", 2*m.middle)
}

// mirrorPage wraps the content of a page's copy. What lies in annotations stays
// readable: only their places are mirrored.
func (c *copier) mirrorPage(page types.Dict, node pageNode) {
	m := c.mirrorOf(node)
	if media, ok := c.doc.rectangle(node.mediaBox); ok {
		page["MediaBox"] = m.box(media)
	}
	contents := types.Array{reference(c.contentStream("q " + m.matrix() + "\n"))}
	switch original := c.doc.resolve(node.dict["Contents"]).(type) {
	case types.Array:
		copied, _ := c.value(original).(types.Array)
		contents = append(contents, copied...)
	case nil:
	default:
		contents = append(contents, page["Contents"])
	}
	page["Contents"] = append(contents, reference(c.contentStream("\nQ\n")))
}

func (c *copier) contentStream(content string) int {
	number := c.out.allocate()
	c.out.stream(number, types.Dict{}, bytes.NewReader([]byte(content)), int64(len(content)))
	return number
}
