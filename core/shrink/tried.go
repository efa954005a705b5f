package shrink

import "slices"

// visuallyLossless are the encodings for a page by which nothing is lost that is seen at twice the
// size of the paper. Of a page that layers can show, a JPEG is larger: it is for plans with room, and for who wants one.
func (s *subject) visuallyLossless(scope Scope) ([]EncodingParams, error) {
	switch {
	case s.oneBit != nil:
		return []EncodingParams{{Encoding: OneBit}}, nil
	case !s.isTone() && scope == LosslessOnly:
		return losslessEncodings[:1], nil
	case !s.isTone():
		return losslessEncodings, nil
	}
	encoding := losslessEncodings[1]
	if !s.isPart {
		var err error
		if encoding.Quality, err = s.visuallyLosslessQuality(encoding.DPI); err != nil {
			return nil, err
		}
	}
	return s.withGrey([]EncodingParams{encoding}), nil
}

// isTone tells whether the page is shown by levels of grey or colour, not by ink on paper.
func (s *subject) isTone() bool { return s.kind == ContinuousTone || s.layersFail }

// tryLayers finds out whether layers can show a page of ink on paper; if not, it is written as a
// photograph is, but compared as closely as print is read. A page is a photograph if most of it is pictures, or
// there are many and layers cannot show it, or there is no paper between.
func (s *subject) tryLayers() error {
	if s.oneBit != nil || s.isTone() {
		return nil
	}
	candidate, ok, err := s.try(losslessEncodings[0])
	if err == nil && s.layers.areWrong() && s.correctLayers() {
		candidate, ok, err = s.try(losslessEncodings[0])
	}
	s.layersFail = err == nil && !(ok && candidate.Fidelity >= leastKept)
	share := s.inLayers().pictures.share()
	if share > picturesMost || (share > manyPictures && (s.layersFail || s.parted.paper.isUneven(s.parted.pictures))) {
		s.kind, s.original = ContinuousTone, nil
	}
	return err
}

// correctLayers makes pictures of the places where layers show something else, and forgets what was tried. It does
// not where most of the page would be pictures then.
func (s *subject) correctLayers() bool {
	s.parted.pictures.addAround(s.glance().Bounds(), s.layers.wrongIn)
	if s.parted.pictures.share() > picturesMost {
		return false
	}
	s.parted.partInk()
	s.layers = layersTried{}
	delete(s.tried, losslessEncodings[0])
	return true
}

// withGrey adds the same encodings without colour, where there is any.
func (s *subject) withGrey(encodings []EncodingParams) []EncodingParams {
	if !s.isColoured {
		return encodings
	}
	return slices.Concat(encodings, inGrey(encodings))
}

// further are the encodings by which more is lost, or less is saved.
func (s *subject) further() []EncodingParams {
	switch {
	case s.oneBit != nil:
		return nil
	case s.isTone():
		return append(s.withGrey(resized(photographSteps)), EncodingParams{Encoding: OneBit})
	}
	return slices.Concat([]EncodingParams{{Encoding: OneBit}}, coarser)
}

func resized(places []float64) []EncodingParams {
	all := make([]EncodingParams, len(places))
	for i, place := range places {
		all[i] = resizedAt(place)
	}
	return all
}

const (
	// unseenLoss is the mean of what squares of a photograph may lack, measured as
	// closely as print is read.
	unseenLoss                = 0.015
	leastQuality, mostQuality = 65, 90
	qualityStep               = 6 // between qualities that are told apart
)

// visuallyLosslessQuality finds the least quality of a JPEG of so many dots an inch whose
// difference from the page is not seen.
func (s *subject) visuallyLosslessQuality(dpi int) (int, error) {
	closely := newOriginal(s.gray(), s.dpi, readDPI)
	low, high := leastQuality, mostQuality
	for high-low > qualityStep {
		middle := (low + high) / 2
		compressed, err := s.write(EncodingParams{Encoding: Resized, DPI: dpi, Quality: middle})
		if err != nil {
			return 0, err
		}
		drawn, err := compressed.drawGray(closely.gray.Rect.Size())
		if err != nil {
			return 0, err
		}
		if closely.likeness(drawn).Loss > unseenLoss {
			low = middle
		} else {
			high = middle
		}
	}
	return high, nil
}
