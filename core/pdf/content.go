package pdf

import (
	"bytes"
	"strconv"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"

	"dorbin/core/geometry"
)

// operator is an operator of a content stream with the numbers and names before it
// (7.8.2). Strings, arrays and dictionaries are passed over.
type operator struct {
	name       string
	numbers    []float64
	tag, named string // the first and the last name
	start, end int    // its place in the content, with what is before it
}

// scanContent calls do for every operator of a content stream, in their order. What is
// damaged is passed over as readers do.
func scanContent(content []byte, do func(operator)) {
	s := contentScanner{content: content}
	op := operator{}
	for {
		token, ok := s.next()
		if !ok {
			return
		}
		switch {
		case token[0] == '/':
			op.named = decodedName(token[1:])
			if op.tag == "" {
				op.tag = op.named
			}
		case isNumber(token):
			n, _ := strconv.ParseFloat(string(token), 64) // what is no number is 0, as for readers
			op.numbers = append(op.numbers, n)
		case isDelimiter(token[0]):
		default:
			if op.name = string(token); op.name == "ID" {
				s.skipInlineImage()
			}
			op.end = s.at
			do(op)
			op = operator{start: s.at}
		}
	}
}

type contentScanner struct {
	content []byte
	at      int
}

// next gives the next token: a name with its slash, a number, an operator, or one
// character of what encloses an array or a dictionary. Strings are passed over.
func (s *contentScanner) next() (token []byte, ok bool) {
	for s.at < len(s.content) {
		c := s.content[s.at]
		switch {
		case isSpace(c):
			s.at++
		case c == '%':
			s.skipTo(func(c byte) bool { return c == '\n' || c == '\r' })
		case c == '(':
			s.skipString()
		case c == '<' && s.at+1 < len(s.content) && s.content[s.at+1] == '<':
			s.at += 2
			return s.content[s.at-2 : s.at], true
		case c == '<':
			s.skipTo(func(c byte) bool { return c == '>' })
			s.at++
		case c != '/' && isDelimiter(c):
			s.at++
			return s.content[s.at-1 : s.at], true
		default:
			start, end := s.at, s.at+1
			for end < len(s.content) && kinds[s.content[end]] == regular {
				end++
			}
			s.at = end
			return s.content[start:end], true
		}
	}
	return nil, false
}

func (s *contentScanner) skipTo(stop func(byte) bool) {
	for s.at < len(s.content) && !stop(s.content[s.at]) {
		s.at++
	}
}

// skipString passes over a literal string, in which brackets are balanced (7.3.4.2).
func (s *contentScanner) skipString() {
	content, depth := s.content, 0
	if end := bytes.IndexByte(content[s.at:], ')'); end > 0 { // nearly all are without brackets and escapes
		if text := content[s.at+1 : s.at+end]; bytes.IndexByte(text, '(') < 0 && bytes.IndexByte(text, '\\') < 0 {
			s.at += end + 1
			return
		}
	}
	for at := s.at; at < len(content); at++ {
		switch content[at] {
		case '\\':
			at++
		case '(':
			depth++
		case ')':
			if depth--; depth == 0 {
				s.at = at + 1
				return
			}
		}
	}
	s.at = len(content)
}

// skipInlineImage passes over the bytes of an image in the content, to the operator EI
// that stands alone (8.9.7).
func (s *contentScanner) skipInlineImage() {
	for from := s.at; ; {
		end := bytes.Index(s.content[min(from, len(s.content)):], []byte("EI"))
		if end < 0 {
			s.at = len(s.content)
			return
		}
		end += from
		after := end + 2
		if end > 0 && isSpace(s.content[end-1]) && (after >= len(s.content) || isSpace(s.content[after])) {
			s.at = after
			return
		}
		from = after
	}
}

// Kinds of characters (7.2.3).
const (
	regular = iota
	space
	delimiter
)

var kinds = func() (kinds [256]byte) {
	for _, c := range []byte("\x00\t\n\f\r ") {
		kinds[c] = space
	}
	for _, c := range []byte("()<>[]{}/%") {
		kinds[c] = delimiter
	}
	return kinds
}()

func isSpace(c byte) bool { return kinds[c] == space }

func isDelimiter(c byte) bool { return kinds[c] == delimiter }

func isNumber(token []byte) bool {
	return bytes.IndexByte([]byte("+-.0123456789"), token[0]) >= 0
}

func decodedName(raw []byte) string {
	name, err := types.DecodeName(string(raw))
	if err != nil {
		return string(raw)
	}
	return name
}

// drawer follows where content draws images: the transformation that holds at each.
type drawer struct {
	doc    *Document
	onDraw func(object int, image types.StreamDict, at geometry.Affine)
	onInk  func() // something else that is seen is drawn
	depth  int
	drawn  int // forms
}

// painting are the operators that leave something to see, besides images; text that is
// rendered unseen is told apart by its mode (9.3.6).
var painting = map[string]bool{
	"S": true, "s": true, "f": true, "F": true, "f*": true, "B": true, "B*": true, "b": true, "b*": true, "sh": true, "EI": true, "ID": true,
}

var showing = map[string]bool{"Tj": true, "TJ": true, "'": true, "\"": true}

const unseenText = 3 // the text rendering mode

// follow goes through content that begins with a transformation.
func (d *drawer) follow(content []byte, resources types.Dict, from geometry.Affine) {
	type graphicsState struct {
		at   geometry.Affine
		mode float64
	}
	now := graphicsState{at: from}
	var saved []graphicsState
	objects := d.doc.dict(resources["XObject"])
	scanContent(content, func(op operator) {
		switch {
		case op.name == "q":
			saved = append(saved, now)
		case op.name == "Q" && len(saved) > 0:
			now, saved = saved[len(saved)-1], saved[:len(saved)-1]
		case op.name == "cm" && len(op.numbers) >= 6:
			n := op.numbers[len(op.numbers)-6:]
			now.at = geometry.Affine{A: n[0], B: n[1], C: n[2], D: n[3], E: n[4], F: n[5]}.Then(now.at)
		case op.name == "Tr" && len(op.numbers) > 0:
			now.mode = op.numbers[len(op.numbers)-1]
		case op.name == "Do":
			d.draw(objects[op.named], resources, now.at)
		case painting[op.name], showing[op.name] && now.mode != unseenText:
			d.onInk()
		}
	})
}

func (d *drawer) draw(o types.Object, resources types.Dict, at geometry.Affine) {
	stream, ok := d.doc.resolve(o).(types.StreamDict)
	if !ok {
		return
	}
	switch d.doc.name(stream.Dict["Subtype"]) {
	case "Image":
		d.onDraw(objectNumber(o), stream, at)
	case "Form":
		if d.drawn++; d.depth >= maxFormDepth || d.drawn > maxDrawn || stream.DecodeWithLimit(maxContent) != nil {
			return
		}
		if own := d.doc.dict(stream.Dict["Resources"]); own != nil {
			resources = own
		}
		d.depth++
		d.follow(stream.Content, resources, d.doc.matrixOf(stream).Then(at))
		d.depth--
	}
}

// matrixOf leads from a form's space to where it is drawn (8.10.2).
func (d *Document) matrixOf(form types.StreamDict) geometry.Affine {
	m := d.array(form.Dict["Matrix"])
	if len(m) != 6 {
		return geometry.Identity
	}
	var n [6]float64
	for i := range n {
		n[i], _ = d.number(m[i])
	}
	return geometry.Affine{A: n[0], B: n[1], C: n[2], D: n[3], E: n[4], F: n[5]}
}
