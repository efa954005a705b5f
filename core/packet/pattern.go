package packet

import (
	"fmt"
	"strings"
)

// DefaultPattern names the files of parts.
const DefaultPattern = "{number} {part}"

// MaxPattern is how long a pattern is at most.
const MaxPattern = 200

// FileNames makes a name for each of so many files: in the pattern, {number} is the
// file's, from 1, with leading zeros so that names sort as files do, {part} its title,
// and {packet} the packet's name. Names are good for all systems and no two are the
// same, whatever the pattern. Join puts a name and its ending together.
func FileNames(pattern, packetName string, titles []string, extension string, join func(name, ending string) string) []string {
	if strings.TrimSpace(pattern) == "" {
		pattern = DefaultPattern
	}
	names := make([]string, len(titles))
	used := map[string]bool{}
	for i, title := range titles {
		name := strings.NewReplacer(
			"{number}", Numbered(i+1, len(titles)), "{part}", title, "{packet}", packetName,
		).Replace(pattern)
		bare := SafeFileName(name, "")
		name = join(bare, extension)
		for again := 2; used[strings.ToLower(name)]; again++ {
			name = join(bare, fmt.Sprintf(" (%d)%s", again, extension))
		}
		used[strings.ToLower(name)] = true
		names[i] = name
	}
	return names
}

// Numbered gives a number of at most count with leading zeros, so that it sorts.
func Numbered(number, count int) string {
	return fmt.Sprintf("%0*d", len(fmt.Sprint(count)), number)
}
