package shrink

import "image"

// finest are the encodings up to which a way is worth its bytes.
var finest = map[Encoding]EncodingParams{
	Layers:  {Encoding: Layers, DPI: 200, Quality: 85},
	Resized: {Encoding: Resized, DPI: 400, Quality: 95},
}

// CanBeRefined tells whether a page could be written better by the same encoding.
func (v Candidate) CanBeRefined() bool {
	most, ok := finest[v.Encoding]
	return ok && (v.DPI < most.DPI || v.Quality < most.Quality)
}

// trials is how often a page is written to come near what it may take up.
const trials = 7

// Refined is a version of a picture with more dots or a better quality.
type Refined struct {
	Candidate
	// Page is what was written, and its ink not yet; nil of the version that it was refined from.
	Page *CompressedPage
}

// RefineQuality writes a picture by an encoding with more dots and a better quality than a
// version of it has, as far as so many bytes more allow. It is the version itself where
// nothing better is found. If the page is at hand as Write makes it by that version, its ink is not looked for again.
func RefineQuality(img image.Image, dpi float64, v Candidate, written *CompressedPage, room int64) (Refined, error) {
	best := Refined{Candidate: v}
	most, ok := finest[v.Encoding]
	if !ok || room <= 0 {
		return best, nil
	}
	most.DPI = max(v.DPI, min(most.DPI, int(dpi+0.5)))
	s := newSubject(img, dpi)
	if written != nil && v.Encoding == Layers {
		s.takeInk(*written, v.Bytes)
	}
	low, high := 0.0, 1.0
	for trial := range trials {
		share := (low + high) / 2
		if trial == 0 {
			share = 1
		}
		between := func(a, b int) int { return a + int(float64(max(0, b-a))*share+0.5) }
		encoding := EncodingParams{v.Encoding, between(v.DPI, most.DPI), between(v.Quality, most.Quality), v.Grey}
		compressed, err := s.write(encoding)
		if err != nil {
			return Refined{Candidate: v}, err
		}
		size := s.sizeOf(compressed)
		if size > v.Bytes+room {
			high = share
			continue
		}
		if size > best.Bytes {
			best.EncodingParams, best.Bytes, best.Page = encoding, size, &compressed
		}
		if trial == 0 {
			break
		}
		low = share
	}
	return best, nil
}

// takeInk takes the ink of a page that was written before, in so many bytes with all that is on it.
func (s *subject) takeInk(written CompressedPage, bytes int64) {
	if s.parted = withInk(s.Image, s.printDPI(), written.Layered); s.parted != nil {
		s.layers.inkBytes = bytes - int64(written.Layered.pictureBytes())
	}
}
