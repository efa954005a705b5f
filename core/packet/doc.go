// Package packet holds the packet itself: its parts and pages, the commands
// that rearrange it, and the deltas by which every command is undone.
//
// A Packet is a value. Apply never changes its argument, so a command that
// fails half-way leaves nothing behind. The package is pure: it may import
// core/geometry, core/raster for the parameters of pixel work, golang.org/x/text
// for the order of names, and the standard library, and does no input or output.
package packet
