package architecture

import (
	"go/parser"
	"go/token"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const root = "../.."

// mayImport says of every package which others of ours it may import. A test may import
// whatever it wants. A room that wants something else is in the wrong place, or this list is
// changed on purpose.
var mayImport = map[string][]string{
	"core/geometry":      {"core/message"},
	"core/annotation":    {"core/message"},
	"core/bilevel":       {},
	"core/bilevel/jbig2": {"core/bilevel"},
	"core/jpeg":          {},
	"core/message":       {},
	"core/png":           {},
	"core/pdf/pdftest":   {},
	"core/raster":        {"core/geometry", "core/bilevel", "core/message", "core/png"},
	"core/typeface":      {},
	"core/finish":        {"core/geometry", "core/message", "core/typeface"},
	"core/problem":       {"core/message"},
	"core/text":          {"core/geometry"},
	"core/requirements":  {"core/geometry", "core/message", "core/problem", "core/text"},
	"core/packet":        {"core/annotation", "core/finish", "core/geometry", "core/message", "core/problem", "core/raster", "core/requirements", "core/text"},
	"core/shrink":        {"core/bilevel", "core/bilevel/jbig2", "core/jpeg", "core/raster"},
	"core/planning":      {"core/shrink"},
	"core/pdf":           {"core/annotation", "core/finish", "core/typeface", "core/geometry", "core/bilevel", "core/jpeg", "core/png", "core/raster", "core/text"},
	"core/check":         {"core/geometry", "core/message", "core/packet", "core/problem", "core/raster", "core/text"},

	"internal/guard":             {},
	"internal/hostile":           {"core/pdf/pdftest"},
	"internal/await":             {},
	"internal/sampling":          {},
	"internal/architecture":      {},
	"internal/confine":           {},
	"internal/worker":            {"core/message", "core/problem", "internal/confine", "internal/guard"},
	"internal/worker/workertest": {"internal/worker"},
	"internal/jobs":              {"internal/guard", "internal/worker"},
	"internal/store":             {"core/check", "core/geometry", "core/message", "core/packet", "core/raster", "core/requirements", "core/text", "internal/jobs"},
	"internal/office":            {"internal/confine"},
	"internal/ocr":               {"core/geometry", "core/text", "internal/confine"},
	"internal/scanner":           {"core/message", "core/problem"},
	"internal/scanner/sim":       {"core/raster", "internal/scanner"},
	"internal/render/pdfium":     {"core/annotation", "core/check", "core/geometry", "core/message", "core/problem", "core/text", "internal/worker"},
	"internal/render":            {"core/annotation", "core/check", "core/geometry", "core/jpeg", "core/message", "core/packet", "core/problem", "core/raster", "internal/render/pdfium", "internal/worker"},
	"internal/intake/tiff":       {"core/bilevel", "core/geometry", "core/jpeg", "core/raster"},
	"internal/intake":            {"core/bilevel", "core/geometry", "core/jpeg", "core/message", "core/pdf", "core/png", "core/problem", "core/raster", "internal/intake/tiff", "internal/office", "internal/render", "internal/worker"},

	"internal/finished": {"core/check", "core/geometry", "core/raster", "core/requirements", "core/text", "internal/render"},
	"internal/sources": {
		"core/geometry", "core/packet", "core/pdf", "core/problem", "core/raster",
		"internal/intake", "internal/render", "internal/store", "internal/worker",
	},
	"internal/assembly": {"core/finish", "core/geometry", "core/pdf", "core/text", "internal/intake", "internal/worker"},
	"internal/checking": {
		"core/check", "core/geometry", "core/packet", "core/problem", "core/raster",
		"internal/guard", "internal/jobs", "internal/ocr", "internal/render", "internal/sources", "internal/store", "internal/worker",
	},
	"internal/reading": {
		"core/check", "core/geometry", "core/message", "core/packet", "core/problem", "core/raster", "core/requirements", "core/text",
		"internal/guard", "internal/jobs", "internal/ocr", "internal/office", "internal/render", "internal/sources", "internal/store", "internal/worker",
	},
	"internal/packets": {
		"core/annotation", "core/check", "core/finish", "core/geometry", "core/message", "core/packet", "core/problem", "core/raster", "core/requirements",
		"internal/checking", "internal/jobs", "internal/render", "internal/sources", "internal/store",
	},
	"internal/arrange": {
		"core/check", "core/geometry", "core/packet", "core/problem", "core/raster",
		"internal/checking", "internal/guard", "internal/jobs", "internal/render", "internal/sources", "internal/store",
	},
	"internal/gather": {
		"core/annotation", "core/geometry", "core/message", "core/packet", "core/problem", "core/raster",
		"internal/intake", "internal/jobs", "internal/office", "internal/packets", "internal/render", "internal/sources", "internal/store", "internal/worker",
	},
	"internal/scanning": {
		"core/check", "core/geometry", "core/message", "core/packet", "core/problem", "core/raster",
		"internal/gather", "internal/guard", "internal/intake", "internal/intake/tiff", "internal/jobs", "internal/ocr",
		"internal/packets", "internal/render", "internal/scanner", "internal/sources", "internal/store",
	},
	"internal/export": {
		"core/bilevel", "core/bilevel/jbig2", "core/check", "core/finish", "core/geometry", "core/jpeg", "core/message", "core/packet", "core/pdf", "core/planning", "core/problem", "core/raster", "core/requirements", "core/shrink", "core/text",
		"internal/assembly", "internal/finished", "internal/guard", "internal/intake/tiff", "internal/jobs", "internal/ocr", "internal/packets", "internal/reading", "internal/render",
		"internal/sources", "internal/store", "internal/worker",
	},
	"internal/folders": {"core/message", "core/problem"},
	"internal/filing": {
		"core/message", "core/packet", "core/problem",
		"internal/export", "internal/folders", "internal/gather", "internal/packets", "internal/render", "internal/store", "internal/worker",
	},
	"internal/keeping":    {"core/message", "core/problem", "core/requirements", "internal/filing", "internal/packets", "internal/store"},
	"internal/handin/sim": {},
	"internal/handin":     {"core/message", "core/problem", "core/requirements", "internal/export", "internal/folders", "internal/jobs", "internal/store"},
	"internal/receivers": {
		"core/annotation", "core/check", "core/finish", "core/geometry", "core/message", "core/packet", "core/planning", "core/problem", "core/raster", "core/requirements",
		"internal/checking", "internal/export", "internal/packets", "internal/reading", "internal/sources", "internal/store",
	},
	"internal/app": {
		"core/finish", "core/packet", "core/requirements",
		"internal/arrange", "internal/assembly", "internal/checking", "internal/confine", "internal/export", "internal/filing", "internal/finished", "internal/gather", "internal/handin", "internal/intake", "internal/jobs", "internal/keeping",
		"internal/ocr", "internal/office", "internal/packets", "internal/reading", "internal/receivers", "internal/render", "internal/render/pdfium", "internal/scanning", "internal/sources", "internal/store", "internal/worker",
	},
	"internal/server": {
		"core/annotation", "core/message", "core/typeface", "core/geometry", "core/packet", "core/problem", "core/requirements", "core/shrink",
		"internal/app", "internal/arrange", "internal/checking", "internal/demo", "internal/export", "internal/filing", "internal/gather", "internal/handin", "internal/keeping",
		"internal/packets", "internal/reading", "internal/receivers", "internal/scanning",
	},
	"internal/demo": {
		"core/geometry", "core/packet", "core/raster", "core/requirements",
		"internal/app", "internal/gather", "internal/intake/tiff", "internal/packets", "internal/receivers", "internal/scanner/sim",
	},
	"cmd/dorbin": {"core/finish", "core/requirements", "internal/app", "internal/demo", "internal/folders", "internal/handin", "internal/handin/sim", "internal/intake", "internal/ocr", "internal/render", "internal/scanner/sim", "internal/server"},
}

// forbiddenInCore keeps the core free of the outside world.
var forbiddenInCore = []string{"net/http", "database/sql", "os", "dorbin/internal"}

func TestRoomsImportWhatTheyMay(t *testing.T) {
	for file, imports := range sources(t) {
		room := filepath.ToSlash(filepath.Dir(file))
		allowed, listed := mayImport[room]
		require.True(t, listed, "%s is not in the list of rooms", room)
		for _, imported := range imports {
			other, ours := strings.CutPrefix(imported, "dorbin/")
			if ours && !strings.HasSuffix(file, "_test.go") {
				assert.Contains(t, allowed, other, "%s imports %s", file, other)
			}
		}
	}
}

func TestTheListOfRoomsIsNoLongerThanNeeded(t *testing.T) {
	used := map[string][]string{}
	for file, imports := range sources(t) {
		if !strings.HasSuffix(file, "_test.go") {
			room := filepath.ToSlash(filepath.Dir(file))
			used[room] = append(used[room], imports...)
		}
	}
	for room, allowed := range mayImport {
		require.Contains(t, used, room, "there is no such room")
		for _, other := range allowed {
			assert.Contains(t, used[room], "dorbin/"+other, "%s does not import %s", room, other)
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
