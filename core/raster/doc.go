// Package raster is pixel work: scaling, turning and cutting, papers and folds in
// photographs, tone, which way up a page stands, where on it there is anything, and
// pages seen through each other. It is pure and may import core/geometry.
package raster
