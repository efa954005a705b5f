package pdf

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// Opening is how a reader is asked to show the document first (7.7.2, 12.3.2.2).
type Opening struct {
	Layout    string // page, scroll or facing
	Page      int    // counted from 0
	Fit       string // page, width or actual
	Bookmarks bool   // are shown beside the page
}

var layouts = map[string]types.Name{"page": "SinglePage", "scroll": "OneColumn", "facing": "TwoPageRight"}

// open has the catalog ask for an opening.
func (a *Assembler) open(root types.Dict, o *Opening) {
	if o == nil {
		return
	}
	if layout, ok := layouts[o.Layout]; ok {
		root["PageLayout"] = layout
	}
	if !o.Bookmarks {
		root["PageMode"] = types.Name("UseNone")
	}
	if o.Page < 0 || o.Page >= len(a.pages) {
		return
	}
	page := reference(a.pages[o.Page])
	switch o.Fit {
	case "page":
		root["OpenAction"] = types.Array{page, types.Name("Fit")}
	case "width":
		root["OpenAction"] = types.Array{page, types.Name("FitH"), nil}
	case "actual":
		root["OpenAction"] = types.Array{page, types.Name("XYZ"), nil, nil, types.Integer(1)}
	}
}

var decimal = regexp.MustCompile(`^(.*?)(0|[1-9][0-9]{0,8})$`)

// pageLabels makes a number tree of what readers show as the pages' numbers (12.4.2): runs of
// pages whose numbers go on, and pages that have a label of their own, or none.
func pageLabels(labels []string) types.Object {
	var tree types.Array
	prefix, next := "", -1 // of the run that may go on
	bare := false          // the run is of pages without a label
	for i, label := range labels {
		match := decimal.FindStringSubmatch(label)
		switch {
		case label == "":
			if !bare {
				tree = append(tree, types.Integer(i), types.Dict{})
			}
			bare, next = true, -1
			continue
		case match == nil:
			tree = append(tree, types.Integer(i), types.Dict{"P": textString(label)})
			next = -1
		default:
			number, _ := strconv.Atoi(match[2]) // the pattern has digits only
			if next < 0 || match[1] != prefix || number != next {
				run := types.Dict{"S": types.Name("D"), "St": types.Integer(number)}
				if match[1] != "" {
					run["P"] = textString(match[1])
				}
				if number == 0 { // numbers of a run begin at 1
					run = types.Dict{"P": textString(label)}
				}
				tree = append(tree, types.Integer(i), run)
			}
			prefix, next = match[1], number+1
			if number == 0 {
				next = -1
			}
		}
		bare = false
	}
	return types.Dict{"Nums": tree}
}

// information is the document information dictionary (14.3.3).
func (p Properties) information() types.Dict {
	info := types.Dict{"Title": textString(p.Title)}
	for key, text := range map[string]string{"Producer": p.Producer, "Author": p.Author, "Subject": p.Subject, "Keywords": p.Keywords} {
		if text != "" {
			info[key] = textString(text)
		}
	}
	for _, own := range p.Own {
		if _, taken := info[own.Name]; !taken {
			info[own.Name] = textString(own.Value)
		}
	}
	if !p.Created.IsZero() {
		info["CreationDate"] = types.StringLiteral(p.Created.UTC().Format("D:20060102150405Z"))
	}
	return info
}

// metadata writes the same as XMP (14.3.2; ISO 16684-1).
func (a *Assembler) metadata(p Properties) types.Object {
	var b strings.Builder
	escaped := func(text string) string {
		var out bytes.Buffer
		_ = xml.EscapeText(&out, []byte(text)) // a buffer takes everything
		return out.String()
	}
	element := func(format, text string) {
		if text != "" {
			fmt.Fprintf(&b, format+"\n", escaped(text))
		}
	}
	b.WriteString("<?xpacket begin=\"\uFEFF\" id=\"W5M0MpCehiHzreSzNTczkc9d\"?>\n" +
		`<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">` +
		`<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/" xmlns:pdf="http://ns.adobe.com/pdf/1.3/" xmlns:xmp="http://ns.adobe.com/xap/1.0/" ` +
		`xmlns:pdfx="http://ns.adobe.com/pdfx/1.3/">` + "\n")
	element(`<dc:title><rdf:Alt><rdf:li xml:lang="x-default">%s</rdf:li></rdf:Alt></dc:title>`, p.Title)
	element(`<dc:creator><rdf:Seq><rdf:li>%s</rdf:li></rdf:Seq></dc:creator>`, p.Author)
	element(`<dc:description><rdf:Alt><rdf:li xml:lang="x-default">%s</rdf:li></rdf:Alt></dc:description>`, p.Subject)
	element(`<pdf:Keywords>%s</pdf:Keywords>`, p.Keywords)
	element(`<pdf:Producer>%s</pdf:Producer>`, p.Producer)
	for _, own := range p.Own {
		name := strings.ReplaceAll(own.Name, " ", "_") // names of elements have no spaces
		element("<pdfx:"+name+">%s</pdfx:"+name+">", own.Value)
	}
	if !p.Created.IsZero() {
		element(`<xmp:CreateDate>%s</xmp:CreateDate>`, p.Created.UTC().Format(time.RFC3339))
	}
	b.WriteString("</rdf:Description></rdf:RDF></x:xmpmeta>\n<?xpacket end=\"r\"?>")
	number := a.out.allocate()
	a.out.stream(number, types.Dict{"Type": types.Name("Metadata"), "Subtype": types.Name("XML")}, strings.NewReader(b.String()), int64(b.Len()))
	return reference(number)
}
