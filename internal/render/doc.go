// Package render makes pictures of pages, and reads their text and bookmarks.
// PDFs are opened and drawn by PDFium, which workers run; finished pictures are
// cached on disk.
//
// It may read source files and write its cache, and import core. It does not
// know packets.
package render
