package geometry

import "math"

// Affine maps points of the plane: x' = A·x + C·y + E, y' = B·x + D·y + F. The
// order of the numbers is that of a matrix in PDF (ISO 32000-1, 8.3.3).
type Affine struct{ A, B, C, D, E, F float64 }

// Identity leaves every point where it is.
var Identity = Affine{A: 1, D: 1}

// Translation moves by x and y.
func Translation(x, y float64) Affine { return Affine{A: 1, D: 1, E: x, F: y} }

// Scaling stretches from the origin.
func Scaling(x, y float64) Affine { return Affine{A: x, D: y} }

// Rotation turns about the origin, by degrees clockwise where y points down.
func Rotation(degrees float64) Affine {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	return Affine{A: cos, B: sin, C: -sin, D: cos}
}

// Then is the map that applies m first and next after it.
func (m Affine) Then(next Affine) Affine {
	return Affine{
		A: next.A*m.A + next.C*m.B, B: next.B*m.A + next.D*m.B,
		C: next.A*m.C + next.C*m.D, D: next.B*m.C + next.D*m.D,
		E: next.A*m.E + next.C*m.F + next.E, F: next.B*m.E + next.D*m.F + next.F,
	}
}

// Apply maps a point.
func (m Affine) Apply(x, y float64) (float64, float64) {
	return m.A*x + m.C*y + m.E, m.B*x + m.D*y + m.F
}

// Inverse is the map that leads back. The map must not flatten the plane.
func (m Affine) Inverse() Affine {
	det := m.A*m.D - m.B*m.C
	return Affine{
		A: m.D / det, B: -m.B / det, C: -m.C / det, D: m.A / det,
		E: (m.C*m.F - m.D*m.E) / det, F: (m.B*m.E - m.A*m.F) / det,
	}
}

// Projection is the same map in homogeneous coordinates.
func (m Affine) Projection() Projection {
	return Projection{m.A, m.C, m.E, m.B, m.D, m.F, 0, 0, 1}
}

// Then is the projection that applies m first and next after it.
func (m Projection) Then(next Projection) (out Projection) {
	for row := range 3 {
		for column := range 3 {
			for i := range 3 {
				out[3*row+column] += next[3*row+i] * m[3*i+column]
			}
		}
	}
	return out
}
