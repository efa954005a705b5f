// Package arrange tells what is on pages and where a part could be split, for whoever puts a
// packet in order: it changes nothing.
//
// It may draw pages, and imports checking, render, sources, store and the core.
package arrange
