// Package shrink finds what kind of page a picture is of, and writes it in fewer bytes:
// ink as a sharp mask in its own colours over a softened background, black on white,
// photographs at fewer dots an inch. What it makes is drawn again and compared with what
// it was made from, and a plan chooses among what was measured so that pages fit under a
// limit and lose the least. It is pure and may import core/raster and core/bilevel.
package shrink
