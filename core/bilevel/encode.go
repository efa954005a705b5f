package bilevel

// EncodeG4 encodes a bitmap by T.6, ending with its end-of-block code. In PDF
// terms: K below 0, BlackIs1 false.
func EncodeG4(b *Bitmap) []byte {
	var w bitWriter
	reference := make([]byte, b.Stride)
	for y := range b.Height {
		w.encodeRow(b.Row(y), reference, b.Width)
		reference = b.Row(y)
	}
	w.put(endOfLine)
	w.put(endOfLine)
	return w.flush()
}

// encodeRow codes one row against the one above it (T.4, 4.2).
func (w *bitWriter) encodeRow(row, reference []byte, width int) {
	a0, black := 0, false
	start := true // a0 lies before the first pixel
	for a0 < width {
		a1 := nextChange(row, a0, width, black)
		b1, b2 := referenceChanges(reference, a0, width, black, start)
		switch offset := a1 - b1; {
		case b2 < a1:
			w.put(modeCodes[modePass])
			a0 = b2
		case offset >= -3 && offset <= 3:
			w.put(modeCodes[modeVertical+offset])
			a0, black = a1, !black
		default:
			a2 := nextChange(row, a1, width, !black)
			w.put(modeCodes[modeHorizontal])
			w.putRun(a1-a0, black)
			w.putRun(a2-a1, !black)
			a0 = a2
		}
		start = false
	}
}

// referenceChanges finds b1, the first change on the reference row right of a0
// to the colour opposite to the current one, and b2, the next change after it.
// At the start of a row a0 lies before the first pixel, so b1 may be pixel 0.
func referenceChanges(reference []byte, a0, width int, black, start bool) (b1, b2 int) {
	b1 = a0
	if !start || black {
		// Skip the run that a0 is in, if it has the opposite colour already.
		b1 = nextChange(reference, a0, width, !black)
	}
	b1 = nextChange(reference, b1, width, black)
	return b1, nextChange(reference, b1, width, !black)
}

const longestMakeUp = 2560

func (w *bitWriter) putRun(run int, black bool) {
	codes := whiteCodes
	if black {
		codes = blackCodes
	}
	for run > longestMakeUp {
		w.put(codes[longestMakeUp])
		run -= longestMakeUp
	}
	if run >= 64 {
		w.put(codes[run/64*64])
		run %= 64
	}
	w.put(codes[run])
}

type bitWriter struct {
	out   []byte
	bits  uint32
	count int
}

func (w *bitWriter) put(c code) {
	w.bits = w.bits<<c.length | c.bits
	w.count += c.length
	for w.count >= 8 {
		w.count -= 8
		w.out = append(w.out, byte(w.bits>>w.count))
	}
}

func (w *bitWriter) flush() []byte {
	if w.count > 0 {
		w.put(code{length: 8 - w.count})
	}
	return w.out
}
