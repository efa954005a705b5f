// Package pdf reads the pages of PDF documents and writes the assembled one.
//
// Reading rests on the object parser of pdfcpu. Writing is the package's own:
// an Assembler copies pages object by object, as they are, into a new file that
// is streamed to a writer. Nothing that no kept page uses is written, identical
// resources are written once, and at most one source document is held in memory
// at a time.
//
// Section numbers in comments refer to ISO 32000-2:2020. The package is pure: it
// reads from an io.ReadSeeker and writes to an io.Writer that it is given.
package pdf
