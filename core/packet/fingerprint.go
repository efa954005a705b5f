package packet

import (
	"fmt"
	"hash"
	"hash/fnv"
	"math"
	"strconv"

	"dorbin/core/annotation"
	"dorbin/core/geometry"
)

// Fingerprint tells a page's content, as it now stands, from what it was before a
// change. Its place and its note are not part of it.
//
// Fingerprints are stored: with them are kept which pages were checked and what was
// measured. They are therefore written out field by field, in a form that never changes,
// whatever the fields are called in the program. An adjustment that is added later is
// written behind the others, and only where it is used: pages without it keep their
// fingerprints.
func (p Page) Fingerprint() string {
	hash := fnv.New64a()
	write(hash, "%s %d %d", p.Source, p.SourcePage, p.Turn)
	if p.Adjustments != (Adjustments{}) {
		p.Adjustments.writeFingerprint(hash)
	}
	if p.IsBlank() {
		write(hash, " %s", wholeMillimetres(p.Upright))
	}
	if p.IsMade() {
		write(hash, " made:%s", p.Made)
	}
	return strconv.FormatUint(hash.Sum64(), 36)
}

// writeFingerprint writes version 1 of the form, and what was added to it since.
func (l Adjustments) writeFingerprint(hash hash.Hash) {
	write(hash, " {Outline:[")
	for i, corner := range l.Paper {
		if i > 0 {
			write(hash, " ")
		}
		write(hash, "{X:%v Y:%v}", corner.X, corner.Y)
	}
	write(hash, "] Flat:%s Straighten:%v", wholeMillimetres(l.Flat), l.Straighten)
	write(hash, " Crop:{X0:%v Y0:%v X1:%v Y1:%v}", l.Crop.X0, l.Crop.Y0, l.Crop.X1, l.Crop.Y1)
	fit := l.Sheet
	write(hash, " Fit:{Paper:%s Follow:%t Scale:%s Across:%v Down:%v", wholeMillimetres(fit.Paper), fit.Follow, fit.Scale, fit.Across, fit.Down)
	write(hash, " Margin:{Left:%v Top:%v Right:%v Bottom:%v}}", fit.Margin.Left, fit.Margin.Top, fit.Margin.Right, fit.Margin.Bottom)
	write(hash, " Mirror:%t Clean:{Edges:%t Specks:%t} Patches:%s", l.Mirror, l.Clean.Edges, l.Clean.Specks, string(l.Patches))
	write(hash, " Tone:{Mode:%s Brightness:%d Contrast:%d}", l.Tone.Mode, l.Tone.Brightness, l.Tone.Contrast)
	write(hash, " Picture:%t Bare:%t}", l.Picture, l.Annotations == annotation.NoneSeen)

	// Version 1 knows annotations that are all kept or all left out.
	if !l.Annotations.IsZero() && l.Annotations != annotation.NoneSeen {
		write(hash, " annotations:%s,%s", l.Annotations.Fields, l.Annotations.Comments)
	}

	// Version 1 tells papers of less than a millimetre's difference not apart.
	if isBetweenMillimetres(fit.Paper.Width) || isBetweenMillimetres(fit.Paper.Height) {
		write(hash, " paper:%v,%v", fit.Paper.Width, fit.Paper.Height)
	}
}

// wholeMillimetres is a size as version 1 of the fingerprint has it.
func wholeMillimetres(s geometry.Size) string {
	return fmt.Sprintf("%.0f × %.0f mm", geometry.MM(s.Width), geometry.MM(s.Height))
}

// isBetweenMillimetres tells whether a length in points is no whole number of millimetres.
func isBetweenMillimetres(points float64) bool {
	mm := geometry.MM(points)
	return math.Abs(mm-math.Round(mm)) > 0.05
}

func write(hash hash.Hash, format string, values ...any) {
	_, _ = fmt.Fprintf(hash, format, values...) // a hash takes everything
}
