// Package intake turns bytes into sources: it finds out what a file is, holds
// it against the limits, and learns its pages' sizes. For image files it also
// gives the pixels of a page, and a page's encoded data for the export.
//
// It may read files, and import core, internal/render for opening PDFs, and its
// own format packages. It keeps nothing.
package intake
