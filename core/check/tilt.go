package check

import (
	"math"

	"dorbin/core/geometry"
	"dorbin/core/message"
	"dorbin/core/packet"
	"dorbin/core/raster"
)

// leastTilt is from how many degrees on a page is said to lean.
const leastTilt = 0.3

// tilted finds pages that lean.
func (s Survey) tilted() []Finding {
	var findings []Finding
	for i, page := range s.pages {
		signs, ok := s.signs(page)
		if !ok {
			continue
		}
		angle, ok := Levelling(signs.Tilt)
		lean := page.Straighten - angle
		if !ok || math.Abs(lean) < leastTilt {
			continue
		}
		findings = append(findings, Finding{
			Kind: Tilted, Key: key(Tilted, page), Page: page.ID,
			Sentence: message.Of("Page %d leans by %.1f°", i+1, math.Abs(lean)),
			Settle:   []packet.Command{packet.Straighten{Selected: packet.On(page.ID), Angle: angle}},
		})
	}
	return findings
}

// Levelling is the angle, in degrees clockwise, by which a page is straightened that
// leans so. It is not ok when the tilt is not sure, or more than is straightened.
func Levelling(tilt raster.Tilt) (angle float64, ok bool) {
	angle = -math.Round(tilt.Angle*100) / 100
	return angle, tilt.Sure >= raster.SureTilt && math.Abs(angle) <= geometry.SteepestTilt
}
