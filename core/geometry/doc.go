// Package geometry holds the units and shapes of pages: points, pixels and
// millimetres, paper sizes, the outline of a paper in a picture, and the one
// transform from a page laid flat to the page as it stands (Framing).
//
// Lengths are in points (1/72 inch) unless a name says otherwise; angles are
// degrees clockwise. The package is pure and imports only the standard library.
package geometry
