package jpeg

// forward turns a block of samples, row after row and less 128, into coefficients in their natural order,
// times 8 (A.3.3). It is the inverse transform backwards.
func forward(b *block) {
	const (
		round1 = 1 << (fixedBits - passBits - 1)
		shift1 = fixedBits - passBits
		round2 = 1 << (fixedBits + passBits - 1)
		shift2 = fixedBits + passBits
	)
	for y := range 8 {
		row := (*[8]int32)(b[8*y:])
		e0, e1, e2, e3 := row[0]+row[7], row[1]+row[6], row[2]+row[5], row[3]+row[4]
		o1, o3, o5, o7 := forwardOdd(row[3]-row[4], row[2]-row[5], row[1]-row[6], row[0]-row[7])
		z1 := (e1 - e2 + e0 - e3) * c0541
		row[0], row[4] = (e0+e3+e1+e2)<<passBits, (e0+e3-e1-e2)<<passBits
		row[2], row[6] = (z1+(e0-e3)*c0765+round1)>>shift1, (z1-(e1-e2)*c1847+round1)>>shift1
		row[1], row[3], row[5], row[7] = (o1+round1)>>shift1, (o3+round1)>>shift1, (o5+round1)>>shift1, (o7+round1)>>shift1
	}
	const half = 1 << (passBits - 1)
	for x := range 8 {
		e0, e1, e2, e3 := b[x]+b[56+x], b[8+x]+b[48+x], b[16+x]+b[40+x], b[24+x]+b[32+x]
		o1, o3, o5, o7 := forwardOdd(b[24+x]-b[32+x], b[16+x]-b[40+x], b[8+x]-b[48+x], b[x]-b[56+x])
		z1 := (e1 - e2 + e0 - e3) * c0541
		b[x], b[32+x] = (e0+e3+e1+e2+half)>>passBits, (e0+e3-e1-e2+half)>>passBits
		b[16+x], b[48+x] = (z1+(e0-e3)*c0765+round2)>>shift2, (z1-(e1-e2)*c1847+round2)>>shift2
		b[8+x], b[24+x], b[40+x], b[56+x] = (o1+round2)>>shift2, (o3+round2)>>shift2, (o5+round2)>>shift2, (o7+round2)>>shift2
	}
}

// forwardOdd gives coefficients 1, 3, 5 and 7 of the differences of the samples 3 and 4, 2 and 5, 1 and 6,
// 0 and 7.
func forwardOdd(t4, t5, t6, t7 int32) (o1, o3, o5, o7 int32) {
	z1, z2, z3, z4 := t4+t7, t5+t6, t4+t6, t5+t7
	z5 := (z3 + z4) * c1175
	z1 *= -c0899
	z2 *= -c2562
	z3 = z3*-c1961 + z5
	z4 = z4*-c0390 + z5
	return t7*c1501 + z1 + z4, t6*c3072 + z2 + z3, t5*c2053 + z2 + z4, t4*c0298 + z1 + z3
}
