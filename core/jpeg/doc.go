// Package jpeg reads the structure of JPEG files (ITU-T T.81, annex B): which of their bytes
// show the picture, and which only tell about it.
//
// The package is pure: it reads from what it is given, and decodes nothing.
package jpeg
