package architecture

import (
	"bytes"
	"encoding/json"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
)

// cataloguePath is where the client has the texts of the server, by their codes.
const cataloguePath = root + "/web/src/words/server.json"

// TestTheCatalogueIsCurrent collects the formats of all texts for users. "make api" writes them.
func TestTheCatalogueIsCurrent(t *testing.T) {
	var want bytes.Buffer
	encoder := json.NewEncoder(&want)
	encoder.SetEscapeHTML(false)
	encoder.SetIndent("", "  ")
	require.NoError(t, encoder.Encode(collectTexts(t)))
	if os.Getenv("UPDATE_OPENAPI") != "" {
		require.NoError(t, os.WriteFile(cataloguePath, want.Bytes(), 0o600))
	}
	got, err := os.ReadFile(cataloguePath)
	require.NoError(t, err)
	assert.Equal(t, want.String(), string(got), "run make api")
}

// maker is a function that makes a text of its parameters: of a format, or of one for a single thing and one for
// several.
type maker struct {
	format, one, other int  // places of its parameters; -1 is none
	values             int  // place of the first value
	countStands        bool // without values, the number stands for the placeholder
}

// makers are those of core/message and core/problem. Functions that pass formats on to them are found.
func makers() map[string]maker {
	return map[string]maker{
		"core/message.Of":       {format: 0, one: -1, other: -1, values: 1},
		"core/message.Sentence": {format: 0, one: -1, other: -1, values: 1},
		"core/message.Errorf":   {format: 0, one: -1, other: -1, values: 1},
		"core/message.Count":    {format: -1, one: 1, other: 2, values: 3, countStands: true},
		"core/problem.New":      {format: 1, one: -1, other: -1, values: 2},
	}
}

// collector goes through the code.
type collector struct {
	t      *testing.T
	makers map[string]maker
	texts  map[string]string // patterns by their codes
	// constants are the strings that rooms name, by the room and the name.
	constants map[string]string
}

func collectTexts(t *testing.T) map[string]string {
	t.Helper()
	c := &collector{t: t, makers: makers(), texts: map[string]string{}, constants: map[string]string{}}
	files := parsed(t)
	for _, file := range files {
		c.noteConstants(file)
	}
	for known := 0; known < len(c.makers); { // a function may pass on to one that passes on
		known = len(c.makers)
		for _, file := range files {
			c.findMakers(file)
		}
	}
	for _, file := range files {
		if file.room != "core/message" {
			c.collect(file)
		}
	}
	return c.texts
}

type sourceFile struct {
	room    string // such as core/check
	name    string
	syntax  *ast.File
	set     *token.FileSet
	imports map[string]string // rooms by the names that they go by in the file
}

func parsed(t *testing.T) (files []sourceFile) {
	t.Helper()
	for _, folder := range []string{"core", "internal"} {
		err := filepath.WalkDir(filepath.Join(root, folder), func(name string, _ fs.DirEntry, err error) error {
			if err != nil || filepath.Ext(name) != ".go" || strings.HasSuffix(name, "_test.go") {
				return err
			}
			set := token.NewFileSet()
			syntax, err := parser.ParseFile(set, name, nil, parser.SkipObjectResolution)
			if err != nil {
				return fmt.Errorf("parse: %w", err)
			}
			relative, err := filepath.Rel(root, name)
			file := sourceFile{path.Dir(filepath.ToSlash(relative)), relative, syntax, set, map[string]string{}}
			for _, spec := range syntax.Imports {
				imported, _ := strconv.Unquote(spec.Path.Value)
				if room, ours := strings.CutPrefix(imported, "dorbin/"); ours {
					file.imports[path.Base(room)] = room
				}
			}
			files = append(files, file)
			return err
		})
		require.NoError(t, err)
	}
	return files
}

// called names the function or method that is called, if it may be one of ours.
func (f sourceFile) called(call *ast.CallExpr) string {
	switch function := call.Fun.(type) {
	case *ast.Ident:
		return f.room + "." + function.Name
	case *ast.SelectorExpr:
		if of, ok := function.X.(*ast.Ident); ok && f.imports[of.Name] != "" {
			return f.imports[of.Name] + "." + function.Sel.Name
		}
		return f.room + "." + function.Sel.Name
	}
	return ""
}

func (c *collector) noteConstants(file sourceFile) {
	for _, declaration := range file.syntax.Decls {
		named, ok := declaration.(*ast.GenDecl)
		if !ok || named.Tok != token.CONST {
			continue
		}
		for _, spec := range named.Specs {
			values, _ := spec.(*ast.ValueSpec)
			for i, value := range values.Values {
				if literal, ok := value.(*ast.BasicLit); ok && literal.Kind == token.STRING {
					c.constants[file.room+"."+values.Names[i].Name], _ = strconv.Unquote(literal.Value)
				}
			}
		}
	}
}

// parametersOf names the parameters of a function.
func parametersOf(function *ast.FuncDecl) (names []string, isVariadic bool) {
	for _, field := range function.Type.Params.List {
		_, isVariadic = field.Type.(*ast.Ellipsis)
		for _, name := range field.Names {
			names = append(names, name.Name)
		}
	}
	return names, isVariadic
}

// findMakers finds functions that pass parameters on as formats.
func (c *collector) findMakers(file sourceFile) {
	for _, declaration := range file.syntax.Decls {
		function, ok := declaration.(*ast.FuncDecl)
		if !ok || function.Body == nil || file.room == "core/message" {
			continue
		}
		parameters, isVariadic := parametersOf(function)
		ast.Inspect(function.Body, func(node ast.Node) bool {
			call, isCall := node.(*ast.CallExpr)
			if !isCall {
				return true
			}
			passes, known := c.makers[file.called(call)]
			if !known {
				return true
			}
			place := func(argument int) int {
				if argument >= 0 && argument < len(call.Args) {
					if name, ok := call.Args[argument].(*ast.Ident); ok {
						return slices.Index(parameters, name.Name)
					}
				}
				return -1
			}
			found := maker{format: place(passes.format), one: place(passes.one), other: place(passes.other), values: -1}
			if isVariadic {
				found.values = len(parameters) - 1
			}
			if found.format >= 0 || found.other >= 0 {
				c.makers[file.room+"."+function.Name.Name] = found
			}
			return true
		})
	}
}

// collect takes the formats of a file.
func (c *collector) collect(file sourceFile) {
	for _, declaration := range file.syntax.Decls {
		var within []string // the parameters of the function, where it is a maker itself
		if function, ok := declaration.(*ast.FuncDecl); ok {
			if _, isMaker := c.makers[file.room+"."+function.Name.Name]; isMaker {
				within, _ = parametersOf(function)
			}
		}
		ast.Inspect(declaration, func(node ast.Node) bool {
			call, isCall := node.(*ast.CallExpr)
			if !isCall {
				return true
			}
			m, isMaker := c.makers[file.called(call)]
			if !isMaker || len(call.Args) <= max(m.format, m.other) {
				return true
			}
			where := file.set.Position(call.Pos()).String()
			if m.format >= 0 {
				if format, ok := c.constant(call.Args[m.format], file.room, within, where); ok {
					c.add(message.Code(format), "", format, where)
					c.checkValues(format, call, m, where)
				}
				return true
			}
			one, isOne := c.constant(call.Args[m.one], file.room, within, where)
			other, isOther := c.constant(call.Args[m.other], file.room, within, where)
			if isOne && isOther {
				c.add(message.Code(other), "_one", one, where)
				c.add(message.Code(other), "_other", other, where)
				c.checkValues(other, call, m, where)
			}
			return true
		})
	}
}

// constant is the value of a format; false where it is a parameter that is passed on.
func (c *collector) constant(expression ast.Expr, room string, within []string, where string) (string, bool) {
	switch e := expression.(type) {
	case *ast.BasicLit:
		text, err := strconv.Unquote(e.Value)
		require.NoError(c.t, err)
		return text, true
	case *ast.BinaryExpr:
		left, isLeft := c.constant(e.X, room, within, where)
		right, isRight := c.constant(e.Y, room, within, where)
		return left + right, isLeft && isRight
	case *ast.Ident:
		if slices.Contains(within, e.Name) {
			return "", false
		}
		if text, known := c.constants[room+"."+e.Name]; known {
			return text, true
		}
	}
	assert.Fail(c.t, "a text's format is no constant", where)
	return "", false
}

func (c *collector) add(code, form, format, where string) {
	key := code + form
	pattern := message.Pattern(format)
	if before, known := c.texts[key]; known && before != pattern {
		assert.Failf(c.t, "two texts have one code", "%s: %q and %q", where, before, pattern)
	}
	c.texts[key] = pattern
}

// checkValues compares the placeholders of a format with the values that are given.
func (c *collector) checkValues(format string, call *ast.CallExpr, m maker, where string) {
	if m.values < 0 || call.Ellipsis.IsValid() || c.isPassedOn(m) {
		return
	}
	given := len(call.Args) - m.values
	if given == 0 && m.countStands {
		given = 1
	}
	assert.Equal(c.t, strings.Count(message.Pattern(format), "{{"), given, "%s: %q", where, format)
}

// isPassedOn tells of a maker of the code's own, which may add values.
func (c *collector) isPassedOn(m maker) bool { return m.other >= 0 && !m.countStands }
