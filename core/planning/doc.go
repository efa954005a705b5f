// Package planning decides how each page of a document is written, so that the document becomes
// as small as was asked for: which of the encodings that were measured a page gets, what
// would help where a limit cannot be met, and where a document is split into files.
//
// It knows sizes and losses, not pixels: core/shrink measures them.
package planning
