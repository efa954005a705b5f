package jpeg

import (
	"encoding/binary"
	"math/bits"
)

// writer writes a progressive JPEG of coefficients.
type writer struct {
	out   []byte
	frame *frame

	// of the scan that is written
	tokens  []token
	counts  [2][257]int // of symbols, of DC and of other coefficients
	eobRun  int         // blocks that ended where they are
	delayed []byte      // bits that follow the end of that run
}

// token is a symbol with the bits that follow it, or bits alone.
type token struct {
	bits   uint32
	n      uint8
	symbol uint8
	class  uint8
}

// alone is the class of tokens without a symbol.
const alone = 2

// segment begins a segment of so many bytes without its length.
func (w *writer) segment(marker byte, length int) {
	w.out = append(w.out, 0xFF, marker)
	w.out = binary.BigEndian.AppendUint16(w.out, uint16(length+2)) //nolint:gosec // ours are short
}

func (w *writer) frameHeader() {
	f := w.frame
	w.segment(progressive, 6+3*len(f.components))
	w.out = append(w.out, 8)
	w.out = binary.BigEndian.AppendUint16(w.out, uint16(f.height)) //nolint:gosec // as it was read
	w.out = binary.BigEndian.AppendUint16(w.out, uint16(f.width))  //nolint:gosec // as it was read
	w.out = append(w.out, byte(len(f.components)))
	for _, c := range f.components {
		w.out = append(w.out, c.id, byte(c.h<<4|c.v), c.quants)
	}
}

// scan writes a scan, with tables for its symbols.
func (w *writer) scan(p pass) {
	w.tokens, w.counts = w.tokens[:0], [2][257]int{}
	if p.first == 0 {
		w.tellDC(p)
	} else {
		c := &w.frame.components[p.components[0]]
		for y := range c.ownHigh {
			for x := range c.ownWide {
				b := c.block(x, y)
				if p.high == 0 {
					w.tellFirst(p, b)
				} else {
					w.tellFiner(p, b)
				}
			}
		}
		w.endRun()
	}
	codes := w.tables()
	w.scanHeader(p)
	w.data(&codes)
}

func (w *writer) scanHeader(p pass) {
	w.segment(startOfScan, 4+2*len(p.components))
	w.out = append(w.out, byte(len(p.components)))
	for _, c := range p.components {
		w.out = append(w.out, w.frame.components[c].id, 0)
	}
	w.out = append(w.out, byte(p.first), byte(p.last), byte(p.high<<4|p.low))
}

// tellDC tells the first coefficients of all components, or a further bit of them, in units.
func (w *writer) tellDC(p pass) {
	f := w.frame
	tell := func(c *component, b *[64]int16) {
		value := int32(b[0]) >> p.low
		if p.high > 0 {
			w.tokens = append(w.tokens, token{bits: uint32(value) & 1, n: 1, class: alone})
			return
		}
		size, following := sized(value - c.dc)
		c.dc = value
		w.symbol(0, byte(size), following, size)
	}
	for i := range f.components {
		f.components[i].dc = 0
	}
	if len(p.components) == 1 {
		c := &f.components[0]
		for y := range c.ownHigh {
			for x := range c.ownWide {
				tell(c, c.block(x, y))
			}
		}
		return
	}
	for y := range f.high {
		for x := range f.wide {
			for i := range f.components {
				c := &f.components[i]
				for v := range c.v {
					for h := range c.h {
						tell(c, c.block(x*c.h+h, y*c.v+v))
					}
				}
			}
		}
	}
}

// sized gives how many bits a number has, and the bits that tell it (F.1.2.1).
func sized(value int32) (size int, following uint32) {
	if value < 0 {
		size = bits.Len32(uint32(-value))
		return size, uint32(value-1) & (1<<size - 1) //nolint:gosec // its lowest bits
	}
	return bits.Len32(uint32(value)), uint32(value)
}

func (w *writer) symbol(class, symbol byte, following uint32, n int) {
	w.counts[class][symbol]++
	w.tokens = append(w.tokens, token{following, uint8(n), symbol, class}) //nolint:gosec // at most 16
}

// sixteenZeros is the symbol of so many coefficients that are 0, before one that is not.
const sixteenZeros = 0xF0

// tellFirst tells the highest bits of a block's coefficients (G.1.2.2).
func (w *writer) tellFirst(p pass, b *[64]int16) {
	zeros := 0
	for k := p.first; k <= p.last; k++ {
		value := int32(b[k])
		if value < 0 {
			value = -(-value >> p.low)
		} else {
			value >>= p.low
		}
		if value == 0 {
			zeros++
			continue
		}
		w.endRun()
		for ; zeros > 15; zeros -= 16 {
			w.symbol(1, sixteenZeros, 0, 0)
		}
		size, following := sized(value)
		w.symbol(1, byte(zeros<<4|size), following, size)
		zeros = 0
	}
	if zeros > 0 {
		w.addToRun(nil)
	}
}

// tellFiner tells a further bit of a block's coefficients (G.1.2.3).
func (w *writer) tellFiner(p pass, b *[64]int16) {
	var values [64]int32
	lastNew := 0
	for k := p.first; k <= p.last; k++ {
		if values[k] = abs(int32(b[k])) >> p.low; values[k] == 1 {
			lastNew = k
		}
	}
	zeros := 0
	var finer []byte // bits of those that were there before
	for k := p.first; k <= p.last; k++ {
		if values[k] == 0 {
			zeros++
			continue
		}
		for ; zeros > 15 && k <= lastNew; zeros -= 16 {
			w.endRun()
			w.symbol(1, sixteenZeros, 0, 0)
			w.bitsAlone(finer)
			finer = finer[:0]
		}
		if values[k] > 1 {
			finer = append(finer, byte(values[k]&1))
			continue
		}
		w.endRun()
		sign := uint32(1)
		if b[k] < 0 {
			sign = 0
		}
		w.symbol(1, byte(zeros<<4|1), sign, 1)
		w.bitsAlone(finer)
		finer, zeros = finer[:0], 0
	}
	if zeros > 0 || len(finer) > 0 {
		w.addToRun(finer)
	}
}

const (
	longestRun  = 1<<15 - 1
	mostDelayed = 1000
)

// addToRun adds a block to the run of those that end, with bits that follow the run.
func (w *writer) addToRun(finer []byte) {
	w.eobRun++
	w.delayed = append(w.delayed, finer...)
	if w.eobRun == longestRun || len(w.delayed) > mostDelayed {
		w.endRun()
	}
}

// endRun tells how long a run of blocks that end is.
func (w *writer) endRun() {
	if w.eobRun == 0 {
		return
	}
	n := bits.Len(uint(w.eobRun)) - 1
	w.symbol(1, byte(n<<4), uint32(w.eobRun-1<<n), n)
	w.bitsAlone(w.delayed)
	w.eobRun, w.delayed = 0, w.delayed[:0]
}

// bitsAlone tells bits without a symbol.
func (w *writer) bitsAlone(all []byte) {
	for len(all) > 0 {
		few := all[:min(len(all), 16)]
		t := token{n: uint8(len(few)), class: alone}
		for _, bit := range few {
			t.bits = t.bits<<1 | uint32(bit)
		}
		w.tokens = append(w.tokens, t)
		all = all[len(few):]
	}
}

// code is how a symbol is written.
type code struct {
	bits   uint32
	length int
}

// tables makes and writes the tables of a scan.
func (w *writer) tables() (codes [2][256]code) {
	for class := range codes {
		lengths := lengthsOf(&w.counts[class])
		if lengths == nil {
			continue
		}
		var counts [longestCode]byte
		var symbols []byte
		next := uint32(0)
		for length := 1; length <= longestCode; length++ {
			for symbol, l := range lengths {
				if l == length {
					codes[class][symbol] = code{next, length}
					next++
					counts[length-1]++
					symbols = append(symbols, byte(symbol)) //nolint:gosec // below 256
				}
			}
			next <<= 1
		}
		w.segment(defineHuffman, 1+longestCode+len(symbols))
		w.out = append(w.out, byte(class<<4))
		w.out = append(w.out, counts[:]...)
		w.out = append(w.out, symbols...)
	}
	return codes
}

// data writes the tokens of a scan (F.1.2.3).
func (w *writer) data(codes *[2][256]code) {
	var buffer uint64
	n := 0
	put := func(value uint32, length int) {
		buffer = buffer<<length | uint64(value)
		for n += length; n >= 8; n -= 8 {
			b := byte(buffer >> (n - 8))
			w.out = append(w.out, b)
			if b == 0xFF {
				w.out = append(w.out, 0)
			}
		}
	}
	for _, t := range w.tokens {
		if t.class != alone {
			c := codes[t.class][t.symbol]
			put(c.bits, c.length)
		}
		put(t.bits, int(t.n))
	}
	if n > 0 {
		put(1<<(8-n)-1, 8-n)
	}
}
