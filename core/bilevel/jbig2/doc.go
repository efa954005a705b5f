// Package jbig2 encodes one-bit images by ITU-T T.88 (08/2018), as a PDF embeds them
// (ISO 32000-1, 7.4.7): generic regions, and symbols that pages share, coded by the
// arithmetic coder. It is lossless: a shape is written as another's only when every
// pixel is the same, or when the difference is coded too, as a refinement. Decide is for
// bitmaps that are made of grey ones: it chooses the pixels that may as well be white as black.
//
// The package is pure and may import core/bilevel alone.
package jbig2
