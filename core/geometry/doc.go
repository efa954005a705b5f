// Package geometry holds the units and shapes of pages: points, pixels and
// millimetres, paper sizes, and how turning changes a page's size.
//
// Lengths are in points (1/72 inch) unless a name says otherwise; angles are
// degrees clockwise. The package is pure and imports only the standard library.
package geometry
