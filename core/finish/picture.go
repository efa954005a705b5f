package finish

import (
	"slices"
	"strconv"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/typeface"
)

// Picture is a page of a source of the packet that is drawn on pages: a PDF's, or a picture.
type Picture struct {
	Source string `json:"source" doc:"The source's id; empty where there is none."`
	Page   int    `json:"page" doc:"Counted from 1."`
}

// IsZero tells whether there is none.
func (p Picture) IsZero() bool { return p.Source == "" }

// key names the picture in Facts.
func (p Picture) key() string { return p.Source + "/" + strconv.Itoa(p.Page) }

// SizeOf gives the size of a picture, in points. It is false where its source is gone.
func (f Facts) SizeOf(p Picture) (size geometry.Size, known bool) {
	size, known = f.Pictures[p.key()]
	return size, known && size.Width > 0 && size.Height > 0
}

// AddPicture notes the size of a picture, in points.
func (f *Facts) AddPicture(p Picture, size geometry.Size) {
	if f.Pictures == nil {
		f.Pictures = map[string]geometry.Size{}
	}
	f.Pictures[p.key()] = size
}

// Pictures are those that it needs.
func (f Finish) Pictures() (needed []Picture) {
	for _, p := range f.named() {
		if p.on {
			needed = append(needed, p.Picture)
		}
	}
	return needed
}

// namedPicture is one that a section names, which may be switched off.
type namedPicture struct {
	on bool
	Picture
}

func (f Finish) named() []namedPicture {
	all := []namedPicture{
		{f.Letterhead.On, f.Letterhead.Picture}, {f.Letterhead.On, f.Letterhead.First}, {f.Watermark.On, f.Watermark.Picture}, {f.Cover.On, f.Cover.Picture},
	}
	return slices.DeleteFunc(all, func(p namedPicture) bool { return p.IsZero() })
}

// Letterhead is a page that is drawn on others.
type Letterhead struct {
	On      bool    `json:"on"`
	Picture Picture `json:"picture"`
	First   Picture `json:"first" doc:"Another one, for the first of the pages."`
	Actual  bool    `json:"actual" doc:"At its size, in the middle of the page's upper edge; else it is scaled to the page."`
	Over    bool    `json:"over" doc:"Over the page, as on tracing paper: where a scan would hide what is behind it."`
	Only    string  `json:"only" doc:"The pages that have it, as a selection in words; all when it is empty."`
	Spot    Spot    `json:"spot,omitzero" doc:"Where it was put by hand, in place of the middle."`
}

func (l Letterhead) check() error {
	for _, p := range []Picture{l.Picture, l.First} {
		if !p.IsZero() && p.Page < 1 {
			return message.Errorf("the letterhead is a page from 1 on, not %d", p.Page)
		}
	}
	return l.Spot.check(message.Of("the letterhead"))
}

// marks gives the letterhead of a page.
func (l Letterhead) marks(page geometry.Size, isFirst bool, facts Facts) []Mark {
	picture := l.Picture
	if isFirst && !l.First.IsZero() {
		picture = l.First
	}
	size, known := facts.SizeOf(picture)
	if !known {
		return nil
	}
	scale := 1.0
	if !l.Actual {
		scale = min(page.Width/size.Width, page.Height/size.Height)
	}
	drawn := geometry.Size{Width: size.Width * scale, Height: size.Height * scale}
	spot := l.Spot
	switch {
	case spot != Spot{}:
	case l.Actual:
		spot = Spot{Across: Middle, Down: AtTop}
	default:
		spot = Spot{Across: Middle, Down: AtMiddle}
	}
	mark := pictured(LetterheadMark, picture, spot.corner(drawn, page), drawn)
	mark.Under, mark.Multiplied = !l.Over, l.Over
	return []Mark{mark}
}

// pictured is a picture whose upper left corner is at a point.
func pictured(kind string, picture Picture, at geometry.Point, size geometry.Size) Mark {
	return Mark{Kind: kind, Picture: picture, At: at, Width: size.Width, Size: size.Height, Face: typeface.Sans, Colour: white}
}
