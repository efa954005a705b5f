// Package await waits in tests for what the program does in the background.
// It is for tests alone, of all rooms, and imports nothing of ours.
package await
