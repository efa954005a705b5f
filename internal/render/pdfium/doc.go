// Package pdfium opens, draws and reads PDFs by PDFium, compiled to WebAssembly and run in a
// sandbox that sees no files. It runs in workers: what others use is render.Engine, which has
// workers do it.
//
// It may read the files that it is told to, and write one. It imports worker and the core.
package pdfium
