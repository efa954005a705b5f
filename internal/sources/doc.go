// Package sources opens what came in: a page of a source as something to draw, a file of
// images, a parsed PDF.
//
// It may read stored files and have PDFium repair one, and imports intake, render and
// store. It decides nothing about packets.
package sources
