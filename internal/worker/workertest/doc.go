// Package workertest has the binary of a test be a worker where a pool starts it as one. It is for
// tests alone, and imports the worker room.
package workertest
