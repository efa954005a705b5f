package shrink

import (
	"bytes"
	"image"
	"slices"

	"dorbin/core/bilevel"
	"dorbin/core/raster"
)

// Candidate is an encoding of a page, with how many bytes the page is by it and what it loses.
type Candidate struct {
	EncodingParams
	Likeness
	Bytes            int64    `json:"bytes"`
	Words            *float64 `json:"words,omitempty"`  // share of the words that are read as before, where that was tried
	VisuallyLossless bool     `json:"unseen,omitempty"` // nothing is lost that is seen at twice the size of the paper
}

// worthResizing is the share of its bytes, at most, that a page keeps whose JPEG is
// written anew: for less it loses nothing.
const worthResizing = 0.8

// AsItIs is a page that is not touched.
func AsItIs(bytes int64) Candidate {
	return Candidate{EncodingParams: EncodingParams{Encoding: Original}, Likeness: Likeness{Fidelity: 1}, Bytes: bytes}
}

// Measured are the versions of a page.
type Measured struct {
	Kind       Kind        `json:"kind"`
	Coloured   bool        `json:"coloured,omitempty"` // a photograph, that has colour to lose
	Candidates []Candidate `json:"versions"`           // from the largest to the smallest; the first is the page as it is
}

// Scope is how many encodings are tried.
type Scope int

// The scopes.
const (
	LosslessOnly Scope = iota // those by which nothing is lost that is seen, the best for its kind
	Fully                     // all
)

// Measure tries encodings on a picture of a page, of so many dots an inch, that takes up so
// many bytes as it is. What is not worth its loss, or shows something else, is left out. It also gives the page
// as Write makes it by those of the encodings that are likely to be chosen and are much work.
func Measure(img image.Image, dpi float64, asItIsBytes int64, scope Scope) (Measured, []CompressedPage, error) {
	s := newSubject(img, dpi)
	s.kind = BlackText
	if s.oneBit == nil {
		s.kind = KindOf(s.glance())
	}
	m, err := measure(s, asItIsBytes, scope)
	if err != nil {
		return m, nil, err
	}
	return m, s.likely(m), nil
}

// MeasureFurther is Measure with all encodings, of a picture that was measured by those by which nothing is lost that is seen,
// and is at hand as the smallest of these writes it. Where these are layers, their ink is not looked for again.
func MeasureFurther(img image.Image, dpi float64, asItIsBytes int64, known Measured, written CompressedPage) (Measured, []CompressedPage, error) {
	s := newSubject(img, dpi)
	if s.oneBit != nil || !s.takeLayers(known.Smaller(Auto), written) {
		return Measure(img, dpi, asItIsBytes, Fully)
	}
	s.kind = known.Kind
	m, err := s.measureAs(asItIsBytes, Fully)
	if err != nil {
		return m, nil, err
	}
	return m, s.likely(m), nil
}

// takeLayers takes what is known of a page from its layers. It fails where these are not enough to show it, or are not known
// whole.
func (s *subject) takeLayers(v Candidate, written CompressedPage) bool {
	if v.EncodingParams != losslessEncodings[0] || v.EncodingParams != written.EncodingParams || v.Fidelity < leastKept {
		return false
	}
	if s.takeInk(written, v.Bytes); s.parted == nil {
		return false
	}
	s.layers.inks, s.layers.likeness = written.Layered.Inks, &Likeness{v.Fidelity, (v.Loss - softPaperCost) / sharperShare}
	v.Words = nil // all are compared at once
	s.tried[v.EncodingParams] = attempt{Candidate: v, compressed: written, ok: true}
	return true
}

// likely gives the page by the encodings, of the measured ones, by which nothing is lost that is seen, and by those in
// layers; of a photograph, which takes up more, by the smallest of them.
func (s *subject) likely(m Measured) (pages []CompressedPage) {
	if s.oneBit != nil {
		return nil // it is quickly written
	}
	for _, v := range m.Candidates[1:] {
		isLikely := v.VisuallyLossless || v.Encoding == Layers
		if s.isTone() {
			isLikely = v.EncodingParams == m.Smaller(Auto).EncodingParams
		}
		if isLikely {
			pages = append(pages, s.tried[v.EncodingParams].compressed)
		}
	}
	return pages
}

func measure(s *subject, asItIsBytes int64, scope Scope) (Measured, error) {
	if err := s.tryLayers(); err != nil {
		return Measured{}, err
	}
	return s.measureAs(asItIsBytes, scope)
}

// measureAs measures a page of which it is known whether layers can show it.
func (s *subject) measureAs(asItIsBytes int64, scope Scope) (Measured, error) {
	s.isColoured = s.isTone() && !raster.IsGrey(s.Image)
	m := Measured{Kind: s.kind, Coloured: s.isColoured, Candidates: []Candidate{AsItIs(asItIsBytes)}}
	lossless, err := s.visuallyLossless(scope)
	if err != nil {
		return m, err
	}
	all := lossless
	if scope == Fully {
		all = slices.Concat(lossless, s.further())
	}
	for _, encoding := range all {
		candidate, ok, err := s.try(encoding)
		if err != nil {
			return m, err
		}
		candidate.VisuallyLossless = slices.Contains(lossless, encoding)
		most := asItIsBytes
		if encoding.Encoding == Resized && !encoding.Grey { // who wants it grey does not ask for bytes alone
			most = int64(worthResizing * float64(asItIsBytes))
		}
		if ok && candidate.Bytes < most {
			m.Candidates = append(m.Candidates, candidate)
		}
	}
	slices.SortStableFunc(m.Candidates, func(a, b Candidate) int { return int(b.Bytes - a.Bytes) })
	return m, nil
}

// mostDifference, by Difference, is what layers may differ from their page.
const mostDifference = 32

const (
	// Of what the squares of a sharp mask lack, most is that their edges are sharper.
	sharperShare = 0.1
	// Cost of what is not told by likeness: paper that loses its grain, and its tint.
	softPaperCost = 0.002
	noPaperCost   = 0.01
)

// try measures an encoding, once; it is not ok where ink was taken for paper or paper for ink.
func (s *subject) try(encoding EncodingParams) (v Candidate, ok bool, err error) {
	if known, isKnown := s.tried[encoding]; isKnown {
		return known.Candidate, known.ok, nil
	}
	found, err := s.tryAnew(encoding)
	if err == nil {
		s.tried[encoding] = found
	}
	return found.Candidate, found.ok, err
}

// attempt is what came of an encoding that was tried.
type attempt struct {
	Candidate
	compressed CompressedPage
	ok         bool
}

func (s *subject) tryAnew(encoding EncodingParams) (found attempt, err error) {
	found.Candidate = Candidate{EncodingParams: encoding, Likeness: Likeness{Fidelity: 1}}
	if encoding.Encoding == Layers && s.layers.areWrong() {
		return found, nil
	}
	if found.compressed, err = s.write(encoding); err != nil {
		return found, err
	}
	if s.oneBit == nil {
		if ok, err := s.compare(&found.Candidate, found.compressed); !ok || err != nil {
			return found, err
		}
	}
	found.Bytes, found.ok = s.sizeOf(found.compressed), true
	return found, nil
}

// layersTried is what is known of the layers of a page once one encoding was tried: the
// others have the same ink.
type layersTried struct {
	wrongIn  []image.Rectangle // squares of the glance where they show something else
	likeness *Likeness
	inks     []ForegroundMask
	inkBytes int64
}

func (l *layersTried) areWrong() bool { return len(l.wrongIn) > 0 }

// isInk tells whether a mask is all the ink that the layers have.
func (l *layersTried) isInk(mask *bilevel.Bitmap) bool {
	return len(l.inks) == 1 && bytes.Equal(l.inks[0].mask.Bits, mask.Bits)
}

// compare tells how much of the page is kept; it is not ok where layers show something
// else.
func (s *subject) compare(v *Candidate, compressed CompressedPage) (ok bool, err error) {
	if v.Encoding == Layers && s.layers.likeness != nil {
		v.Likeness = *s.layers.likeness
	} else if v.Likeness, err = s.likeness(compressed); err != nil || (v.Encoding == Layers && s.layers.areWrong()) {
		return false, err
	}
	switch v.Encoding {
	case Layers:
		v.Loss = sharperShare*v.Loss + softPaperCost*float64(losslessEncodings[0].DPI)/float64(v.DPI)
	case OneBit:
		v.Loss = sharperShare*v.Loss + noPaperCost
	}
	return true, nil
}

func (s *subject) likeness(compressed CompressedPage) (Likeness, error) {
	if compressed.Encoding == Layers {
		coarse, err := compressed.Layered.draw(s.glance().Bounds().Size())
		if err != nil {
			return Likeness{}, err
		}
		for square, levels := range differences(s.glance(), coarse) {
			if levels > mostDifference {
				s.layers.wrongIn = append(s.layers.wrongIn, square)
			}
		}
		if s.layers.areWrong() {
			return Likeness{}, nil
		}
	}
	page := s.compared()
	drawn, err := compressed.drawGray(page.gray.Rect.Size())
	if err != nil {
		return Likeness{}, err
	}
	likeness := page.likeness(drawn)
	if compressed.Encoding == Layers {
		s.layers.likeness = &likeness
	}
	return likeness, nil
}

// sizeOf gives the bytes of a page that is written alone.
func (s *subject) sizeOf(compressed CompressedPage) int64 {
	if compressed.Encoding == Layers && s.layers.inkBytes > 0 {
		return s.layers.inkBytes + int64(compressed.Layered.pictureBytes())
	}
	if compressed.Encoding == OneBit && s.layers.isInk(compressed.Layered.Inks[0].mask) {
		return s.layers.inkBytes
	}
	written := compressed.Clone() // the ink of the page itself is not written yet
	encode([]*CompressedPage{&written})
	if compressed.Encoding == Layers {
		s.layers.inkBytes = int64(written.Bytes() - written.Layered.pictureBytes())
		s.layers.inks = compressed.Layered.Inks
	}
	return int64(written.Bytes())
}
