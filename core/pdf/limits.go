package pdf

import "errors"

// ErrTooDeep is returned for a document whose objects are nested, or refer to each other, in
// longer chains than any program writes.
var ErrTooDeep = errors.New("the document's objects are nested too deeply")

// Limits of what is followed in a document. A file may refer to itself in circles, and name
// the same thing so often that following it everywhere would never end.
const (
	maxTreeDepth   = 200     // levels of page trees, bookmarks, fields and names
	maxDepth       = 20_000  // objects that lead to each other, one within the other
	maxActionDepth = 50      // actions that follow an action
	maxActions     = 100_000 // actions of one document
	maxFormDepth   = 12      // forms that draw forms
	maxDrawn       = 20_000  // forms that are drawn on a page, in each other or not
	maxNameNodes   = 100_000 // nodes of a name tree that are searched for a name
)

// Limits of what is unpacked.
const (
	maxContent = 128 << 20   // bytes of a content stream; those of drawings have some millions
	maxPixels  = 200_000_000 // of a picture that is decoded
	maxSamples = 800_000_000 // bytes of a picture that is decoded
	maxPalette = 3 * 256     // bytes: of three colours for each index of eight bits (8.6.6.3)
)
