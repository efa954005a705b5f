// Package demo draws the papers of the Larkmere Rowing Club's application to
// the Tarn Valley Fund, all made up, and loads them as a user would.
//
// It may import internal/app and core. Every paper comes out the same at every
// run.
package demo
