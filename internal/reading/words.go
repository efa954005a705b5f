package reading

import (
	"context"

	"dorbin/core/packet"
	"dorbin/core/text"
)

// PageWords are the words on a page as it stands.
type PageWords struct {
	Words   []PageWord   `json:"words" nullable:"false" doc:"As they are read."`
	Matches []text.Match `json:"matches" nullable:"false" doc:"Where it has what was searched: runs of words, by their places, from 0."`
}

// PageWord is a word on a page as it stands.
type PageWord struct {
	Text   string  `json:"text"`
	X      float64 `json:"x" doc:"Where its baseline begins, in points from the page's left."`
	Y      float64 `json:"y" doc:"In points from the page's top."`
	Width  float64 `json:"width" doc:"Along its baseline, in points."`
	Size   float64 `json:"size" doc:"Of its letters, in points."`
	Angle  float64 `json:"angle,omitempty" doc:"Of its baseline, in degrees clockwise."`
	Sure   int     `json:"sure" doc:"How surely it was read: 0 to 100."`
	Behind string  `json:"behind,omitempty" enum:"space,line,paragraph" doc:"What is between it and the next word; missing where they touch."`
}

// PageWords gives the words on a page of a packet, and which of them have what is searched.
func (s *Service) PageWords(ctx context.Context, packetID string, id packet.PageID, query string) (PageWords, error) {
	page, err := s.PageText(ctx, packetID, id)
	if err != nil {
		return PageWords{}, err
	}
	found := PageWords{Words: wordsOf(page), Matches: []text.Match{}}
	found.Matches = append(found.Matches, text.IndexOf(page).Find(text.Fold(query))...)
	return found, nil
}

func wordsOf(page text.Page) []PageWord {
	words := []PageWord{}
	for i, line := range page.Lines {
		for j, word := range line.Words {
			w := wordOn(line, word)
			switch {
			case j+1 < len(line.Words):
				if text.AreApart(word.Text, line.Words[j+1].Text) {
					w.Behind = "space"
				}
			case i+1 < len(page.Lines) && page.Lines[i+1].Paragraph == line.Paragraph:
				w.Behind = "line"
			default:
				w.Behind = "paragraph"
			}
			words = append(words, w)
		}
	}
	return words
}

// wordOn is a word of a line where it stands on the page.
func wordOn(line text.Line, word text.Word) PageWord {
	w := PageWord{Text: word.Text, Width: word.Width, Size: line.SizeOf(word), Angle: line.Angle, Sure: word.Sure}
	w.X, w.Y = line.Place().Apply(word.X, 0)
	return w
}
