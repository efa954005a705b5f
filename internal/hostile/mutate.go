package hostile

import (
	"bytes"
	"math/rand/v2"
	"slices"
)

// Mutated is data with some damage: bytes and digits changed, and parts of it removed, repeated
// or exchanged. The same seed does the same damage.
func Mutated(data []byte, seed uint64) []byte {
	random := rand.New(rand.NewPCG(seed, uint64(len(data)))) //nolint:gosec // nothing secret
	data = bytes.Clone(data)
	for range 1 + random.IntN(12) {
		if len(data) < 16 {
			break
		}
		at := random.IntN(len(data) - 8)
		end := min(len(data), at+1+random.IntN(64))
		switch random.IntN(6) {
		case 0:
			data[at] ^= 1 << random.IntN(8)
		case 1:
			data[at] = []byte{0, 0xFF, 0x7F, 0x80}[random.IntN(4)]
		case 2:
			changeDigit(data[at:], byte('0'+random.IntN(10)))
		case 3:
			data = slices.Delete(data, at, end)
		case 4:
			data = slices.Insert(data, at, bytes.Clone(data[at:end])...)
		case 5:
			copy(data[at:end], data[random.IntN(len(data)-8):])
		}
	}
	return data
}

// changeDigit changes the first digit that comes, as numbers are what a PDF hangs together by.
func changeDigit(data []byte, digit byte) {
	for i, c := range data {
		if c >= '0' && c <= '9' {
			data[i] = digit
			return
		}
	}
}
