// Package raster is pixel work: scaling, turning and flipping. It is pure.
package raster
