// Package message is for what users read of the core and the server: each text is English and tells how it was put
// together, as a code with values, so that the interface can say it in another language. It imports nothing of ours.
//
// The formats of all texts are constants. A test collects them from the code into web/src/words/server.json, which is
// what a translation begins with.
package message
