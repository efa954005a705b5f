// Package jobs runs the work that nobody has to wait for, or that outlasts a request. A
// job is a row: it is asked for in the transaction that makes it necessary, it is taken
// up again after a restart, and it is removed when it is done.
//
// A job that panics or returns an error is tried again, three times in all, then given
// up: its kind is told, and says so where the user sees it. An attempt during which the
// program itself ended counts as well, so that no job can bring the program down at
// every start. Jobs are cancelled by their name; their kind is told of each that has not
// ended before. They wait for whatever somebody waits for.
//
// The runner knows jobs by kind and key alone, and takes them from a Queue one at a time:
// a queue on another machine would do as well. It imports guard alone of ours.
package jobs
