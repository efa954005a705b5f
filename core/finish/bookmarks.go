package finish

import (
	"cmp"
	"slices"
	"strings"
	"unicode/utf8"

	"dorbin/core/message"
)

// longestTitle is how many letters the title of a bookmark has at most.
const longestTitle = 200

// Titled gives the title of the bookmark of a part or a heading, by its id, and whether it has one.
func (b Bookmarks) Titled(id, title string) (bookmark string, has bool) {
	for skipped := range strings.SplitSeq(b.Skip, ",") {
		if skipped == id {
			return title, false
		}
	}
	return cmp.Or(b.titles()[id], title), true
}

// Place is where the bookmark of a part comes among the others: after those of lower places, and as
// the parts are among those of the same.
func (b Bookmarks) Place(part string) int {
	if b.Order == "" {
		return 0
	}
	order := strings.Split(b.Order, ",")
	if at := slices.Index(order, part); at >= 0 {
		return at
	}
	return len(order)
}

// titles are those that differ from what their parts and headings say, by ids.
func (b Bookmarks) titles() map[string]string {
	titles := map[string]string{}
	for line := range strings.Lines(b.Titles) {
		if part, title, found := strings.Cut(line, ":"); found {
			titles[strings.TrimSpace(part)] = strings.TrimSpace(title)
		}
	}
	return titles
}

func (b Bookmarks) check() error {
	for _, title := range b.titles() {
		if n := utf8.RuneCountInString(title); n > longestTitle {
			return message.Errorf("the title of a bookmark has at most %d letters, this one has %d", longestTitle, n)
		}
	}
	return nil
}
