// Package png writes PNG files (ISO/IEC 15948), and pictures that PDFs keep in the same way, in fewer bytes with every
// sample the same: the filters of their rows are chosen anew, and what comes out is compressed as well as can be.
//
// Pictures are decoded and encoded by image/png elsewhere. The package is pure: it reads from what it is given.
package png
