package finish

import (
	"errors"
	"slices"
	"strings"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/typeface"
)

type face = typeface.Face

// Design is how a cover looks.
type Design string

// The designs.
const (
	PlainCover  Design = "plain"  // a title with a short line beneath, details below
	FramedCover Design = "framed" // all in the middle of a frame
	BandCover   Design = "band"   // a band of colour with the title in it
)

// Cover is a page before all others.
type Cover struct {
	On        bool          `json:"on"`
	Design    Design        `json:"design" enum:"plain,framed,band"`
	Face      typeface.Face `json:"face" enum:"sans,serif"`
	Colour    string        `json:"colour"`
	Title     string        `json:"title" doc:"It and the others may have fields; what is empty is left out."`
	From      string        `json:"from"`
	To        string        `json:"to"`
	Reference string        `json:"reference"`
	Date      string        `json:"date"`
	Picture   Picture       `json:"picture" doc:"A picture below, such as a sign."`
	Own       string        `json:"own" doc:"The id of the page that is the cover; none is made then."`
}

// IsMade tells whether the program makes the cover.
func (c Cover) IsMade() bool { return c.On && c.Own == "" }

func (c Cover) check() error {
	switch {
	case c == Cover{}:
		return nil
	case !slices.Contains([]Design{PlainCover, FramedCover, BandCover}, c.Design):
		return message.Errorf("a cover is plain, framed or has a band, not %q", string(c.Design))
	}
	return errors.Join(
		checkText(message.Of("the cover"), c.Face, c.Title, c.From, c.To, c.Reference, c.Date), checkLooks(message.Of("the cover"), c.Face, c.Colour),
	)
}

const (
	coverTitle   = 30 // points
	longTitle    = 20 // the same, of one that takes more than so many lines:
	titleLines   = 3
	coverDetail  = 12
	inkOfDetails = "#1f2a2c"
	white        = "#ffffff"
)

// detail is a line of a cover.
type detail struct{ name, text string }

func (c Cover) details(on filler) []detail {
	var details []detail
	for _, d := range []detail{{"From", c.From}, {"To", c.To}, {"Reference", c.Reference}, {"Date", c.Date}} {
		if d.text = strings.TrimSpace(on.fill(d.text)); d.text != "" {
			details = append(details, d)
		}
	}
	return details
}

func (c Cover) titleSize(title string, width float64) float64 {
	if len(wrapped(c.Face, title, coverTitle, width)) > titleLines {
		return longTitle
	}
	return coverTitle
}

// marks gives what is on the cover.
func (c Cover) marks(on filler, page geometry.Size) []Mark {
	title, details := strings.TrimSpace(on.fill(c.Title)), c.details(on)
	margin := page.Width * marginShare
	write := column{kind: CoverMark, face: c.Face, colour: c.Colour, left: margin, width: page.Width - 2*margin}
	size := c.titleSize(title, write.width)
	switch c.Design {
	case FramedCover:
		write.frame(page, margin/2)
		write.y = page.Height * 0.3
		write.centred(page, title, size)
		write.y += 24
		write.rule((page.Width-60)/2, 60, 1)
		write.colour = inkOfDetails
		write.y += 18
		for _, d := range details {
			write.y += 6
			write.centred(page, d.name+": "+d.text, coverDetail)
		}
	case BandCover:
		lines := len(wrapped(c.Face, title, size, write.width))
		top, height := page.Height*0.18, float64(lines+1)*size*lineHeight
		write.y = top
		write.rule(0, page.Width, height)
		write.colour = white
		write.y = top + size*lineHeight*0.4
		write.text(title, size)
		write.y, write.colour = top+height+24, inkOfDetails
		write.table(details)
	default:
		write.y = page.Height * 0.26
		write.text(title, size)
		write.y += 18
		write.rule(margin, 60, 2)
		write.y, write.colour = write.y+24, inkOfDetails
		write.table(details)
	}
	return write.marks
}

// pictureMarks gives the picture of the cover, in the lower third of the page: as large as fits, but
// no larger than it is.
func (c Cover) pictureMarks(page geometry.Size, facts Facts) []Mark {
	size, known := facts.SizeOf(c.Picture)
	if !known {
		return nil
	}
	margin := page.Width * marginShare
	scale := min(1, (page.Width-2*margin)/size.Width, page.Height*0.28/size.Height)
	drawn := geometry.Size{Width: size.Width * scale, Height: size.Height * scale}
	at := geometry.Point{X: margin, Y: page.Height - margin - drawn.Height}
	if c.Design == FramedCover {
		at.X = (page.Width - drawn.Width) / 2
	}
	return []Mark{pictured(CoverMark, c.Picture, at, drawn)}
}

// rule draws a filled box whose top is where the column is.
func (c *column) rule(x, width, height float64) {
	c.marks = append(c.marks, ruled(c.kind, c.colour, geometry.Box{X0: x, Y0: c.y, X1: x + width, Y1: c.y + height}))
}

// frame draws four lines, so many points from the edges of a page.
func (c *column) frame(page geometry.Size, edge float64) {
	const thick = 1.5
	x1, y1 := page.Width-edge, page.Height-edge
	for _, side := range []geometry.Box{
		{X0: edge, Y0: edge, X1: x1, Y1: edge + thick}, {X0: edge, Y0: y1 - thick, X1: x1, Y1: y1},
		{X0: edge, Y0: edge, X1: edge + thick, Y1: y1}, {X0: x1 - thick, Y0: edge, X1: x1, Y1: y1},
	} {
		c.marks = append(c.marks, ruled(c.kind, c.colour, side))
	}
}

// table writes names in a column and what they are of beside it.
func (c *column) table(details []detail) {
	names := 0.0
	for _, d := range details {
		names = max(names, c.face.Width(d.name, coverDetail))
	}
	left, width := c.left, c.width
	for _, d := range details {
		c.y += 6
		above := c.y
		c.left, c.width = left, width
		c.text(d.name, coverDetail)
		c.y, c.left, c.width = above, left+names+18, width-names-18
		c.text(d.text, coverDetail)
	}
	c.left, c.width = left, width
}

// ruled is a filled box.
func ruled(kind, colour string, box geometry.Box) Mark {
	return Mark{
		Kind: kind, At: geometry.Point{X: box.X0, Y: box.Y0}, Width: box.X1 - box.X0, Size: box.Y1 - box.Y0,
		Face: typeface.Sans, Colour: colour, Rule: true,
	}
}
