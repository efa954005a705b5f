package shrink

import (
	"image"
	"slices"

	"dorbin/core/raster"
)

// Version is what a page weighs by a recipe, and what it loses.
type Version struct {
	Recipe
	Likeness
	Bytes  int64    `json:"bytes"`
	Words  *float64 `json:"words,omitempty"`  // share of the words that are read as before, where that was tried
	Unseen bool     `json:"unseen,omitempty"` // nothing is lost that is seen at twice the size of the paper
}

// worthResizing is the share of its bytes, at most, that a page keeps whose JPEG is
// written anew: for less it loses nothing.
const worthResizing = 0.8

// AsItIs is a page that is not touched.
func AsItIs(bytes int64) Version {
	return Version{Recipe: Recipe{Way: Kept}, Likeness: Likeness{Kept: 1}, Bytes: bytes}
}

// Measured are the versions of a page.
type Measured struct {
	Kind     Kind      `json:"kind"`
	Coloured bool      `json:"coloured,omitempty"` // a photograph, that has colour to lose
	Versions []Version `json:"versions"`           // from the heaviest to the lightest; the first is the page as it is
}

// Scope is how many recipes are tried.
type Scope int

// The scopes.
const (
	Lightly Scope = iota // those by which nothing is lost that is seen
	Fully                // all
)

// unseen are the recipes for a page by which nothing is lost that is seen at twice the
// size of the paper.
func (s *subject) unseen() ([]Recipe, error) {
	switch {
	case s.oneBit != nil:
		return []Recipe{{Way: OneBit}}, nil
	case s.kind != Photograph:
		return lightly, nil
	}
	recipe := lightly[1]
	if !s.isPart {
		var err error
		if recipe.Quality, err = s.unseenQuality(recipe.DPI); err != nil {
			return nil, err
		}
	}
	return s.withGrey([]Recipe{recipe}), nil
}

func (s *subject) isColoured() bool { return s.kind == Photograph && !raster.IsGrey(s.Image) }

// withGrey adds the same recipes without colour, where there is any.
func (s *subject) withGrey(recipes []Recipe) []Recipe {
	if !s.isColoured() {
		return recipes
	}
	return slices.Concat(recipes, inGrey(recipes))
}

// further are the recipes by which more is lost, or less is saved.
func (s *subject) further() []Recipe {
	switch {
	case s.oneBit != nil:
		return nil
	case s.kind == Photograph:
		return append(s.withGrey(resized(photographSteps)), Recipe{Way: OneBit})
	}
	return slices.Concat([]Recipe{{Way: OneBit}}, softer, resized(printSteps))
}

func resized(places []float64) []Recipe {
	all := make([]Recipe, len(places))
	for i, place := range places {
		all[i] = resizedAt(place)
	}
	return all
}

const (
	// unseenLoss is the mean of what squares of a photograph may lack, looked at as
	// closely as print is read.
	unseenLoss                = 0.015
	leastQuality, mostQuality = 65, 90
	qualityStep               = 6 // between qualities that are told apart
)

// unseenQuality finds the least quality of a JPEG of so many dots an inch whose
// difference from the page is not seen.
func (s *subject) unseenQuality(dpi int) (int, error) {
	closely := newOriginal(s.Image, s.dpi, readDPI)
	low, high := leastQuality, mostQuality
	for high-low > qualityStep {
		middle := (low + high) / 2
		light, err := s.write(Recipe{Way: Resized, DPI: dpi, Quality: middle})
		if err != nil {
			return 0, err
		}
		drawn, err := light.drawGray(1)
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

// Measure tries recipes on a picture of a page, of so many dots an inch, that weighs so
// many bytes as it is. What is not worth its loss, or
// shows something else, is left out.
func Measure(img image.Image, dpi float64, asItIsBytes int64, scope Scope) (Measured, error) {
	s := newSubject(img, dpi)
	s.kind = BlackText
	if s.oneBit == nil {
		s.kind = KindOf(s.glance())
	}
	return measure(s, asItIsBytes, scope)
}

func measure(s *subject, asItIsBytes int64, scope Scope) (Measured, error) {
	m := Measured{Kind: s.kind, Coloured: s.isColoured(), Versions: []Version{AsItIs(asItIsBytes)}}
	unseen, err := s.unseen()
	if err != nil {
		return m, err
	}
	all := unseen
	if scope == Fully {
		all = slices.Concat(unseen, s.further())
	}
	for _, recipe := range all {
		if s.isNeedless(recipe) {
			continue
		}
		version, ok, err := s.try(recipe)
		if err != nil {
			return m, err
		}
		version.Unseen = slices.Contains(unseen, recipe)
		most := asItIsBytes
		if recipe.Way == Resized && !recipe.Grey { // who wants it grey does not ask for bytes alone
			most = int64(worthResizing * float64(asItIsBytes))
		}
		if ok && version.Bytes < most {
			m.Versions = append(m.Versions, version)
		}
	}
	slices.SortStableFunc(m.Versions, func(a, b Version) int { return int(b.Bytes - a.Bytes) })
	return m, nil
}

// isNeedless tells whether a recipe for print that layers cannot show is not worth
// trying, as they can.
func (s *subject) isNeedless(recipe Recipe) bool {
	reads := s.layers.likeness != nil && s.layers.likeness.Kept >= leastKept
	return reads && recipe.Way == Resized && !slices.Contains(lightly, recipe)
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

// try measures a recipe; it is not ok where ink was taken for paper or paper for ink.
func (s *subject) try(recipe Recipe) (v Version, ok bool, err error) {
	v = Version{Recipe: recipe, Likeness: Likeness{Kept: 1}}
	if recipe.Way == Layers && s.layers.areWrong {
		return v, false, nil
	}
	light, err := s.write(recipe)
	if err != nil {
		return v, false, err
	}
	if s.oneBit == nil {
		if ok, err := s.compare(&v, light); !ok || err != nil {
			return v, false, err
		}
	}
	v.Bytes = s.weigh(light)
	return v, true, nil
}

// layersTried is what is known of the layers of a page once one recipe was tried: the
// others have the same ink.
type layersTried struct {
	areWrong bool
	likeness *Likeness
	inkBytes int64
}

// compare tells how much of the page is kept; it is not ok where layers show something
// else.
func (s *subject) compare(v *Version, light Light) (ok bool, err error) {
	if v.Way == Layers && s.layers.likeness != nil {
		v.Likeness = *s.layers.likeness
	} else if v.Likeness, err = s.likeness(light); err != nil || (v.Way == Layers && s.layers.areWrong) {
		return false, err
	}
	switch v.Way {
	case Layers:
		v.Loss = sharperShare*v.Loss + softPaperCost*float64(lightly[0].DPI)/float64(v.DPI)
	case OneBit:
		v.Loss = sharperShare*v.Loss + noPaperCost
	}
	return true, nil
}

func (s *subject) likeness(light Light) (Likeness, error) {
	if light.Way == Layers {
		coarse, err := light.Layered.draw(max(1, max(light.Layered.Width, light.Layered.Height)/differenceEdge))
		if err != nil {
			return Likeness{}, err
		}
		if s.layers.areWrong = Difference(s.glance(), coarse) > mostDifference; s.layers.areWrong {
			return Likeness{}, nil
		}
	}
	drawn, err := light.drawGray(s.detail())
	if err != nil {
		return Likeness{}, err
	}
	if s.original == nil {
		dpi := float64(readDPI)
		if s.kind == Photograph {
			dpi = seenDPI
		}
		s.original = newOriginal(s.Image, s.dpi, dpi)
	}
	likeness := s.original.likeness(drawn)
	if light.Way == Layers {
		s.layers.likeness = &likeness
	}
	return likeness, nil
}

// detail is how many dots of the layers, across, make one that is compared.
func (s *subject) detail() int {
	if s.parted == nil {
		return 1
	}
	return max(1, int(s.parted.dpi/readDPI))
}

// weigh is what a page weighs that is written alone.
func (s *subject) weigh(light Light) int64 {
	if light.Way == Layers && s.layers.inkBytes > 0 {
		return s.layers.inkBytes + int64(light.Layered.Background.Bytes())
	}
	encode([]*Light{&light})
	if light.Way == Layers {
		s.layers.inkBytes = int64(light.Bytes() - light.Layered.Background.Bytes())
	}
	return int64(light.Bytes())
}

// richest are the recipes up to which a way is worth its bytes.
var richest = map[Way]Recipe{
	Layers:  {Way: Layers, DPI: 200, Quality: 85},
	Resized: {Way: Resized, DPI: 400, Quality: 95},
}

// trials is how often a page is written to come near what it may weigh.
const trials = 7

// Richer writes a picture by a recipe with more dots and a better quality than a
// version of it has, as far as so many bytes more allow. It is the version itself where
// nothing better is found.
func Richer(img image.Image, dpi float64, v Version, room int64) (Version, error) {
	most, ok := richest[v.Way]
	if !ok || room <= 0 {
		return v, nil
	}
	most.DPI = max(v.DPI, min(most.DPI, int(dpi+0.5)))
	s := newSubject(img, dpi)
	best, low, high := v, 0.0, 1.0
	for trial := range trials {
		share := (low + high) / 2
		if trial == 0 {
			share = 1
		}
		between := func(a, b int) int { return a + int(float64(max(0, b-a))*share+0.5) }
		recipe := Recipe{v.Way, between(v.DPI, most.DPI), between(v.Quality, most.Quality), v.Grey}
		light, err := s.write(recipe)
		if err != nil {
			return v, err
		}
		weight := s.weigh(light)
		if weight > v.Bytes+room {
			high = share
			continue
		}
		if weight > best.Bytes {
			best.Recipe, best.Bytes = recipe, weight
		}
		if trial == 0 {
			break
		}
		low = share
	}
	return best, nil
}
