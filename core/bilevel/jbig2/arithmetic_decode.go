package jbig2

// arithmeticDecoder is the decoder of annex E.
type arithmeticDecoder struct {
	data  []byte
	at    int
	a, c  uint32
	count int
	ones  int // bytes of ones that were taken after the end
}

func newArithmeticDecoder(data []byte) *arithmeticDecoder {
	d := &arithmeticDecoder{data: data}
	d.c = uint32(d.byteAt(0)) << 16
	d.byteIn()
	d.c <<= 7
	d.count -= 7
	d.a = 0x8000
	return d
}

// byteAt gives ones after the end, as the marker that ends the code has.
func (d *arithmeticDecoder) byteAt(at int) byte {
	if at < len(d.data) {
		return d.data[at]
	}
	return 0xFF
}

// mostOnes is how many bytes of ones are taken after the end of what is whole: no more than the code register holds.
const mostOnes = 8

// isPastEnd tells whether more was asked for than there is: nothing sensible comes any
// more.
func (d *arithmeticDecoder) isPastEnd() bool { return d.ones > mostOnes }

// byteIn moves a byte into the code register (figure E.19).
func (d *arithmeticDecoder) byteIn() {
	if d.byteAt(d.at) == 0xFF {
		next := d.byteAt(d.at + 1)
		if next > 0x8F {
			d.c += 0xFF00
			d.count = 8
			d.ones++
			return
		}
		d.at++
		d.c += uint32(next) << 9
		d.count = 7
		return
	}
	d.at++
	d.c += uint32(d.byteAt(d.at)) << 8
	d.count = 8
}

func (d *arithmeticDecoder) decode(cx *context) uint8 {
	s := &states[*cx>>1]
	mps := uint8(*cx & 1)
	d.a -= s.qe
	isLess := d.a < s.qe
	var probable bool
	switch {
	case d.c>>16 < s.qe: // the upper part of the interval, which is the less probable one's
		probable = isLess
		d.a = s.qe
	case d.a&0x8000 == 0:
		d.c -= s.qe << 16
		probable = !isLess
	default:
		d.c -= s.qe << 16
		return mps
	}
	bit := mps
	if probable {
		*cx = context(s.nextMPS)<<1 | context(mps)
	} else {
		bit = 1 - mps
		if s.switches {
			mps = 1 - mps
		}
		*cx = context(s.nextLPS)<<1 | context(mps)
	}
	for {
		if d.count == 0 {
			d.byteIn()
		}
		d.a <<= 1
		d.c <<= 1
		d.count--
		if d.a&0x8000 != 0 {
			return bit
		}
	}
}

// decodeZeros decodes zeros, at most so many, for as long as they do no more than make the interval narrower, which leaves
// their context as it is. It tells how many: none, too, where a one is expected.
func (d *arithmeticDecoder) decodeZeros(cx context, most int) int {
	if cx&1 != 0 {
		return 0
	}
	qe := states[cx>>1].qe
	n := min(uint32(most), (d.a-0x8000)/qe, d.c>>16/qe) //nolint:gosec // at most a row
	d.a -= n * qe
	d.c -= n * qe << 16
	return int(n)
}

// integer decodes an integer; ok is false for the value that ends a list (annex A.2).
func (d *arithmeticDecoder) integer(contexts *integerContexts) (v int, ok bool) {
	r := integerReader{d, contexts, 1}
	negative := r.bits(1) == 1
	for i := len(ranges) - 1; i >= 0; i-- {
		if i > 0 && r.bits(1) == 1 {
			continue // not among the smallest that are left
		}
		v = ranges[i].from + r.bits(ranges[i].bits)
		break
	}
	if negative {
		return -v, v != 0
	}
	return v, true
}

type integerReader struct {
	d        *arithmeticDecoder
	contexts *integerContexts
	prev     int
}

func (r *integerReader) bits(n int) (v int) {
	for range n {
		bit := int(r.d.decode(&r.contexts[r.prev]))
		v = v<<1 | bit
		if r.prev < 256 {
			r.prev = r.prev<<1 | bit
		} else {
			r.prev = (r.prev<<1|bit)&511 | 256
		}
	}
	return v
}

func (d *arithmeticDecoder) symbolID(bits int, contexts []context) int {
	prev := 1
	for range bits {
		prev = prev<<1 | int(d.decode(&contexts[prev]))
	}
	return prev - 1<<bits
}
