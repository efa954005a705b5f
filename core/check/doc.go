// Package check finds what is amiss with a packet: pages that lie sideways, that
// are blank, twice there, or of another size, and page numbers that leave a gap.
// It is pure: it judges what others have read and drawn, and may import
// core/packet, core/raster and core/geometry.
package check
