// Package pdftest writes PDFs from objects that a test spells out. It is for tests and test
// files alone, and imports only the standard library.
package pdftest
