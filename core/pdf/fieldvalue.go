package pdf

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/font"
	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
	"golang.org/x/text/encoding/charmap"
)

const (
	fieldPadding   = 2.0  // points between a field's edge and its text
	largestAutoFit = 12.0 // points, of a text whose size follows from its field
	leading        = 1.15 // from one line to the next, of the size
	ascent         = 0.72 // of Helvetica's capitals, of the size
	multiline      = 1 << 12

	fieldFont = "DorbinHelvetica"
)

// fieldDrawing draws a field that has no appearance: its frame, and the value of a text or
// choice field in Helvetica (12.7.4.3). It is not ok where the value has letters that this font
// does not have.
func (d *Document) fieldDrawing(widget types.Dict, rect rectangle) (drawing, bool) {
	drawn := drawing{content: d.frame(widget, rect)}
	value, isText := d.text(d.inherited(widget, "V"))
	switch kind := d.inheritedName(widget, "FT"); {
	case kind == "Btn":
		return drawn, true
	case kind != "Tx" && kind != "Ch":
		return drawing{}, false
	case !isText:
		return drawn, d.resolve(d.inherited(widget, "V")) == nil
	}
	encoded, err := charmap.Windows1252.NewEncoder().String(decodeText(value))
	if err != nil {
		return drawing{}, false
	}
	if strings.TrimSpace(encoded) != "" {
		flags, _ := d.number(d.inherited(widget, "Ff"))
		drawn.content += d.textStyle(widget).lines(encoded, rect, int(flags)&multiline != 0)
		drawn.font = helvetica()
	}
	return drawn, true
}

// frame draws the background and the border of a field, as its characteristics and its border
// style say (12.5.6.19, 12.5.4).
func (d *Document) frame(widget types.Dict, rect rectangle) string {
	characteristics := d.dict(widget["MK"])
	var b strings.Builder
	if colour := d.colourOperator(characteristics["BG"], "g", "rg", "k"); colour != "" {
		fmt.Fprintf(&b, "%s %.4f %.4f %.4f %.4f re f\n", colour, rect.x0, rect.y0, rect.x1-rect.x0, rect.y1-rect.y0)
	}
	width, given := d.number(d.dict(widget["BS"])["W"])
	if !given {
		width = 1
	}
	if colour := d.colourOperator(characteristics["BC"], "G", "RG", "K"); colour != "" && width > 0 {
		fmt.Fprintf(&b, "%s %.3f w %.4f %.4f %.4f %.4f re S\n",
			colour, width, rect.x0+width/2, rect.y0+width/2, rect.x1-rect.x0-width, rect.y1-rect.y0-width)
	}
	return b.String()
}

// colourOperator sets a colour of one, three or four components, by the operator for so many.
func (d *Document) colourOperator(o types.Object, grey, rgb, cmyk string) string {
	components := d.array(o)
	operator := map[int]string{1: grey, 3: rgb, 4: cmyk}[len(components)]
	if operator == "" {
		return ""
	}
	var b strings.Builder
	for _, component := range components {
		n, _ := d.number(component)
		fmt.Fprintf(&b, "%.4f ", n)
	}
	return b.String() + operator
}

func helvetica() types.Dict {
	return types.Dict{
		"Type": types.Name("Font"), "Subtype": types.Name("Type1"),
		"BaseFont": types.Name("Helvetica"), "Encoding": types.Name("WinAnsiEncoding"),
	}
}

// inherited looks an entry of a field up, in the fields above it where it has none (12.7.4.1),
// and at last in the form.
func (d *Document) inherited(field types.Dict, key string) types.Object {
	for depth := 0; field != nil && depth < maxTreeDepth; depth++ {
		if value := field[key]; value != nil {
			return value
		}
		field = d.dict(field["Parent"])
	}
	return d.dict(d.root["AcroForm"])[key]
}

// textStyle is how the value of a field is written.
type textStyle struct {
	size   float64 // points; 0 follows from the field
	colour string  // operators that set it
	align  int     // 0 left, 1 centred, 2 right (quadding)
}

var (
	sizeInAppearance   = regexp.MustCompile(`(-?[\d.]+)\s+Tf`)
	colourInAppearance = regexp.MustCompile(`(?:[\d.]+\s+){1,4}(?:g|rg|k)(?:\s|$)`)
)

// textStyle reads a field's default appearance and its quadding (12.7.4.3).
func (d *Document) textStyle(widget types.Dict) textStyle {
	style := textStyle{colour: "0 g"}
	appearance, _ := d.text(d.inherited(widget, "DA"))
	if match := sizeInAppearance.FindStringSubmatch(appearance); match != nil {
		style.size, _ = strconv.ParseFloat(match[1], 64) // what is no number follows from the field
	}
	if colour := colourInAppearance.FindString(appearance); colour != "" {
		style.colour = strings.TrimSpace(colour)
	}
	align, _ := d.number(d.inherited(widget, "Q"))
	style.align = int(align)
	return style
}

// lines gives the content that writes a text into a rectangle, a line below the other. The font has
// the name of fieldFont.
func (s textStyle) lines(encoded string, rect rectangle, several bool) string {
	width, height := rect.x1-rect.x0, rect.y1-rect.y0
	lines := []string{strings.NewReplacer("\r\n", " ", "\r", " ", "\n", " ").Replace(encoded)}
	if several {
		lines = strings.Split(strings.NewReplacer("\r\n", "\n", "\r", "\n").Replace(encoded), "\n")
	}
	size := s.size
	if size <= 0 {
		size = min(largestAutoFit, height/leading/float64(len(lines)))
	}
	if several {
		lines = wrapped(lines, size, width-2*fieldPadding)
	}
	baseline := rect.y0 + (height-ascent*size)/2
	if several {
		baseline = rect.y1 - fieldPadding - ascent*size
	}
	var b strings.Builder
	fmt.Fprintf(&b, "%.4f %.4f %.4f %.4f re W n\nBT\n%s\n/%s %.3f Tf\n",
		rect.x0, rect.y0, width, height, s.colour, fieldFont, size)
	for i, line := range lines {
		x := rect.x0 + fieldPadding
		switch room := width - 2*fieldPadding - widthOf(line, size); s.align {
		case 1:
			x += room / 2
		case 2:
			x += room
		}
		fmt.Fprintf(&b, "1 0 0 1 %.4f %.4f Tm <%X> Tj\n", x, baseline-float64(i)*leading*size, line)
	}
	b.WriteString("ET\n")
	return b.String()
}

// wrapped breaks lines between words where they are wider than a width in points.
func wrapped(lines []string, size, width float64) (broken []string) {
	for _, line := range lines {
		current := ""
		for _, word := range strings.Fields(line) {
			if longer := strings.TrimSpace(current + " " + word); current == "" || widthOf(longer, size) <= width {
				current = longer
				continue
			}
			broken = append(broken, current)
			current = word
		}
		broken = append(broken, current)
	}
	return broken
}

// widthOf is the width in points of a text in Helvetica, which is encoded as WinAnsi.
func widthOf(encoded string, size float64) float64 {
	width := 0
	for _, r := range decodeWinAnsi(encoded) {
		w, err := font.CharWidth("Helvetica", r)
		if err == nil {
			width += w
		}
	}
	return float64(width) * size / 1000
}

func decodeWinAnsi(encoded string) string {
	text, err := charmap.Windows1252.NewDecoder().String(encoded)
	if err != nil {
		return encoded
	}
	return text
}
