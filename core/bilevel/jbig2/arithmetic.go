package jbig2

// state is a row of the table of probabilities (table E.1).
type state struct {
	qe       uint32
	nextMPS  uint8
	nextLPS  uint8
	switches bool
}

var states = [47]state{
	{0x5601, 1, 1, true}, {0x3401, 2, 6, false}, {0x1801, 3, 9, false}, {0x0AC1, 4, 12, false},
	{0x0521, 5, 29, false}, {0x0221, 38, 33, false}, {0x5601, 7, 6, true}, {0x5401, 8, 14, false},
	{0x4801, 9, 14, false}, {0x3801, 10, 14, false}, {0x3001, 11, 17, false}, {0x2401, 12, 18, false},
	{0x1C01, 13, 20, false}, {0x1601, 29, 21, false}, {0x5601, 15, 14, true}, {0x5401, 16, 14, false},
	{0x5101, 17, 15, false}, {0x4801, 18, 16, false}, {0x3801, 19, 17, false}, {0x3401, 20, 18, false},
	{0x3001, 21, 19, false}, {0x2801, 22, 19, false}, {0x2401, 23, 20, false}, {0x2201, 24, 21, false},
	{0x1C01, 25, 22, false}, {0x1801, 26, 23, false}, {0x1601, 27, 24, false}, {0x1401, 28, 25, false},
	{0x1201, 29, 26, false}, {0x1101, 30, 27, false}, {0x0AC1, 31, 28, false}, {0x09C1, 32, 29, false},
	{0x08A1, 33, 30, false}, {0x0521, 34, 31, false}, {0x0441, 35, 32, false}, {0x02A1, 36, 33, false},
	{0x0221, 37, 34, false}, {0x0141, 38, 35, false}, {0x0111, 39, 36, false}, {0x0085, 40, 37, false},
	{0x0049, 41, 38, false}, {0x0025, 42, 39, false}, {0x0015, 43, 40, false}, {0x0009, 44, 41, false},
	{0x0005, 45, 42, false}, {0x0001, 45, 43, false}, {0x5601, 46, 46, false},
}

// context remembers what came before in one place: the index of its state, shifted
// left by one, and its more probable symbol.
type context uint8

// arithmeticEncoder is the encoder of annex E.
type arithmeticEncoder struct {
	out   []byte // the last byte may still get a carry
	a, c  uint32
	count int
}

func newArithmeticEncoder() *arithmeticEncoder {
	// The byte before the first is there to be written to, and is dropped at the end.
	return &arithmeticEncoder{out: make([]byte, 1, 1024), a: 0x8000, count: 12}
}

func (e *arithmeticEncoder) encode(bit uint8, cx *context) {
	s := &states[*cx>>1]
	e.a -= s.qe
	if bit == uint8(*cx&1) {
		if e.a&0x8000 != 0 {
			e.c += s.qe
			return
		}
		if e.a < s.qe {
			e.a = s.qe
		} else {
			e.c += s.qe
		}
		*cx = context(s.nextMPS)<<1 | *cx&1
	} else {
		if e.a < s.qe {
			e.c += s.qe
		} else {
			e.a = s.qe
		}
		mps := *cx & 1
		if s.switches {
			mps ^= 1
		}
		*cx = context(s.nextLPS)<<1 | mps
	}
	for {
		e.a <<= 1
		e.c <<= 1
		if e.count--; e.count == 0 {
			e.byteOut()
		}
		if e.a&0x8000 != 0 {
			return
		}
	}
}

// encodeZeros encodes so many zeros in one context, as encode does one by one. While a zero is what is expected and the
// interval stays wide enough, each only makes it narrower.
func (e *arithmeticEncoder) encodeZeros(cx *context, n int) {
	for n > 0 {
		if *cx&1 == 0 {
			qe := states[*cx>>1].qe
			quick := min(uint32(n), (e.a-0x8000)/qe) //nolint:gosec // at most a row
			e.a -= quick * qe
			e.c += quick * qe
			n -= int(quick)
		}
		if n > 0 {
			e.encode(0, cx)
			n--
		}
	}
}

// byteOut moves a byte out of the code register, and makes room for a carry after a
// byte of ones (figure E.8).
func (e *arithmeticEncoder) byteOut() {
	last := &e.out[len(e.out)-1]
	if *last != 0xFF && e.c >= 0x8000000 {
		*last++
		e.c &= 0x7FFFFFF
	}
	if *last == 0xFF {
		e.out = append(e.out, byte(e.c>>20))
		e.c &= 0xFFFFF
		e.count = 7
		return
	}
	e.out = append(e.out, byte(e.c>>19))
	e.c &= 0x7FFFF
	e.count = 8
}

// flush ends the code with its marker (figure E.11) and gives it.
func (e *arithmeticEncoder) flush() []byte {
	most := e.c + e.a
	e.c |= 0xFFFF
	if e.c >= most {
		e.c -= 0x8000
	}
	e.c <<= e.count
	e.byteOut()
	e.c <<= e.count
	e.byteOut()
	if e.out[len(e.out)-1] != 0xFF {
		e.out = append(e.out, 0xFF)
	}
	return append(e.out, 0xAC)[1:]
}

// integerContexts are those of one of the procedures that code integers (annex A).
type integerContexts [512]context

// ranges of magnitudes, with the prefix and the bits that each is coded by (table A.1).
var ranges = []struct {
	from       int
	prefix     uint8
	prefixBits int
	bits       int
}{
	{4436, 0b11111, 5, 32}, {340, 0b11110, 5, 12}, {84, 0b1110, 4, 8}, {20, 0b110, 3, 6}, {4, 0b10, 2, 4}, {0, 0b0, 1, 2},
}

func (e *arithmeticEncoder) integer(v int, contexts *integerContexts) {
	w := integerWriter{e, contexts, 1}
	magnitude := v
	if v < 0 {
		magnitude = -v
		w.bit(1)
	} else {
		w.bit(0)
	}
	for _, r := range ranges {
		if magnitude >= r.from {
			w.bits(uint32(r.prefix), r.prefixBits)
			w.bits(uint32(magnitude-r.from), r.bits) //nolint:gosec // lengths within a page
			return
		}
	}
}

// outOfBand codes the value that ends a list.
func (e *arithmeticEncoder) outOfBand(contexts *integerContexts) {
	w := integerWriter{e, contexts, 1}
	w.bits(0b1000, 4)
}

type integerWriter struct {
	e        *arithmeticEncoder
	contexts *integerContexts
	prev     int
}

func (w *integerWriter) bits(v uint32, n int) {
	for i := n - 1; i >= 0; i-- {
		w.bit(uint8(v >> i & 1))
	}
}

func (w *integerWriter) bit(bit uint8) {
	w.e.encode(bit, &w.contexts[w.prev])
	if w.prev < 256 {
		w.prev = w.prev<<1 | int(bit)
	} else {
		w.prev = (w.prev<<1|int(bit))&511 | 256
	}
}

// symbolID codes the number of a symbol (A.3).
func (e *arithmeticEncoder) symbolID(id, bits int, contexts []context) {
	prev := 1
	for i := bits - 1; i >= 0; i-- {
		bit := uint8(id >> i & 1) //nolint:gosec // one bit
		e.encode(bit, &contexts[prev])
		prev = prev<<1 | int(bit)
	}
}
