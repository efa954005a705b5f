// Package scanning drives scanners: what they send lies in a batch, where it is reviewed
// and put in order before it becomes a source.
//
// It may talk to scanners, and imports gather, ocr, packets, render, scanner, sources, store
// and the core.
package scanning
