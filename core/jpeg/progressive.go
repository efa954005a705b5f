package jpeg

// decodePart decodes what a scan of a progressive picture says of a block (annex G).
func (d *decoder) decodePart(r *bitReader, c *component, b *[64]int16) error {
	s := &d.current
	switch {
	case s.first == 0 && s.high == 0:
		difference, err := d.huffman[0][c.dcTable].dcDifference(r)
		if err != nil {
			return err
		}
		c.dc += difference
		b[0] = int16(c.dc << s.low) //nolint:gosec // broken data may overflow
		return nil
	case s.first == 0:
		if r.bit() == 1 {
			b[0] |= 1 << s.low
		}
		return nil
	case s.high == 0:
		return d.decodeFirst(r, d.huffman[1][c.acTable], b)
	}
	return d.refine(r, d.huffman[1][c.acTable], b)
}

// decodeFirst decodes the highest bits of coefficients behind the first (G.1.2.2).
func (d *decoder) decodeFirst(r *bitReader, ac *huffman, b *[64]int16) error {
	if d.eobRun > 0 {
		d.eobRun--
		return nil
	}
	s := &d.current
	for k := s.first; k <= s.last; k++ {
		symbol, err := ac.symbol(r)
		if err != nil {
			return err
		}
		run, size := int(symbol>>4), int(symbol&15)
		if size == 0 {
			if run < 15 {
				d.eobRun = 1<<run - 1 + d.endRun(r, run)
				return nil
			}
			k += 15
			continue
		}
		if k += run; k > s.last {
			return errCode
		}
		b[k] = int16(r.signed(size) << s.low) //nolint:gosec // broken data may overflow
	}
	return nil
}

// endRun takes the bits that say by how much a run of blocks that end is longer than a power of two.
func (d *decoder) endRun(r *bitReader, bits int) int {
	if bits == 0 {
		return 0
	}
	r.fill()
	return r.take(bits)
}

// refine decodes a further bit of coefficients behind the first (G.1.2.3).
func (d *decoder) refine(r *bitReader, ac *huffman, b *[64]int16) error {
	s := &d.current
	k := s.first
	if d.eobRun == 0 {
		for ; k <= s.last; k++ {
			symbol, err := ac.symbol(r)
			if err != nil {
				return err
			}
			run, size := int(symbol>>4), int(symbol&15)
			value := int16(0)
			switch {
			case size == 0 && run < 15:
				d.eobRun = 1<<run + d.endRun(r, run)
			case size == 1:
				if value = -1 << s.low; r.bit() == 1 {
					value = 1 << s.low
				}
			case size != 0:
				return errCode
			}
			if d.eobRun > 0 {
				break
			}
			if k = refineUntil(r, b, k, s.last, run, s.low); k > s.last {
				if value != 0 {
					return errCode
				}
				break
			}
			if value != 0 {
				b[k] = value
			}
		}
	}
	if d.eobRun > 0 {
		d.eobRun--
		refineUntil(r, b, k, s.last, -1, s.low)
	}
	return nil
}

// refineUntil refines coefficients that are not 0, and gives the place of the one that is 0 after so
// many others; all, for -1.
func refineUntil(r *bitReader, b *[64]int16, k, last, zeros, low int) int {
	for ; k <= last; k++ {
		if b[k] == 0 {
			if zeros == 0 {
				return k
			}
			zeros--
			continue
		}
		if r.bit() == 0 {
			continue
		}
		if b[k] > 0 {
			b[k] += 1 << low
		} else {
			b[k] -= 1 << low
		}
	}
	return k
}

// transformKept writes the samples of all blocks whose coefficients were kept.
func (d *decoder) transformKept() {
	n := int(d.scale)
	for i := range d.frame.components {
		c := &d.frame.components[i]
		quants := d.quants[c.quants]
		if quants == nil {
			continue
		}
		for y := range c.high {
			for x := range c.wide {
				kept := c.block(x, y)
				var b block
				last := 0
				for k, value := range kept {
					if value != 0 {
						b[zigzag[k]&63] = int32(value) * int32(quants[k])
						last = k
					}
				}
				c.write(&b, last, n, c.samples[y*n*c.stride+x*n:])
			}
		}
	}
}
