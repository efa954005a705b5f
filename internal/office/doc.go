// Package office has LibreOffice, a separate program, convert documents: in a profile that is thrown
// away, without macros and without a network, confined to a folder of its own where the system allows
// it.
//
// The package may start that program, and writes to temporary folders. It imports confine alone of
// ours.
package office
