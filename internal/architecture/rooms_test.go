package architecture

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const root = "../.."

// rooms are the packages from the top down. A room may import rooms below it,
// never above; rooms of one line may not import each other.
var rooms = [][]string{
	{"cmd/dorbin"},
	{"internal/demo", "internal/server"},
	{"internal/scanner/sim"},
	{"internal/app"},
	{"internal/intake"},
	{"internal/intake/tiff"},
	{"internal/ocr", "internal/render", "internal/scanner"},
	{"internal/store"},
	{"internal/jobs"},
	{"internal/guard", "internal/sampling"},
	{"core/check"},
	{"core/pdf", "core/packet", "core/shrink"},
	{"core/bilevel/jbig2", "core/raster"},
	{"core/bilevel"},
	{"core/geometry"},
}

// forbiddenInCore keeps the core free of the outside world.
var forbiddenInCore = []string{"net/http", "database/sql", "os", "dorbin/internal"}

func level(room string) int {
	return slices.IndexFunc(rooms, func(line []string) bool { return slices.Contains(line, room) })
}

func TestImportsGoDown(t *testing.T) {
	for file, imports := range sources(t) {
		room := filepath.ToSlash(filepath.Dir(file))
		for _, imported := range imports {
			other, ours := strings.CutPrefix(imported, "dorbin/")
			if !ours || strings.HasSuffix(file, "_test.go") {
				continue
			}
			require.GreaterOrEqual(t, level(other), 0, "%s is in no line of the list of rooms", other)
			assert.Less(t, level(room), level(other), "%s imports %s, which is not below it", file, other)
		}
	}
}

func TestCoreIsPure(t *testing.T) {
	for file, imports := range sources(t) {
		if !strings.HasPrefix(filepath.ToSlash(file), "core/") || strings.HasSuffix(file, "_test.go") {
			continue
		}
		for _, imported := range imports {
			for _, forbidden := range forbiddenInCore {
				bad := imported == forbidden || strings.HasPrefix(imported, forbidden+"/")
				assert.False(t, bad, "%s imports %s", file, imported)
			}
		}
	}
}

func TestEveryPackageSaysWhatItIsFor(t *testing.T) {
	folders := map[string]bool{}
	for file := range sources(t) {
		folders[filepath.Dir(file)] = true
	}
	for folder := range folders {
		if folder == filepath.Join("cmd", "dorbin") {
			continue // a command says it in main.go
		}
		text, err := os.ReadFile(filepath.Join(root, folder, "doc.go"))
		if assert.NoError(t, err) {
			assert.Contains(t, string(text), "// Package "+filepath.Base(folder))
		}
	}
}

// sources lists the imports of every Go file, by its path from the root.
func sources(t *testing.T) map[string][]string {
	t.Helper()
	all := map[string][]string{}
	for _, folder := range []string{"cmd", "core", "internal"} {
		err := filepath.WalkDir(filepath.Join(root, folder), func(path string, entry fs.DirEntry, err error) error {
			if err != nil || entry.IsDir() || filepath.Ext(path) != ".go" {
				return err
			}
			file, err := parser.ParseFile(token.NewFileSet(), path, nil, parser.ImportsOnly)
			if err != nil {
				return err
			}
			name, err := filepath.Rel(root, path)
			all[name] = []string{}
			for _, spec := range file.Imports {
				all[name] = append(all[name], strings.Trim(spec.Path.Value, `"`))
			}
			return err
		})
		require.NoError(t, err)
	}
	require.NotEmpty(t, all)
	return all
}
