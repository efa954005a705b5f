package await

import (
	"testing"
	"time"
)

// How long is waited, and how long between two looks. Only a test that fails reaches the limit, so
// it is long enough for the slowest machine.
const (
	limit = 15 * time.Minute
	pause = 10 * time.Millisecond
)

// Until waits until the condition holds, and ends the test if that takes too long; what is said then.
// The condition runs in the goroutine of the test, so it may end the test too, which it may not within
// testify's Eventually.
func Until(t testing.TB, condition func() bool, what ...any) {
	t.Helper()
	for begun := time.Now(); !condition(); time.Sleep(pause) {
		if time.Since(begun) > limit {
			t.Fatal(append([]any{"never became so within ", limit, ": "}, what...)...)
		}
	}
}
