package sources

import (
	"path/filepath"
	"strings"

	"dorbin/core/packet"
)

// PartTitle makes a title of a file's name: "site-plan.pdf" is "Site plan".
func PartTitle(name string) string {
	title := strings.TrimSuffix(name, filepath.Ext(name))
	title = strings.Join(strings.FieldsFunc(title, func(r rune) bool { return r == '_' || r == '-' || r == ' ' }), " ")
	if title == "" {
		title = name
	}
	runes := []rune(title)
	runes = runes[:min(len(runes), packet.MaxTitle)]
	return strings.ToUpper(string(runes[:1])) + string(runes[1:])
}
