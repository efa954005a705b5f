package export

import (
	"context"
	"strings"

	"golang.org/x/text/language"

	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/text"
	"dorbin/internal/render"
)

// TextLayer is the text that was recognised and lies unseen under pages of a document.
type TextLayer struct {
	Pages int `json:"pages"`
	Words int `json:"words"`
	Found int `json:"found" doc:"Words that another reader found in the file."`
	Read  int `json:"read" doc:"Pages that were read by the other reader so far."`
}

// addText has the text that was recognised on a page lie under it.
func (d *document) addText(ctx context.Context, position int, page packet.Page) error {
	recognised, err := d.texts.Recognised(ctx, page)
	if err != nil || len(recognised.Lines) == 0 {
		return err
	}
	d.textLayer.Pages++
	d.textLayer.Words += recognised.WordCount()
	return d.SetText(position, recognised)
}

// rightToLeft are the scripts that are written so.
var rightToLeft = map[string]bool{"Arab": true, "Hebr": true, "Syrc": true, "Thaa": true}

// isRightToLeft tells of the BCP 47 tag of a language that is written from right to left.
func isRightToLeft(tag string) bool {
	parsed, err := language.Parse(tag)
	if err != nil {
		return false
	}
	script, _ := parsed.Script()
	return rightToLeft[script.String()]
}

// findWords counts how many words of a page were found in the file.
func findWords(page text.Page, found render.OwnText) (words int) {
	there := map[string]int{}
	all := text.IndexOf(found.Page).Folded
	for word := range strings.FieldsSeq(all) {
		there[word]++
	}
	for _, line := range page.Lines {
		for _, word := range line.Words {
			folded := text.Fold(word.Text)
			switch {
			case there[folded] > 0:
				there[folded]--
				words++
			case strings.Contains(all, folded): // it was joined to its neighbour, or has spaces
				words++
			}
		}
	}
	return words
}

// addFoundText has another reader read a page of what was made, counted from 1, and notes how many of
// its recognised words are there.
func (s *Service) addFoundText(ctx context.Context, c *comparison, page packet.Page, path string, number int) error {
	layer := c.receipt.Text
	if layer == nil {
		return nil
	}
	recognised, err := c.texts.Recognised(ctx, page)
	if err != nil || len(recognised.Lines) == 0 {
		return err
	}
	found, err := s.engine.Words(ctx, path, number)
	if err != nil {
		_, err = unlessStopped(ctx, err, message.Text{})
		return err
	}
	layer.Read++
	layer.Found += findWords(recognised, found)
	return nil
}
