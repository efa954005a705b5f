package raster

import (
	"image"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"dorbin/core/geometry"
	"dorbin/internal/sampling"
)

// facingPages draws two printed pages that bend into the binding at a fold.
func facingPages(random *rand.Rand, fold Fold) *image.RGBA {
	const width, height = 1000, 700
	img := image.NewRGBA(image.Rect(0, 0, width, height))
	deep, wide := 0.15+0.5*random.Float64(), 12+random.Float64()*40
	left, right := drawPaper(random, 0.7), drawPaper(random, 0.7)
	for y := range height {
		t := (float64(y) + 0.5) / height
		at := (fold.Top + (fold.Bottom-fold.Top)*t) * width
		for x := range width {
			half, u := left, float64(x)/at
			if float64(x) >= at {
				half, u = right, (float64(x)-at)/(width-at)
			}
			i := half.PixOffset(int(u*float64(half.Rect.Dx())), int(t*float64(half.Rect.Dy())))
			shade := 1 - deep*math.Exp(-math.Abs(float64(x)-at)/wide)
			light := 0.8 + 0.2*float64(x)/width
			n := random.Float64() * 4
			setRGB(img, x, y, float64(half.Pix[i])*shade*light+n, float64(half.Pix[i+1])*shade*light+n, float64(half.Pix[i+2])*shade*light+n)
		}
	}
	return img
}

func TestFoldsAreFoundWhereTheyAre(t *testing.T) {
	const whole = 60
	books := sampling.Numbers(t, whole, 20)
	found := 0
	for _, book := range books {
		random := rand.New(rand.NewPCG(7, uint64(book))) //nolint:gosec // small
		truth := Fold{Top: 0.44 + 0.12*random.Float64()}
		truth.Bottom = truth.Top + 0.03*(random.Float64()-0.5)
		fold, ok := FindFold(facingPages(random, truth), geometry.PaperQuad{})
		if ok && math.Abs(fold.Top-truth.Top) < 0.012 && math.Abs(fold.Bottom-truth.Bottom) < 0.012 {
			found++
		}
	}
	t.Logf("%d of %d folds within 1.2 %% of the width", found, len(books))
	assert.GreaterOrEqual(t, found, sampling.Least(0.95, len(books), whole))
}

func TestOnePageHasNoFold(t *testing.T) {
	random := rand.New(rand.NewPCG(8, 8))
	for i := range 40 {
		page := drawPaper(random, 1.41)
		if i%2 == 0 { // a table with a rule in the middle
			for y := 100; y < 900; y++ {
				setRGB(page, page.Rect.Dx()/2, y, 20, 20, 20)
				setRGB(page, page.Rect.Dx()/2+1, y, 20, 20, 20)
			}
		}
		_, ok := FindFold(page, geometry.PaperQuad{})
		assert.False(t, ok, "page %d", i)
	}
	left, _ := geometry.WholePicture.Cut(0.45, 0.45)
	_, ok := FindFold(facingPages(random, Fold{0.5, 0.5}), left)
	assert.False(t, ok, "an upright page is not two")
}
