package sampling

import (
	"hash/fnv"
	"math"
	"math/rand/v2"
	"os"
	"slices"
	"strconv"
	"testing"
)

// The environment of a run.
const (
	corpusVariable = "DORBIN_CORPUS" // "all" goes through everything
	seedVariable   = "DORBIN_SEED"   // chooses other cases
	turnVariable   = "DORBIN_TURN"   // a number: whose turn it is of the heavy tests; or "none", when all rest
)

// heavyTurns is how many turns the heavy tests take: each of them runs once in so many.
const heavyTurns = 10

// Of gives n of the items, in their order, as the seed chooses them; all of them when the
// whole corpus is wanted. The same seed gives the same items.
func Of[T any](t testing.TB, all []T, n int) []T {
	t.Helper()
	if os.Getenv(corpusVariable) == "all" || n >= len(all) {
		return all
	}
	seed := uint64(1)
	if text := os.Getenv(seedVariable); text != "" {
		parsed, err := strconv.ParseUint(text, 10, 64)
		if err != nil {
			t.Fatalf("%s is not a number: %v", seedVariable, err)
		}
		seed = parsed
	}
	chosen := rand.New(rand.NewPCG(seed, 0)).Perm(len(all))[:n] //nolint:gosec // nothing secret
	slices.Sort(chosen)
	items := make([]T, n)
	for i, index := range chosen {
		items[i] = all[index]
	}
	t.Logf("%d of %d cases, as seed %d chooses them; %s=all goes through all of them", n, len(all), seed, corpusVariable)
	return items
}

// Numbers is Of the numbers from 0 to below count.
func Numbers(t testing.TB, count, n int) []int {
	t.Helper()
	all := make([]int, count)
	for i := range all {
		all[i] = i
	}
	return Of(t, all, n)
}

// Slow leaves a test out that takes more than a second, where only quick ones are wanted (-short).
func Slow(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("takes more than a second")
	}
}

// Heavy leaves a test out that takes seconds: where only quick ones are wanted (-short), and
// where it is the turn of others. Without a turn, all have theirs.
func Heavy(t *testing.T) {
	t.Helper()
	if testing.Short() {
		t.Skip("takes long")
	}
	if !hasItsTurn(t, t.Name()) {
		t.Skipf("takes long, and it is the turn of others; %s=all has no turns", corpusVariable)
	}
}

func hasItsTurn(t testing.TB, name string) bool {
	t.Helper()
	text := os.Getenv(turnVariable)
	if text == "" || os.Getenv(corpusVariable) == "all" {
		return true
	}
	if text == "none" {
		return false
	}
	turn, err := strconv.ParseUint(text, 10, 32)
	if err != nil {
		t.Fatalf("%s is not a number: %v", turnVariable, err)
	}
	hash := fnv.New32a()
	hash.Write([]byte(name))
	return uint64(hash.Sum32())%heavyTurns == turn%heavyTurns
}

// Least is how many of n cases must be right where this share of the whole corpus must be:
// of a sample a few less, as chance has it.
func Least(share float64, n, whole int) int {
	least := share * float64(n)
	if n < whole {
		least -= 2 * math.Sqrt(float64(n)*share*(1-share)) // twice the standard deviation
	}
	return int(math.Floor(least))
}
