// Package app holds the use cases in the product's words: making packets,
// adding files, carrying out commands, exporting. It owns the jobs that run in
// the background and the events that tell of changes.
//
// It is the only caller of intake, render and store, and knows nothing of HTTP.
package app
