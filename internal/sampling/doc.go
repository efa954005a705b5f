// Package sampling chooses which cases of a large corpus a run of the tests goes through.
// It is for tests alone, of all rooms, and imports nothing of ours.
package sampling
