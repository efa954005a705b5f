// Package finish is what is added to the pages and the document before the export: a cover, a
// contents page, sheets and labels of parts, page numbers, a header and a footer, a watermark,
// bookmarks, properties, how the document opens and is protected. It tells which text comes where
// on which page, and what is wrong with what is asked for; it knows nothing of PDFs.
//
// Places are in points from the top left of a page as it stands. The package is pure.
package finish
