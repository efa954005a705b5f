// Package requirements holds a document against the rules of whoever receives it. Facts of a packet,
// or of a finished file, go in, and a verdict on each rule comes out.
//
// It is pure, knows nothing of packets or PDFs, and may import core/geometry, core/problem and
// core/text.
package requirements
