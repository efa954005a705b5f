// Package bilevel holds one-bit images and their codecs.
//
// CCITT Group 3 and Group 4 follow ITU-T T.4 (07/2003) and T.6 (11/1988), with
// TIFF 6.0's variants of framing; JBIG2 has a room of its own below. The package is pure.
package bilevel
