// Package raster is pixel work: scaling, turning and cutting, papers and folds in
// photographs, tone, which way up a page stands and by how much it leans, where on it
// there is anything, what is wiped off and painted over, and pages seen through each
// other. It is pure and may import core/bilevel and core/geometry.
package raster
