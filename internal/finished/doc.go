// Package finished finds out what a finished PDF is, from its bytes alone, as far as the rules of a
// receiver ask for it. PDFium reads it, which had no part in writing it.
//
// It may have pages drawn and read, and imports render and the core.
package finished
