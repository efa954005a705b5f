// Package worker runs tasks on bytes that came from outside in processes of their own, so
// that no file can end the program, fill the machine or occupy it for ever.
//
// A worker is the program started again, as "dorbin worker". It is given one task at a time
// and stays for the next one. The pool starts workers as they are needed, ends one whose task
// takes too long, takes too much memory or is no longer wanted, and starts another for the
// next task. A task that ended its worker is tried once more, with more memory; then it fails with a
// problem.Error.
//
// # The protocol
//
// Pool and worker send frames over the worker's standard input and output. A frame is
//
//	4 bytes  length of the JSON that follows, big endian
//	n bytes  JSON
//	8 bytes  length of the data that follows, big endian
//	n bytes  data, such as the pixels of a picture
//
// A worker sends one frame once it is ready. Then it reads a request, whose JSON has the
// "task" and its "input", and answers it by a frame whose JSON has the "output", or what went
// wrong: a "problem" for the user, or "error" in words with the index of the task's known
// error that it is. Before the answer it may send frames that tell its "progress". It ends when
// its input does. Files are named by their paths; a worker
// opens what it is told to and writes only where it is told to.
//
// A task is a value, so that a worker on another machine could take it one day, with files
// fetched by their hashes.
//
// The package knows nothing of what the tasks do. It imports core/problem and guard.
package worker
