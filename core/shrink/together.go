package shrink

import (
	"image"
	"slices"
)

// Part is one of several pictures on a page, among other things.
type Part struct {
	image.Image
	DPI   float64
	Bytes int64 // as it is encoded
}

// MeasureParts tries encodings on the pictures of a page that takes up so many bytes with
// all that is on it; what is no picture stays. Where an encoding does not make a picture
// smaller, the picture stays as it is in that version.
func MeasureParts(parts []Part, pageBytes int64, scope Scope) (Measured, error) {
	page := Measured{Kind: ContinuousTone, Candidates: []Candidate{AsItIs(pageBytes)}}
	measured := make([]Measured, len(parts))
	var tried []EncodingParams
	pictures := int64(0)
	for i, part := range parts {
		m, err := measure(newPart(part), part.Bytes, scope)
		if err != nil {
			return page, err
		}
		measured[i] = m
		page.Coloured = page.Coloured || m.Coloured
		pictures += part.Bytes
		for _, v := range m.Candidates[1:] {
			if !slices.Contains(tried, v.EncodingParams) {
				tried = append(tried, v.EncodingParams)
			}
		}
	}
	for _, encoding := range tried {
		v := Candidate{EncodingParams: encoding, Likeness: Likeness{Fidelity: 1}}
		for i, m := range measured {
			own := m.partBy(encoding)
			v.Bytes += own.Bytes
			v.VisuallyLossless = v.VisuallyLossless || (own.EncodingParams == encoding && own.VisuallyLossless)
			v.Fidelity = min(v.Fidelity, own.Fidelity)
			v.Loss += own.Loss * float64(parts[i].Bytes) / float64(max(1, pictures))
		}
		// A picture that several pages draw counts on each of them with its share.
		v.Bytes = pageBytes - int64(float64(min(pictures, pageBytes))*(1-float64(v.Bytes)/float64(max(1, pictures))))
		page.Candidates = append(page.Candidates, v)
	}
	slices.SortStableFunc(page.Candidates, func(a, b Candidate) int { return int(b.Bytes - a.Bytes) })
	return page, nil
}

// newPart is a picture of which nothing is known but that it is one.
func newPart(p Part) *subject {
	s := newSubject(p.Image, p.DPI)
	s.isPart, s.kind = true, BlackText
	if s.oneBit == nil {
		s.kind = ContinuousTone
	}
	return s
}

// partBy is what a part of a page becomes when the page is written by an encoding: what is
// black and white stays so.
func (m Measured) partBy(encoding EncodingParams) Candidate {
	for _, v := range m.Candidates {
		if v.EncodingParams == encoding || (v.Encoding == OneBit && v.Loss == 0) {
			return v
		}
	}
	return m.Candidates[0]
}

// WritePart writes a part of a page as the page's encoding has it, and tells whether that
// is worth it. Its ink is not written yet.
func WritePart(part Part, page EncodingParams) (CompressedPage, bool, error) {
	s := newPart(part)
	if s.oneBit != nil {
		page = EncodingParams{Encoding: OneBit}
	}
	if page.Encoding == Layers || (page.Encoding == OneBit && s.oneBit == nil) {
		return CompressedPage{}, false, nil
	}
	compressed, err := s.write(page)
	if err != nil {
		return compressed, false, err
	}
	most := part.Bytes
	if page.Encoding == Resized {
		most = int64(worthResizing * float64(part.Bytes))
	}
	return compressed, s.sizeOf(compressed) < most, nil
}

// AsPage is what was measured of a picture, as that of a page that it fills and that
// takes up so many bytes with it.
func (m Measured) AsPage(pageBytes int64) Measured {
	picture := m.Candidates[0].Bytes
	share := min(picture, pageBytes)
	page := Measured{Kind: m.Kind, Coloured: m.Coloured, Candidates: slices.Clone(m.Candidates)}
	for i, v := range m.Candidates {
		page.Candidates[i].Bytes = pageBytes - share + int64(float64(share)*float64(v.Bytes)/float64(max(1, picture)))
	}
	return page
}
