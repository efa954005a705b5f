// Package filing opens PDFs of the folders that the installation allows as packets, and saves finished
// documents back under the same names. What was there is kept beside, until the day that the packet is
// kept to; what was changed outside meanwhile is told, and not overwritten.
//
// It reads exports and makes packets. It knows no pages.
package filing
