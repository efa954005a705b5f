package geometry

import (
	"math"

	"dorbin/core/message"
)

// Box is a rectangle in points from the top left of a page. The zero Box is
// none.
type Box struct {
	X0 float64 `json:"x0"`
	Y0 float64 `json:"y0"`
	X1 float64 `json:"x1"`
	Y1 float64 `json:"y1"`
}

// IsZero tells whether there is no box.
func (b Box) IsZero() bool { return b == Box{} }

// Size is the box's width and height.
func (b Box) Size() Size { return Size{Width: b.X1 - b.X0, Height: b.Y1 - b.Y0} }

// Intersect is what lies in both boxes; it may be empty, with sides that cross.
func (b Box) Intersect(o Box) Box {
	return Box{math.Max(b.X0, o.X0), math.Max(b.Y0, o.Y0), math.Min(b.X1, o.X1), math.Min(b.Y1, o.Y1)}
}

// Union is the smallest box that holds both; a zero box adds nothing.
func (b Box) Union(o Box) Box {
	switch {
	case b.IsZero():
		return o
	case o.IsZero():
		return b
	}
	return Box{math.Min(b.X0, o.X0), math.Min(b.Y0, o.Y0), math.Max(b.X1, o.X1), math.Max(b.Y1, o.Y1)}
}

// Grown is the box with each side moved outwards.
func (b Box) Grown(points float64) Box {
	return Box{b.X0 - points, b.Y0 - points, b.X1 + points, b.Y1 + points}
}

// Holds tells whether o lies in the box, but for a tolerance in points.
func (b Box) Holds(o Box, tolerance float64) bool {
	return o.X0 >= b.X0-tolerance && o.Y0 >= b.Y0-tolerance && o.X1 <= b.X1+tolerance && o.Y1 <= b.Y1+tolerance
}

// MirroredIn is the box as it stands in a page of this width whose left is right.
func (b Box) MirroredIn(width float64) Box {
	return Box{width - b.X1, b.Y0, width - b.X0, b.Y1}
}

// Corners are the box's, clockwise from its top left.
func (b Box) Corners() [4]Point {
	return [4]Point{{b.X0, b.Y0}, {b.X1, b.Y0}, {b.X1, b.Y1}, {b.X0, b.Y1}}
}

// Check tells whether a side of the box is no number.
func (b Box) Check() error {
	for _, side := range []float64{b.X0, b.Y0, b.X1, b.Y1} {
		if math.IsNaN(side) || math.IsInf(side, 0) {
			return message.Errorf("a side of the rectangle is no number")
		}
	}
	return nil
}

// Mapped is the smallest box that holds what the map makes of this one.
func (b Box) Mapped(m Affine) Box {
	out := Box{math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)}
	for _, corner := range b.Corners() {
		x, y := m.Apply(corner.X, corner.Y)
		out = Box{math.Min(out.X0, x), math.Min(out.Y0, y), math.Max(out.X1, x), math.Max(out.Y1, y)}
	}
	return out
}

// Box is the whole of a page of this size.
func (s Size) Box() Box { return Box{X1: s.Width, Y1: s.Height} }

// SmallestCrop is the least width and height, in points, that a crop may leave:
// 5 mm.
const SmallestCrop = 5 * PointsPerInch / MillimetresPerInch

// sliver is the difference in points, a fiftieth of a millimetre, that is none.
const sliver = 0.06

// CropOf is what of a box lies on a page of the given size, and zero when that
// is all of the page. It fails when hardly anything would be left.
func CropOf(b Box, page Size) (Box, error) {
	if err := b.Check(); err != nil {
		return Box{}, err
	}
	kept := b.Intersect(page.Box())
	if kept.X1-kept.X0 < SmallestCrop || kept.Y1-kept.Y0 < SmallestCrop {
		return Box{}, message.Errorf("the rectangle leaves less than %.0f mm of the page", MM(SmallestCrop))
	}
	if kept.Holds(page.Box(), sliver) {
		return Box{}, nil
	}
	return kept, nil
}

// SteepestTilt is the most, in degrees, by which a page is straightened.
const SteepestTilt = 15.0

// Framing is how a page that lies flat comes to stand as it does, in this order:
// its content is straightened, the page is cropped, laid on a sheet, mirrored and
// turned.
type Framing struct {
	Flat       Size
	Straighten float64     // degrees clockwise by which the content is turned about the page's middle
	Crop       Box         // of the page after it was straightened; zero keeps all
	Fit        SheetLayout // of what is kept, on a sheet; zero is none
	Mirror     bool        // left is right
	Turn       int         // degrees clockwise, a multiple of 90
}

// Kept is what the crop leaves of the straightened page.
func (f Framing) Kept() Box {
	if f.Crop.IsZero() {
		return f.Flat.Box()
	}
	return f.Crop
}

// Seen is what of the straightened page is seen: what is kept, but for what has no
// room on the sheet.
func (f Framing) Seen() Box {
	kept := f.Kept()
	if f.Fit.Scale != Keep {
		return kept
	}
	sheet, to := f.laid()
	return kept.Intersect(sheet.Box().Mapped(to.Inverse()))
}

// Cut is the framing of what is seen of the page, without its sheet.
func (f Framing) Cut() Framing {
	if seen := f.Seen(); seen != f.Kept() {
		f.Crop = seen
	}
	f.Fit = SheetLayout{}
	return f
}

// Laid is where on the sheet what is seen lies, before mirror and turn.
func (f Framing) Laid() (sheet Size, seen Box) {
	sheet, to := f.laid()
	return sheet, f.Seen().Mapped(to)
}

// laid leads from the straightened page to its sheet.
func (f Framing) laid() (sheet Size, to Affine) {
	kept := f.Kept()
	sheet, to = f.Fit.Lay(kept.Size())
	return sheet, Translation(-kept.X0, -kept.Y0).Then(to)
}

// Enlargement is how many times as large as it is by itself what is kept lies on its sheet.
func (f Framing) Enlargement() float64 {
	_, to := f.laid()
	return to.A
}

// Uncropped is the framing of the whole page, without its crop and its sheet.
func (f Framing) Uncropped() Framing {
	f.Crop, f.Fit = Box{}, SheetLayout{}
	return f
}

// Size is the size of the page as it stands.
func (f Framing) Size() Size {
	sheet, _ := f.laid()
	return sheet.Turned(f.Turn)
}

// Straightening maps the flat page to itself with its content turned.
func (f Framing) Straightening() Affine {
	if f.Straighten == 0 {
		return Identity
	}
	x, y := f.Flat.Width/2, f.Flat.Height/2
	return Translation(-x, -y).Then(Rotation(f.Straighten)).Then(Translation(x, y))
}

// Transform maps points of the flat page to points of the page as it stands,
// each from its top left.
func (f Framing) Transform() Affine {
	sheet, to := f.laid()
	m := f.Straightening().Then(to)
	if f.Mirror {
		m = m.Then(Affine{A: -1, D: 1, E: sheet.Width})
	}
	switch NormalTurn(f.Turn) {
	case 90:
		m = m.Then(Affine{B: 1, C: -1, E: sheet.Height})
	case 180:
		m = m.Then(Affine{A: -1, D: -1, E: sheet.Width, F: sheet.Height})
	case 270:
		m = m.Then(Affine{B: -1, C: 1, F: sheet.Width})
	}
	return m
}

// CropAsDisplayed turns a box of the page as it would stand uncropped into the crop
// that leaves it.
func (f Framing) CropAsDisplayed(b Box) (Box, error) {
	whole := f.Uncropped()
	kept, err := CropOf(b, whole.Size())
	if err != nil || kept.IsZero() {
		return kept, err
	}
	whole.Straighten = 0 // the crop is one of the straightened page
	return kept.Mapped(whole.Transform().Inverse()), nil
}

// DisplayedCrop is the crop as a box of the page as it would stand uncropped.
func (f Framing) DisplayedCrop() Box {
	if f.Crop.IsZero() {
		return Box{}
	}
	whole := f.Uncropped()
	whole.Straighten = 0
	return f.Crop.Mapped(whole.Transform())
}
