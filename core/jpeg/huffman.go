package jpeg

const (
	longestCode = 16
	// lookBits are looked up at once: nearly all codes with the number that follows them.
	lookBits = 10
)

// huffman is a table of codes (annex C).
type huffman struct {
	// look gives for the next bits what they begin with.
	look [1 << lookBits]entry
	// Codes of a length are numbers from first on, up to and without end; their symbols begin at start.
	first, end [longestCode + 1]int
	start      [longestCode + 1]int
	symbols    []byte
}

// entry is what bits begin with: 0 for a code that is longer. From the lowest bit on: how many bits
// it takes (8), its symbol (8), and the number that follows a symbol of a coefficient (16), where
// isWhole says that it is among the bits.
type entry uint32

const isWhole entry = 1 << 7

func (e entry) length() int   { return int(e & 0x7F) }
func (e entry) symbol() byte  { return byte(e >> 8) }
func (e entry) value() int32  { return int32(e) >> 16 }
func (e entry) skipped() int  { return int(e>>12) & 15 }
func (e entry) isWhole() bool { return e&isWhole != 0 }

// newHuffman makes a table of the numbers of codes of each length and the symbols in their order.
func newHuffman(counts [longestCode]byte, symbols []byte) (*huffman, error) {
	h := &huffman{symbols: symbols}
	code, at := 0, 0
	for length := 1; length <= longestCode; length++ {
		n := int(counts[length-1])
		h.first[length], h.end[length], h.start[length] = code, code+n, at
		if code+n > 1<<length {
			return nil, FormatError("a table has more codes than there can be")
		}
		if length <= lookBits {
			for i := range n {
				h.fillLook(code+i, length, symbols[at+i])
			}
		}
		code = (code + n) << 1
		at += n
	}
	return h, nil
}

// fillLook fills the places of all bits that begin with a code.
func (h *huffman) fillLook(code, length int, symbol byte) {
	spare := lookBits - length
	size := int(symbol & 15)
	for rest := range 1 << spare {
		e := entry(length) | entry(symbol)<<8
		if size > 0 && size <= spare {
			value := rest >> (spare - size)
			if value < 1<<(size-1) {
				value += -1<<size + 1
			}
			e = entry(length+size) | isWhole | entry(symbol)<<8 | entry(uint32(int32(value))<<16)
		}
		h.look[code<<spare|rest] = e
	}
}

// symbol takes the next symbol.
func (h *huffman) symbol(r *bitReader) (byte, error) {
	r.fill()
	e := h.look[r.bits>>(64-lookBits)]
	if e == 0 {
		return h.longSymbol(r)
	}
	length := e.length()
	if e.isWhole() {
		length -= int(e.symbol() & 15)
	}
	r.bits <<= length
	r.n -= length
	return e.symbol(), nil
}

// longSymbol takes a symbol whose code is longer than what is looked up.
func (h *huffman) longSymbol(r *bitReader) (byte, error) {
	for length := lookBits + 1; length <= longestCode; length++ {
		code := int(r.bits >> (64 - length))
		if code < h.end[length] {
			if code < h.first[length] {
				return 0, errCode
			}
			r.bits <<= length
			r.n -= length
			return h.symbols[h.start[length]+code-h.first[length]], nil
		}
	}
	return 0, errCode
}
