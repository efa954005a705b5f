package pdf

import (
	"regexp"
	"strings"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
)

// LeftOut is a kind of thing that documents carry besides what is seen of their pages, and
// that the assembled document does not.
type LeftOut string

// What is left out.
const (
	Scripts      LeftOut = "scripts"
	Actions      LeftOut = "actions"     // that start programs, open files, send or fetch data
	Media        LeftOut = "media"       // sounds, films, models
	Attachments  LeftOut = "attachments" // files within the document
	HiddenLayers LeftOut = "layers"      // optional content that is switched off
	HiddenNotes  LeftOut = "hiddenNotes" // annotations and fields that are never shown
	Metadata     LeftOut = "metadata"    // XMP, EXIF and the like, of documents, pages and pictures
)

// Tally counts what was left out.
type Tally map[LeftOut]int

// Add adds what another tally counted.
func (t Tally) Add(other Tally) {
	for kind, count := range other {
		t[kind] += count
	}
}

// LeftOut is what the documents that were added carry on their pages and the assembled one
// does not.
func (a *Assembler) LeftOut() Tally { return a.leftOut }

// LeftOut is what the document carries besides its pages, none of which is copied with them.
func (d *Document) LeftOut() Tally {
	names := d.dict(d.root["Names"])
	t := Tally{}
	t.count(Scripts, d.countNames(names["JavaScript"]))
	t.count(Attachments, d.countNames(names["EmbeddedFiles"]))
	if kind, active := d.activeAction(d.dict(d.root["OpenAction"])); active {
		t.count(kind, 1)
	}
	for _, o := range d.dict(d.root["AA"]) {
		if kind, active := d.activeAction(d.dict(o)); active {
			t.count(kind, 1)
		}
	}
	if d.root["Metadata"] != nil || d.ctx.Info != nil {
		t.count(Metadata, 1)
	}
	return t
}

func (t Tally) count(kind LeftOut, n int) {
	if n > 0 {
		t[kind] += n
	}
}

// countNames counts the entries of a name tree (7.9.6).
func (d *Document) countNames(tree types.Object) int {
	nodes, entries := maxNameNodes, 0
	var walk func(o types.Object, depth int)
	walk = func(o types.Object, depth int) {
		node := d.dict(o)
		if nodes--; node == nil || nodes < 0 || depth > maxTreeDepth {
			return
		}
		entries += len(d.array(node["Names"])) / 2
		for _, kid := range d.array(node["Kids"]) {
			walk(kid, depth+1)
		}
	}
	walk(tree, 0)
	return entries
}

// actionKinds are the types of actions (12.6.4) that are left out.
var actionKinds = map[string]LeftOut{
	"JavaScript": Scripts,
	"Launch":     Actions, "SubmitForm": Actions, "ImportData": Actions, "GoToR": Actions, "GoToE": Actions, "GoToDp": Actions,
	"Hide": Actions, "SetOCGState": Actions, "Trans": Actions,
	"Sound": Media, "Movie": Media, "Rendition": Media, "GoTo3DView": Media, "RichMediaExecute": Media,
}

// keptNames are the named actions (table 215) that only turn pages. Others are those of a
// reader's own menus.
var keptNames = map[string]bool{"NextPage": true, "PrevPage": true, "FirstPage": true, "LastPage": true}

// keptSchemes are those of addresses that a link may lead to; "" is of one without.
var keptSchemes = map[string]bool{"": true, "http": true, "https": true, "mailto": true, "tel": true, "ftp": true}

// activeAction tells whether an action does more than lead to a page or to a web address, or
// than empty a form.
func (d *Document) activeAction(action types.Dict) (kind LeftOut, active bool) {
	switch s := d.name(action["S"]); s {
	case "", "GoTo", "Thread", "ResetForm":
		return "", false
	case "Named":
		return Actions, !keptNames[d.name(action["N"])]
	case "URI":
		address, _ := d.text(action["URI"])
		switch scheme := schemeOf(address); {
		case keptSchemes[scheme]:
			return "", false
		case scheme == "javascript":
			return Scripts, true
		}
		return Actions, true
	default:
		if kind, known := actionKinds[s]; known {
			return kind, true
		}
		return Actions, true
	}
}

var scheme = regexp.MustCompile(`^([A-Za-z][A-Za-z0-9+.-]*):`)

// schemeOf gives the scheme of an address in small letters (RFC 3986, 3.1), and finds it behind
// the spaces and control characters that readers pass over.
func schemeOf(address string) string {
	address = strings.Map(func(r rune) rune {
		if r <= ' ' {
			return -1
		}
		return r
	}, address)
	if match := scheme.FindStringSubmatch(address); match != nil {
		return strings.ToLower(match[1])
	}
	return ""
}

// mediaAnnotations play something; what is seen of them before they do stays.
var mediaAnnotations = map[string]bool{"Screen": true, "Movie": true, "RichMedia": true, "3D": true}

// leavesOut tells of an annotation that is not copied, and counts it: it holds a file or a
// sound, is never shown, or is on a layer that is switched off.
func (c *copier) leavesOut(annot types.Dict) bool {
	switch subtype := c.doc.name(annot["Subtype"]); {
	case subtype == "FileAttachment":
		return c.counted(Attachments)
	case subtype == "Sound", mediaAnnotations[subtype] && c.doc.dict(annot["AP"]) == nil:
		return c.counted(Media)
	case c.doc.isNeverShown(annot):
		return c.counted(HiddenNotes)
	}
	return c.isOnHiddenLayer(annot)
}

// counted counts something that is left out, if it is.
func (c *copier) counted(kind LeftOut) bool {
	if kind == "" {
		return false
	}
	c.leftOut[kind]++
	return true
}

// Flags of annotations (table 167).
const (
	flagHidden = 1 << 1
	flagPrint  = 1 << 2
	flagNoView = 1 << 5
)

// isNeverShown tells of an annotation that is seen neither on a screen nor in print.
func (d *Document) isNeverShown(annot types.Dict) bool {
	n, _ := d.number(annot["F"])
	flags := int(n)
	return flags&flagHidden != 0 || (flags&flagNoView != 0 && flags&flagPrint == 0)
}

// countLeftOutOf counts what a page has besides what is copied of it.
func (c *copier) countLeftOutOf(page pageNode) {
	for _, o := range c.doc.dict(page.dict["AA"]) {
		if kind, active := c.doc.activeAction(c.doc.dict(o)); active {
			c.leftOut[kind]++
		}
	}
	if page.dict["Metadata"] != nil {
		c.leftOut[Metadata]++
	}
	c.leftOut.count(Attachments, len(c.doc.array(page.dict["AF"])))
}

// posterOf is what is seen of an annotation that plays something, as a stamp.
func (c *copier) posterOf(annot types.Dict) types.Dict {
	c.leftOut[Media]++
	poster := types.Dict{}
	for _, key := range []string{"Type", "Rect", "F", "AP", "AS", "Border", "BS", "C", "NM", "OC"} {
		if value := c.value(annot[key]); value != nil {
			poster[key] = value
		}
	}
	poster["Subtype"] = types.Name("Stamp")
	return poster
}

// isLeftOut tells of an object that is not copied, wherever it is referred to, and counts it.
func (c *copier) isLeftOut(o types.Object) bool {
	return c.counted(c.doc.leftOutKind(o))
}

// isFile tells of a file specification with the file within it (7.11.3).
func (d *Document) isFile(dict types.Dict) bool {
	files := d.dict(dict["EF"])
	for key := range files {
		if key != "F" && key != "UF" && key != "DOS" && key != "Mac" && key != "Unix" {
			return false
		}
	}
	return len(files) > 0
}

func (d *Document) leftOutKind(o types.Object) LeftOut {
	switch v := o.(type) {
	case types.StreamDict:
		switch name := d.name(v.Dict["Type"]); {
		case name == "Metadata", d.name(v.Dict["Subtype"]) == "XML":
			return Metadata
		case name == "EmbeddedFile":
			return Attachments
		case name == "Sound", name == "3D":
			return Media
		}
	case types.Dict:
		if d.isFile(v) {
			return Attachments
		}
		if v["S"] != nil {
			return actionKinds[d.name(v["S"])]
		}
	}
	return ""
}
