// Package app wires the rooms together and owns the life and death of the program: it opens
// the data folder, starts the jobs, tells listeners what changes, and closes everything.
//
// It imports all rooms below it, and knows nothing of HTTP.
package app
