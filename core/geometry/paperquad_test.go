package geometry

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
)

func TestOutlineCheck(t *testing.T) {
	assert.NoError(t, WholePicture.Check())
	assert.NoError(t, PaperQuad{{-0.1, 0.1}, {0.9, 0}, {1.2, 1.1}, {0, 0.9}}.Check())
	for name, bad := range map[string]PaperQuad{
		"none":             {},
		"anticlockwise":    {{0, 0}, {0, 1}, {1, 1}, {1, 0}},
		"crossed":          {{0, 0}, {1, 1}, {1, 0}, {0, 1}},
		"dented":           {{0, 0}, {1, 0}, {0.2, 0.2}, {0, 1}},
		"tiny":             {{0.5, 0.5}, {0.6, 0.5}, {0.6, 0.6}, {0.5, 0.6}},
		"far away":         {{-3, 0}, {1, 0}, {1, 1}, {0, 1}},
		"not even numbers": {{math.NaN(), 0}, {1, 0}, {1, 1}, {0, 1}},
	} {
		assert.Error(t, bad.Check(), name)
	}
}

func TestProjectionTakesCornersToCorners(t *testing.T) {
	random := rand.New(rand.NewPCG(1, 1))
	for range 200 {
		o := WholePicture
		for i := range o {
			o[i].X += random.Float64()*0.4 - 0.2
			o[i].Y += random.Float64()*0.4 - 0.2
		}
		m := o.Projection(210, 297, 4000, 3000)
		for i, flat := range [4][2]float64{{0, 0}, {210, 0}, {210, 297}, {0, 297}} {
			x, y := m.Apply(flat[0], flat[1])
			assert.InDelta(t, o[i].X*4000, x, 1e-6)
			assert.InDelta(t, o[i].Y*3000, y, 1e-6)
			u, v := m.Inverse().Apply(x, y)
			assert.InDelta(t, flat[0], u, 1e-6)
			assert.InDelta(t, flat[1], v, 1e-6)
		}
	}
}

// seen is the outline of a flat paper before a camera: tilted about two axes,
// at a distance, through a lens of the focal length in picture heights.
func seen(aspect, tiltX, tiltY, focal, picture float64) PaperQuad {
	var o PaperQuad
	for i, corner := range [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		x, y, z := corner[0]*aspect/2, corner[1]/2, 0.0
		y, z = y*math.Cos(tiltX), y*math.Sin(tiltX)
		x, z = x*math.Cos(tiltY)-z*math.Sin(tiltY), x*math.Sin(tiltY)+z*math.Cos(tiltY)
		z += 1.6 * focal
		o[i] = Point{0.5 + focal*x/z/picture, 0.5 + focal*y/z}
	}
	return o
}

func TestAspectIsThatOfThePaper(t *testing.T) {
	random := rand.New(rand.NewPCG(2, 1))
	for range 500 {
		aspect := 0.5 + random.Float64()
		o := seen(aspect, 0.15+random.Float64()*0.6, 0.15+random.Float64()*0.6, 0.8+random.Float64(), 0.75)
		assert.InEpsilon(t, aspect, o.Aspect(0.75), 0.005)
	}
	assert.InEpsilon(t, 0.75, WholePicture.Aspect(0.75), 1e-9)
}

func TestFlatSize(t *testing.T) {
	photo := ImageSize(3000, 4000, Resolution{})
	assert.Equal(t, A4, seen(210.0/297, 0.5, 0.3, 1.2, 0.75).FlatSize(photo, false))
	assert.Equal(t, Letter.Landscape(), seen(11/8.5, 0.4, 0.2, 1.2, 0.75).FlatSize(photo, false))
	square := seen(1, 0.4, 0.2, 1.2, 0.75).FlatSize(photo, false)
	assert.InEpsilon(t, 1, square.Width/square.Height, 0.01)
	assert.LessOrEqual(t, square.Width, Letter.Width+0.01)

	half := PaperQuad{{0, 0}, {0.5, 0}, {0.5, 1}, {0, 1}}
	assert.Equal(t, A5, half.FlatSize(A4.Landscape(), true), "half a scanned A4 is A5")
	odd := PaperQuad{{0.1, 0.1}, {0.5, 0.1}, {0.5, 0.3}, {0.1, 0.3}}.FlatSize(A4, true)
	assert.InDelta(t, A4.Width*0.4, odd.Width, 0.01)
	assert.InDelta(t, A4.Height*0.2, odd.Height, 0.01)
}

func TestCutSharesTheFold(t *testing.T) {
	o := seen(1.4, 0.5, 0.3, 1.2, 1.33)
	left, right := o.Cut(0.5, 0.5)
	assert.NoError(t, left.Check())
	assert.NoError(t, right.Check())
	assert.Equal(t, left[1], right[0])
	assert.Equal(t, left[2], right[3])
	assert.InDelta(t, o.Area(), left.Area()+right.Area(), 1e-9)
	assert.InEpsilon(t, 0.7, left.Aspect(1.33), 0.05)
}
