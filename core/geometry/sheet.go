package geometry

import (
	"math"

	"dorbin/core/message"
)

// Scale is how large what is laid on a sheet becomes.
type Scale string

// The scales.
const (
	Shrink Scale = "shrink" // made smaller where it has no room
	Fill   Scale = "fill"   // made smaller or larger, until it fills the room
	Keep   Scale = "keep"   // left as large as it is; what has no room is cut
)

// Margin is what is left free at the sides of a sheet, in points.
type Margin struct {
	Left   float64 `json:"left,omitempty"`
	Top    float64 `json:"top,omitempty"`
	Right  float64 `json:"right,omitempty"`
	Bottom float64 `json:"bottom,omitempty"`
}

// MirroredLeftRight has its left at the right.
func (m Margin) MirroredLeftRight() Margin {
	m.Left, m.Right = m.Right, m.Left
	return m
}

// SheetLayout is how what is kept of a page is laid on a sheet. The zero SheetLayout is none: the
// page is what is kept of it.
type SheetLayout struct {
	Paper  Size    `json:"paper,omitzero" doc:"Of the sheet, in points. Without it the sheet is what is kept of the page, with its margins around it."`
	Follow bool    `json:"follow,omitempty" doc:"The paper lies on its longer edge where what is kept of the page does."`
	Scale  Scale   `json:"scale,omitempty" enum:"shrink,fill,keep"`
	Across float64 `json:"across,omitempty" minimum:"0" maximum:"1" doc:"Where in the free room it lies: 0 is left, 1 is right."`
	Down   float64 `json:"down,omitempty" minimum:"0" maximum:"1" doc:"Where in the free room it lies: 0 is the top, 1 is the bottom."`
	Margin Margin  `json:"margin,omitzero"`
}

// IsZero tells whether there is no sheet.
func (f SheetLayout) IsZero() bool { return f == SheetLayout{} }

// Bounds of a sheet's edges and margins, in points: 10 mm, and 200 inches, more
// than which a page of a PDF cannot have (ISO 32000-1, annex C.2).
const (
	smallestSheet = 10 * PointsPerInch / MillimetresPerInch
	largestSheet  = 200 * PointsPerInch
)

// Check tells what is wrong with a fit.
func (f SheetLayout) Check() error {
	m := f.Margin
	for _, side := range []float64{m.Left, m.Top, m.Right, m.Bottom} {
		if !(side >= 0 && side <= largestSheet/4) {
			return message.Errorf("a margin is between 0 and %.0f mm wide", MM(largestSheet/4))
		}
	}
	if !(f.Across >= 0 && f.Across <= 1 && f.Down >= 0 && f.Down <= 1) {
		return message.Errorf("a place on the sheet is between 0 and 1")
	}
	if f.Paper == (Size{}) {
		if f.Scale != "" || f.Follow {
			return message.Errorf("nothing can be scaled without a paper to fit it to")
		}
		return nil
	}
	if f.Scale != Shrink && f.Scale != Fill && f.Scale != Keep {
		return message.Errorf("there is no scale %q", f.Scale)
	}
	for _, edge := range []float64{f.Paper.Width, f.Paper.Height} {
		if !(edge >= smallestSheet && edge <= largestSheet) {
			return message.Errorf("a paper is between %.0f and %.0f mm wide and high", MM(smallestSheet), MM(largestSheet))
		}
	}
	for _, paper := range []Size{f.Paper, f.Paper.Turned(90)} {
		if room := f.room(paper); (paper == f.Paper || f.Follow) && math.Min(room.Width, room.Height) < SmallestCrop {
			return message.Errorf("the margins leave no room on the paper")
		}
	}
	return nil
}

func (f SheetLayout) room(paper Size) Size {
	return Size{paper.Width - f.Margin.Left - f.Margin.Right, paper.Height - f.Margin.Top - f.Margin.Bottom}
}

// Lay gives the sheet that something of this size is laid on, and where it goes
// there: enlarged by a factor, and moved.
func (f SheetLayout) Lay(kept Size) (sheet Size, to Affine) {
	if f.Paper == (Size{}) {
		m := f.Margin
		return Size{kept.Width + m.Left + m.Right, kept.Height + m.Top + m.Bottom}, Translation(m.Left, m.Top)
	}
	sheet = f.Paper
	if f.Follow && (kept.Width > kept.Height) != (sheet.Width > sheet.Height) {
		sheet = sheet.Turned(90)
	}
	room := f.room(sheet)
	scale := 1.0
	if f.Scale != Keep {
		scale = math.Min(room.Width/kept.Width, room.Height/kept.Height)
	}
	if f.Scale == Shrink {
		scale = math.Min(1, scale)
	}
	x := f.Margin.Left + (room.Width-kept.Width*scale)*f.Across
	y := f.Margin.Top + (room.Height-kept.Height*scale)*f.Down
	return sheet, Scaling(scale, scale).Then(Translation(x, y))
}

// turned is the fit that makes of a page turned left by a quarter what f makes of
// the page, but turned left.
func (f SheetLayout) turnedLeft() SheetLayout {
	m := f.Margin
	f.Margin = Margin{Left: m.Top, Top: m.Right, Right: m.Bottom, Bottom: m.Left}
	f.Across, f.Down = f.Down, 1-f.Across
	f.Paper = f.Paper.Turned(90)
	return f
}

func (f SheetLayout) mirrored() SheetLayout {
	f.Margin, f.Across = f.Margin.MirroredLeftRight(), 1-f.Across
	return f
}

// LayoutAsDisplayed turns a fit of the page as it stands into that of its framing, which
// is carried out before the page is mirrored and turned.
func (f Framing) LayoutAsDisplayed(fit SheetLayout) SheetLayout {
	if fit.IsZero() {
		return fit
	}
	for range NormalTurn(f.Turn) / 90 {
		fit = fit.turnedLeft()
	}
	if f.Mirror {
		fit = fit.mirrored()
	}
	return fit
}

// DisplayedLayout is the framing's fit as that of the page as it stands.
func (f Framing) DisplayedLayout() SheetLayout {
	fit := f.Fit
	if fit.IsZero() {
		return fit
	}
	if f.Mirror {
		fit = fit.mirrored()
	}
	for range NormalTurn(-f.Turn) / 90 {
		fit = fit.turnedLeft()
	}
	return fit
}
