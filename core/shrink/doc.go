// Package shrink finds what kind of page a picture is of, and writes it in fewer bytes:
// ink as a sharp mask in its own colours over a softened background, photographs at
// fewer dots an inch. What it makes is compared with what it was made from. It is pure
// and may import core/raster and core/bilevel.
package shrink
