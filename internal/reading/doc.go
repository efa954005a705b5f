// Package reading has the text of pages: that which the pages of PDFs have, and that which is
// recognised in pictures of pages. It is asked for page by page or for a whole packet, goes on in
// the background.
//
//	own text   of PDFs, when they are added (own.go)
//	order      which pages are read, in which languages (order.go)
//	read       the picture that is read, and its text on the page laid flat (read.go, recognise.go)
//	use        what is read: found (find.go), shown and copied (words.go), corrected where it is
//	           doubtful (doubtful.go), by which documents are told apart (documents.go), and that
//	           becomes text documents (editable.go)
//
// The package may have pages drawn and read, and keeps what was read. It imports ocr, render,
// sources, store and the core, where core/text has the rules of text.
package reading
