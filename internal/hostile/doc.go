// Package hostile makes files that are meant to stop a program, fill a machine or occupy it for
// ever, for tests. It imports nothing of ours.
package hostile
