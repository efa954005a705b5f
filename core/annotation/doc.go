// Package annotation names what becomes of the form fields and comments of a page in the
// document that is made of it. The packet keeps it, the bench draws by it, and package pdf
// carries it out.
//
// The package is pure and imports only the standard library.
package annotation
