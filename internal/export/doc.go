// Package export makes documents of packets. An order becomes a file step by step:
//
//	order     what is to be made, of which pages (exports.go)
//	measure   how each page can be written, and what it loses by that (measure.go, inplace.go); what
//	          was written for that is kept for the document (written.go)
//	plan      how each page is written, under the limit (plan.go)
//	make      the document is assembled (making.go, document.go, assemble.go, recode.go, cut.go,
//	          makepictures.go), again and again where it is to fit (within.go)
//	check     the finished file is opened by another reader, and gets its receipt (receipt.go)
//	compare   each of its pages is compared with what the bench shows, afterwards (compare.go)
//	read      its words are compared with those of the pages, afterwards (readback.go)
//
// A proof is a document of one page that is made the same way, to be seen before
// (proof.go).
//
// The package may store files and have pages drawn; what came from outside it has workers read. It
// imports assembly, packets, ocr, render, sources, store and the core, where the rules of writing
// lie: core/shrink and core/pdf.
package export
