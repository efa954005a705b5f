package pdfium

import (
	"fmt"

	"github.com/klippa-app/go-pdfium/requests"
)

// Bookmark leads to a page, counted from 1.
type Bookmark struct {
	Title string
	Page  int
}

// Bookmarks lists a PDF's bookmarks of the highest level that lead to a page.
func (l *Library) Bookmarks(path string) ([]Bookmark, error) {
	var marks []Bookmark
	err := l.use(func() error {
		doc, err := l.document(path)
		if err != nil {
			return err
		}
		found, err := l.instance.GetBookmarks(&requests.GetBookmarks{Document: doc})
		if err != nil {
			return fmt.Errorf("read bookmarks: %w", err)
		}
		for _, mark := range found.Bookmarks {
			switch {
			case mark.DestInfo != nil:
				marks = append(marks, Bookmark{mark.Title, mark.DestInfo.PageIndex + 1})
			case mark.ActionInfo != nil && mark.ActionInfo.DestInfo != nil:
				marks = append(marks, Bookmark{mark.Title, mark.ActionInfo.DestInfo.PageIndex + 1})
			}
		}
		return nil
	})
	return marks, err
}
