package jpeg

// zigzag is where the coefficients of a block belong that come one after another (figure A.6). Those
// behind the last are for broken data.
var zigzag = [64 + 16]byte{
	0, 1, 8, 16, 9, 2, 3, 10,
	17, 24, 32, 25, 18, 11, 4, 5,
	12, 19, 26, 33, 40, 48, 41, 34,
	27, 20, 13, 6, 7, 14, 21, 28,
	35, 42, 49, 56, 57, 50, 43, 36,
	29, 22, 15, 23, 30, 37, 44, 51,
	58, 59, 52, 45, 38, 31, 39, 46,
	53, 60, 61, 54, 47, 55, 62, 63,
	63, 63, 63, 63, 63, 63, 63, 63,
	63, 63, 63, 63, 63, 63, 63, 63,
}

// scan is a scan's header (B.2.3), and how far it has come.
type scan struct {
	components  []*component
	first, last int // of the coefficients, in zigzag order
	high, low   int // bits that were there before, and that are left for later (G.1.2.1)
	units       int // that were decoded, or passed over
	whole       int // that were decoded before the first that is broken
	all         int
	across      int // units in a row
	rows        int // of pixels in a row of units
}

// scan decodes a scan.
func (d *decoder) scan(header []byte) error {
	if d.frame == nil {
		return FormatError("its picture comes before it is said what it is")
	}
	s, err := d.readScan(header)
	if err != nil {
		return err
	}
	if d.scans++; d.scans > mostScans {
		return FormatError("it has too many scans")
	}
	d.current = s
	if d.scans == 1 {
		d.keeps = d.frame.isProgressive || d.coefficientsOnly
		d.allocate()
	}
	return d.decodeScan()
}

func (d *decoder) readScan(header []byte) (s scan, err error) {
	wrong := FormatError("a scan makes no sense")
	if len(header) < 1 || len(header) < 4+2*int(header[0]) || header[0] == 0 || header[0] > mostComponents {
		return s, wrong
	}
	n := int(header[0])
	blocks := 0
	for i := range n {
		c := d.frame.find(header[1+2*i])
		if c == nil {
			return s, wrong
		}
		for _, other := range s.components {
			if other == c {
				return s, wrong
			}
		}
		c.dcTable, c.acTable = header[2+2*i]>>4, header[2+2*i]&15
		if c.dcTable > 3 || c.acTable > 3 {
			return s, wrong
		}
		blocks += c.h * c.v
		s.components = append(s.components, c)
	}
	s.last = 63
	if d.frame.isProgressive {
		s.first, s.last = int(header[1+2*n]), int(header[2+2*n])
		s.high, s.low = int(header[3+2*n]>>4), int(header[3+2*n]&15)
		if s.first > s.last || s.last > 63 || s.first == 0 && s.last != 0 || s.first > 0 && n > 1 || s.high > 13 || s.low > 13 ||
			s.high != 0 && s.high != s.low+1 {
			return s, wrong
		}
	}
	if n > 1 && blocks > mostUnitBlocks {
		return s, wrong
	}
	if n == 1 {
		c := s.components[0]
		s.across, s.all, s.rows = c.ownWide, c.ownWide*c.ownHigh, 8*d.frame.mostV/c.v
	} else {
		s.across, s.all, s.rows = d.frame.wide, d.frame.wide*d.frame.high, 8*d.frame.mostV
	}
	s.whole = s.all
	return s, nil
}

// mostUnitBlocks is how many blocks a unit of several components has at most (B.2.3).
const mostUnitBlocks = 10

// unitBlocks is how many blocks a unit of all components has.
func (f *frame) unitBlocks() (blocks int) {
	for _, c := range f.components {
		blocks += c.h * c.v
	}
	return blocks
}

func (f *frame) find(id byte) *component {
	for i := range f.components {
		if f.components[i].id == id {
			return &f.components[i]
		}
	}
	return nil
}

// allocate makes room for samples, and for coefficients where they are kept.
func (d *decoder) allocate() {
	for i := range d.frame.components {
		c := &d.frame.components[i]
		c.stride = c.wide * int(d.scale)
		c.samples = make([]byte, c.stride*c.high*int(d.scale))
		for at := range c.samples {
			c.samples[at] = middle
		}
		if d.keeps {
			c.coefficients = make([]int16, 64*c.wide*c.high)
		}
	}
}

// block is the coefficients of a block, in zigzag order.
func (c *component) block(x, y int) *[64]int16 { return (*[64]int16)(c.coefficients[64*(y*c.wide+x):]) }

// checkTables tells whether the tables are there that a component of a scan is decoded with.
func (d *decoder) checkTables(c *component) error {
	dc, ac := d.huffman[0][c.dcTable], d.huffman[1][c.acTable]
	needsDC := d.current.first == 0 && d.current.high == 0
	if needsDC && dc == nil || d.current.last > 0 && ac == nil || d.quants[c.quants] == nil {
		return FormatError("tables are missing")
	}
	return nil
}

// decodeScan decodes the data of a scan, interval after interval.
func (d *decoder) decodeScan() error {
	s := &d.current
	for _, c := range s.components {
		if err := d.checkTables(c); err != nil {
			return err
		}
		c.came = true
	}
	r := bitReader{data: d.data, at: d.at}
	expected := 0
	var broken error
	breaks := func(err error) {
		s.whole = min(s.whole, s.units)
		if broken == nil {
			broken = err
		}
	}
	for s.units < s.all {
		run := s.all - s.units
		if d.interval > 0 {
			run = min(run, d.interval)
		}
		end := s.units + run
		if err := d.decodeRun(&r, end); err != nil {
			breaks(err)
			if d.interval == 0 {
				break
			}
			s.units = end
		}
		if s.units == s.all {
			break
		}
		skipped, found := r.restart(expected)
		if !found {
			breaks(errEnded)
			break
		}
		if skipped > 0 {
			breaks(errCode)
			s.units = min(s.all, s.units+skipped*d.interval)
		}
		expected = (expected + 1 + skipped) & 7
	}
	d.at = r.at
	return broken
}

// restart goes to the restart marker of a number, or to the next one where that is lost, and tells how
// many intervals were skipped for it.
func (r *bitReader) restart(expected int) (skipped int, found bool) {
	r.align()
	for ; r.at+1 < len(r.data); r.at++ {
		if r.data[r.at] != 0xFF {
			continue
		}
		marker := r.data[r.at+1]
		if marker == 0 || marker == 0xFF {
			continue
		}
		if marker < firstRestart || marker > lastRestart {
			return 0, false
		}
		r.at += 2
		return (int(marker-firstRestart) - expected + 8) & 7, true
	}
	return 0, false
}

// decodeRun decodes units up to an end, where a restart marker or the end of the scan is.
func (d *decoder) decodeRun(r *bitReader, end int) (err error) {
	s := &d.current
	d.eobRun = 0
	for _, c := range s.components {
		c.dc = 0
	}
	for ; s.units < end; s.units++ {
		if len(s.components) == 1 {
			err = d.decodeBlock(r, s.components[0], s.units%s.across, s.units/s.across)
		} else {
			err = d.decodeUnit(r, s.units%s.across, s.units/s.across)
		}
		if err == nil && r.ended() {
			err = errEnded
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// decodeUnit decodes the blocks of all components that belong together.
func (d *decoder) decodeUnit(r *bitReader, x, y int) error {
	for _, c := range d.current.components {
		for v := range c.v {
			for h := range c.h {
				if err := d.decodeBlock(r, c, x*c.h+h, y*c.v+v); err != nil {
					return err
				}
			}
		}
	}
	return nil
}

func (d *decoder) decodeBlock(r *bitReader, c *component, x, y int) error {
	if !d.keeps {
		return d.decodeWhole(r, c, x, y)
	}
	kept := c.block(x, y)
	if d.frame.isProgressive {
		return d.decodePart(r, c, kept)
	}
	return d.decodeKept(r, c, kept)
}

// decodeWhole decodes a block that comes in one scan (F.2.2).
func (d *decoder) decodeWhole(r *bitReader, c *component, x, y int) error {
	var b block
	quants := d.quants[c.quants]
	difference, err := d.huffman[0][c.dcTable].dcDifference(r)
	if err != nil {
		return err
	}
	c.dc += difference
	b[0] = c.dc * int32(quants[0])
	last, err := d.huffman[1][c.acTable].decodeAC(r, &b, quants)
	if err != nil {
		return err
	}
	n := int(d.scale)
	c.write(&b, last, n, c.samples[y*n*c.stride+x*n:])
	return nil
}

// unquantised has coefficients be kept as they are in the file.
var unquantised = func() (ones [64]uint16) {
	for i := range ones {
		ones[i] = 1
	}
	return ones
}()

// decodeKept decodes a block that comes in one scan, and keeps its coefficients.
func (d *decoder) decodeKept(r *bitReader, c *component, kept *[64]int16) error {
	var b block
	difference, err := d.huffman[0][c.dcTable].dcDifference(r)
	if err != nil {
		return err
	}
	c.dc += difference
	b[0] = c.dc
	if _, err = d.huffman[1][c.acTable].decodeAC(r, &b, &unquantised); err != nil {
		return err
	}
	for k := range kept {
		kept[k] = int16(b[zigzag[k]]) //nolint:gosec // of at most 15 bits, unless the data are broken
	}
	return nil
}

// dcDifference decodes how the first coefficient differs from that of the block before (F.2.2.1).
func (h *huffman) dcDifference(r *bitReader) (int32, error) {
	r.fill()
	e := h.look[r.bits>>(64-lookBits)]
	if e.isWhole() && e.symbol() <= 15 {
		r.bits <<= e.length()
		r.n -= e.length()
		return e.value(), nil
	}
	size, err := h.symbol(r)
	if err != nil {
		return 0, err
	}
	if size > 15 {
		return 0, errCode
	}
	return int32(r.signed(int(size))), nil
}

// decodeAC decodes the coefficients of a block behind the first (F.2.2.2), and gives the place of the
// last that is not 0, in zigzag order.
func (h *huffman) decodeAC(r *bitReader, b *block, quants *[64]uint16) (last int, err error) {
	for k := 1; k < 64; k++ {
		if r.n < enough {
			r.fill()
		}
		e := h.look[r.bits>>(64-lookBits)]
		if e.isWhole() {
			length := e.length() & 31
			r.bits <<= length
			r.n -= length
			k += e.skipped()
			if k > 63 {
				return last, errCode
			}
			last = k
			b[zigzag[k]&63] = e.value() * int32(quants[k])
			continue
		}
		symbol, err := h.symbol(r)
		if err != nil {
			return last, err
		}
		size := int(symbol & 15)
		if size == 0 {
			if symbol != sixteenZeros {
				return last, nil
			}
			k += 15
			continue
		}
		if k += int(symbol >> 4); k > 63 {
			return last, errCode
		}
		last = k
		b[zigzag[k]&63] = int32(r.signed(size)) * int32(quants[k])
	}
	return last, nil
}

// write writes a block's samples, of which there are size × size.
func (c *component) write(b *block, last, size int, out []byte) {
	switch {
	case last == 0 || size == 1:
		fillFlat(b[0], size, out, c.stride)
	case size == 8:
		inverse8(b, out, c.stride)
	case size == 4:
		inverse4(b, out, c.stride)
	default:
		inverse2(b, out, c.stride)
	}
}
