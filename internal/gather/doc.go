// Package gather takes files in: it inspects them, keeps them as sources of a packet, finds
// papers in photographs, and has their pages placed.
//
// It may read and convert files, and imports intake, packets, render, sources, store and the
// core. What a file is, is told by intake.
package gather
