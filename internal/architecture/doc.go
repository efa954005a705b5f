// Package architecture holds the test of the rooms' boundaries. It has no code.
package architecture
