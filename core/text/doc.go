// Package text holds the text of a page: its words, where each of them stands, and the order
// in which they are read. It finds words in it, whatever their accents and capitals are.
//
// A text comes from a picture that was read, or from a PDF. Places are in points from the top
// left of the page that it is of; who made the text says whether that page lies flat or stands
// as it is shown.
//
// The package is pure. It may import core/geometry, golang.org/x/text for letters, and the
// standard library.
package text
