// Package tiff reads and writes TIFF files with one or many pages: it walks the image file
// directories, decodes their strips or tiles, and gives a page's encoded data
// where it can go into a PDF as it is.
//
// The format is that of TIFF Revision 6.0 (1992) with Adobe's Photoshop
// Technical Notes (2002) for deflate and Technical Note 2 (1995) for JPEG. The
// package reads from the io.ReaderAt it is given and touches nothing else.
package tiff
