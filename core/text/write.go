package text

import (
	"fmt"
	"html"
	"io"
	"strings"
)

// WritePlain writes blocks as plain text. Cells of a table are parted by tabs, pages by form feeds.
func WritePlain(w io.Writer, blocks []Block) error {
	var b strings.Builder
	for i, block := range blocks {
		switch block.Kind {
		case PageBreak:
			b.WriteString("\f")
			continue
		case Picture:
			continue
		case Table:
			for _, row := range block.Rows {
				for i, cell := range row {
					if i > 0 {
						b.WriteByte('\t')
					}
					b.WriteString(cell.String())
				}
				b.WriteByte('\n')
			}
		case Item:
			if block.Number > 0 {
				fmt.Fprintf(&b, "%d. ", block.Number)
			} else {
				b.WriteString("- ")
			}
			b.WriteString(block.Text.String() + "\n")
		default:
			b.WriteString(block.Text.String() + "\n")
		}
		if i+1 < len(blocks) && (block.Kind != Item || blocks[i+1].Kind != Item) {
			b.WriteString("\n")
		}
	}
	_, err := io.WriteString(w, b.String())
	return err
}

// WriteHTML writes blocks as a page of HTML in a language, a BCP 47 tag that may be empty. Pictures
// are at the addresses that picture gives for pages; none is shown where it gives nothing.
func WriteHTML(w io.Writer, title, language string, blocks []Block, picture func(page int) string) error {
	var b strings.Builder
	fmt.Fprintf(&b, "<!DOCTYPE html>\n<html lang=%q>\n<head>\n<meta charset=\"utf-8\">\n<title>%s</title>\n"+
		"<style>table { border-collapse: collapse } td { border: 1px solid #999; padding: 2px 6px }</style>\n</head>\n<body>\n",
		language, html.EscapeString(title))
	breaks, list := "", ""
	for _, block := range blocks {
		if kind := listOf(block); kind != list {
			closeList(&b, list)
			if list = kind; list != "" {
				b.WriteString("<" + list + ">\n")
			}
		}
		if block.Kind == PageBreak {
			breaks = ` style="page-break-before: always"`
			continue
		}
		writeBlock(&b, block, breaks, picture)
		breaks = ""
	}
	closeList(&b, list)
	b.WriteString("</body>\n</html>\n")
	_, err := io.WriteString(w, b.String())
	return err
}

// listOf is the element of the list that a block is an item of; empty for others.
func listOf(block Block) string {
	switch {
	case block.Kind != Item:
		return ""
	case block.Number > 0:
		return "ol"
	}
	return "ul"
}

func closeList(b *strings.Builder, list string) {
	if list != "" {
		b.WriteString("</" + list + ">\n")
	}
}

// writeBlock writes a block, whose element may begin a page.
func writeBlock(b *strings.Builder, block Block, breaks string, picture func(page int) string) {
	words := block.Text.html()
	switch block.Kind {
	case Heading: // it is told from other text as it is
		fmt.Fprintf(b, "<h%d%s>%s</h%d>\n", block.Level, breaks, html.EscapeString(block.Text.String()), block.Level)
	case Item:
		number := ""
		if block.Number > 0 {
			number = fmt.Sprintf(" value=\"%d\"", block.Number)
		}
		fmt.Fprintf(b, "<li%s%s>%s</li>\n", number, breaks, words)
	case Table:
		fmt.Fprintf(b, "<table%s>\n", breaks)
		for _, row := range block.Rows {
			b.WriteString("<tr>")
			for _, cell := range row {
				fmt.Fprintf(b, "<td>%s</td>", cell.html())
			}
			b.WriteString("</tr>\n")
		}
		b.WriteString("</table>\n")
	case Picture:
		if address := picture(block.Page); address != "" {
			fmt.Fprintf(b, "<p%s><img src=\"%s\" alt=\"\" width=\"640\"></p>\n", breaks, html.EscapeString(address))
		}
	default:
		fmt.Fprintf(b, "<p%s>%s</p>\n", breaks, words)
	}
}

// html is the text with elements for its styles.
func (s Styled) html() string {
	var b strings.Builder
	for _, span := range s {
		words := html.EscapeString(span.Text)
		if span.Italic {
			words = "<i>" + words + "</i>"
		}
		if span.Bold {
			words = "<b>" + words + "</b>"
		}
		b.WriteString(words)
	}
	return b.String()
}
