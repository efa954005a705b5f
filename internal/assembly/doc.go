// Package assembly writes PDFs in a worker. A Builder takes down, step by step, what a document
// is made of: blank pages, pages of image files, pages of PDFs, and images that the program
// encoded itself. Then a worker opens the files and writes the document, as core/pdf has it.
//
// What is taken down is a value: the bytes that the program encoded lie in a file beside it,
// files are named by their paths.
//
// The package may have workers read files, and writes one of its own in their scratch folder. It
// imports the core, intake and worker.
package assembly
