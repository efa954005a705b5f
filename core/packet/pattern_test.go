package packet

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestFileNamesByPattern(t *testing.T) {
	titles := []string{"Application form", "Quotes: slate/lead", "Application form"}
	assert.Equal(t, []string{"1 Application form.pdf", "2 Quotes- slate-lead.pdf", "3 Application form.pdf"},
		FileNames("", "Roof", titles, ".pdf", joined))
	assert.Equal(t, []string{"Roof, Application form.pdf", "Roof, Quotes- slate-lead.pdf", "Roof, Application form (2).pdf"},
		FileNames("{packet}, {part}", "Roof", titles, ".pdf", joined), "no two are the same")
	assert.Equal(t, []string{"same.pdf", "same (2).pdf", "same (3).pdf"}, FileNames("same", "Roof", titles, ".pdf", joined))
	assert.Equal(t, []string{"same (2).pdf", "same.pdf", "Same (3).pdf"},
		FileNames("{part}", "", []string{"same (2)", "same", "Same"}, ".pdf", joined), "also where only capitals differ")
	many := FileNames("{number}", "", make([]string, 120), ".jpg", joined)
	assert.Equal(t, "001.jpg", many[0])
	assert.Equal(t, "120.jpg", many[119])
	assert.Equal(t, []string{"document.pdf"}, FileNames("../", "", []string{""}, ".pdf", joined))
}

func FuzzPattern(f *testing.F) {
	f.Add("{number} {part}", "Roof", "a", "A")
	f.Add("{part}", "x", "con (2)", "con")
	f.Fuzz(func(t *testing.T, pattern, name, first, second string) {
		names := FileNames(pattern, name, []string{first, second, first}, ".pdf", joined)
		seen := map[string]bool{}
		for _, name := range names {
			assert.False(t, seen[strings.ToLower(name)], name)
			seen[strings.ToLower(name)] = true
			assert.NotContains(t, name, "/")
			assert.True(t, strings.HasSuffix(name, ".pdf"))
		}
	})
}

func joined(name, ending string) string { return name + ending }
