package jpeg

// The inverse transforms of blocks of coefficients in their natural order, which were multiplied by
// their quantisers, to samples (A.3.3). Those of fewer than 8 × 8 samples take the coefficients of the
// lowest frequencies alone, which are those of the smaller picture.

// block is 8 × 8 coefficients, row after row.
type block [64]int32

const (
	fixedBits = 13 // of the constants
	passBits  = 2  // that the first pass leaves for the second
	middle    = 128
)

// Constants of the transform by Loeffler, Ligtenberg and Moschytz (Practical fast 1-D DCT algorithms
// with 11 multiplications, ICASSP 1989, figure 1), times 2^13.
const (
	c0298 = 2446
	c0390 = 3196
	c0541 = 4433
	c0765 = 6270
	c0899 = 7373
	c1175 = 9633
	c1501 = 12299
	c1847 = 15137
	c1961 = 16069
	c2053 = 16819
	c2562 = 20995
	c3072 = 25172
)

// clamp makes a sample of a number.
func clamp(x int32) byte {
	if uint32(x) > 255 {
		if x < 0 {
			return 0
		}
		return 255
	}
	return byte(x)
}

// fillFlat writes a block of one value.
func fillFlat(dc int32, size int, out []byte, stride int) {
	value := clamp((dc+4)>>3 + middle)
	for y := range size {
		row := out[y*stride : y*stride+size]
		for x := range row {
			row[x] = value
		}
	}
}

// odd is the part of the odd coefficients: t0 to t3 are numbers 7, 5, 3 and 1.
func odd(t0, t1, t2, t3 int32) (o0, o1, o2, o3 int32) {
	z1, z2, z3, z4 := t0+t3, t1+t2, t0+t2, t1+t3
	z5 := (z3 + z4) * c1175
	z1 *= -c0899
	z2 *= -c2562
	z3 = z5 - z3*c1961
	z4 = z5 - z4*c0390
	return t0*c0298 + z1 + z3, t1*c2053 + z2 + z4, t2*c3072 + z2 + z3, t3*c1501 + z1 + z4
}

// even is the part of the even coefficients: numbers 0, 2, 4 and 6.
func even(x0, x2, x4, x6 int32) (e0, e1, e2, e3 int32) {
	z1 := (x2 + x6) * c0541
	t2, t3 := z1-x6*c1847, z1+x2*c0765
	t0, t1 := (x0+x4)<<fixedBits, (x0-x4)<<fixedBits
	return t0 + t3, t1 + t2, t1 - t2, t0 - t3
}

// inverse8 writes 8 × 8 samples.
func inverse8(b *block, out []byte, stride int) {
	const (
		round1 = 1 << (fixedBits - passBits - 1)
		shift1 = fixedBits - passBits
		shift2 = fixedBits + passBits + 3
		round2 = 1<<(shift2-1) + middle<<shift2
	)
	for x := range 8 {
		if b[8+x]|b[16+x]|b[24+x]|b[32+x]|b[40+x]|b[48+x]|b[56+x] == 0 {
			dc := b[x] << passBits
			b[x], b[8+x], b[16+x], b[24+x], b[32+x], b[40+x], b[48+x], b[56+x] = dc, dc, dc, dc, dc, dc, dc, dc
			continue
		}
		e0, e1, e2, e3 := even(b[x], b[16+x], b[32+x], b[48+x])
		o0, o1, o2, o3 := odd(b[56+x], b[40+x], b[24+x], b[8+x])
		e0, e1, e2, e3 = e0+round1, e1+round1, e2+round1, e3+round1
		b[x], b[56+x] = (e0+o3)>>shift1, (e0-o3)>>shift1
		b[8+x], b[48+x] = (e1+o2)>>shift1, (e1-o2)>>shift1
		b[16+x], b[40+x] = (e2+o1)>>shift1, (e2-o1)>>shift1
		b[24+x], b[32+x] = (e3+o0)>>shift1, (e3-o0)>>shift1
	}
	for y := range 8 {
		row := (*[8]int32)(b[8*y:])
		samples := (*[8]byte)(out[y*stride:])
		if row[1]|row[2]|row[3]|row[4]|row[5]|row[6]|row[7] == 0 {
			value := clamp((row[0]+1<<(passBits+2))>>(passBits+3) + middle)
			*samples = [8]byte{value, value, value, value, value, value, value, value}
			continue
		}
		e0, e1, e2, e3 := even(row[0], row[2], row[4], row[6])
		o0, o1, o2, o3 := odd(row[7], row[5], row[3], row[1])
		e0, e1, e2, e3 = e0+round2, e1+round2, e2+round2, e3+round2
		samples[0], samples[7] = clamp((e0+o3)>>shift2), clamp((e0-o3)>>shift2)
		samples[1], samples[6] = clamp((e1+o2)>>shift2), clamp((e1-o2)>>shift2)
		samples[2], samples[5] = clamp((e2+o1)>>shift2), clamp((e2-o1)>>shift2)
		samples[3], samples[4] = clamp((e3+o0)>>shift2), clamp((e3-o0)>>shift2)
	}
}

// Of the transform of 4: √2·cos(π/8) and √2·cos(3π/8), times 2^13.
const (
	c1307 = 10703
)

// inverse4 writes 4 × 4 samples.
func inverse4(b *block, out []byte, stride int) {
	const (
		shift1 = fixedBits - passBits
		round1 = 1 << (shift1 - 1)
		shift2 = fixedBits + passBits + 3
		round2 = 1<<(shift2-1) + middle<<shift2
	)
	for x := range 4 {
		e0, e1 := (b[x]+b[16+x])<<fixedBits+round1, (b[x]-b[16+x])<<fixedBits+round1
		o0, o1 := b[8+x]*c1307+b[24+x]*c0541, b[8+x]*c0541-b[24+x]*c1307
		b[x], b[8+x], b[16+x], b[24+x] = (e0+o0)>>shift1, (e1+o1)>>shift1, (e1-o1)>>shift1, (e0-o0)>>shift1
	}
	for y := range 4 {
		row := (*[4]int32)(b[8*y:])
		samples := (*[4]byte)(out[y*stride:])
		e0, e1 := (row[0]+row[2])<<fixedBits+round2, (row[0]-row[2])<<fixedBits+round2
		o0, o1 := row[1]*c1307+row[3]*c0541, row[1]*c0541-row[3]*c1307
		samples[0], samples[1] = clamp((e0+o0)>>shift2), clamp((e1+o1)>>shift2)
		samples[2], samples[3] = clamp((e1-o1)>>shift2), clamp((e0-o0)>>shift2)
	}
}

// inverse2 writes 2 × 2 samples.
func inverse2(b *block, out []byte, stride int) {
	const half = 4 + middle<<3
	top, bottom := b[0]+b[8]+half, b[0]-b[8]+half
	topOdd, bottomOdd := b[1]+b[9], b[1]-b[9]
	out[0], out[1] = clamp((top+topOdd)>>3), clamp((top-topOdd)>>3)
	out[stride], out[stride+1] = clamp((bottom+bottomOdd)>>3), clamp((bottom-bottomOdd)>>3)
}
