package finish

import (
	"dorbin/core/geometry"
	"dorbin/core/message"
)

// Spot is where on a page something was put by hand: how far it is from the paper's edges that are
// named. The zero value is nowhere: it is where it comes by itself.
type Spot struct {
	Across   Side    `json:"across" enum:"left,middle,right"`
	FromSide float64 `json:"fromSide" doc:"Points from that side; in the middle it does not count."`
	Down     Height  `json:"down" enum:"top,middle,bottom"`
	FromEnd  float64 `json:"fromEnd" doc:"Points from the top or the bottom; in the middle it does not count."`
}

// farthest is how far from an edge something is put at most, in points.
var farthest = geometry.FromMM(5000)

func (s Spot) check(what message.Text) error {
	if s == (Spot{}) {
		return nil
	}
	switch {
	case s.Across != Left && s.Across != Middle && s.Across != Right:
		return message.Errorf("%s is put left, in the middle or right, not %q", what, string(s.Across))
	case s.Down != AtTop && s.Down != AtMiddle && s.Down != AtBottom:
		return message.Errorf("%s is put at the top, in the middle or at the bottom, not %q", what, string(s.Down))
	case !(s.FromSide >= 0 && s.FromSide <= farthest), !(s.FromEnd >= 0 && s.FromEnd <= farthest):
		return message.Errorf("%s is put from 0 to 5000 mm from an edge", what)
	}
	return nil
}

// corner is the upper left corner of a box that is put there. Where it would reach beyond a smaller
// page, it is moved onto it; what is larger than the page begins at the edge.
func (s Spot) corner(box, page geometry.Size) geometry.Point {
	return geometry.Point{
		X: along(s.Across == Right, s.Across == Middle, s.FromSide, box.Width, page.Width),
		Y: along(s.Down == AtBottom, s.Down == AtMiddle, s.FromEnd, box.Height, page.Height),
	}
}

// along is where something of a length begins on a room, so far from its start or its end.
func along(fromEnd, inMiddle bool, distance, length, room float64) float64 {
	spare := room - length
	if inMiddle {
		return spare / 2
	}
	distance = min(distance, max(0, spare))
	if fromEnd {
		return spare - distance
	}
	return distance
}
