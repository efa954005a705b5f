package jbig2

import (
	"encoding/binary"
	"math/bits"
	"runtime"
	"slices"
	"sync"

	"dorbin/core/bilevel"
)

// What is a symbol, in pixels: at 300 dpi, letters up to a centimetre. Smaller marks
// cost less where they are.
const (
	largestSymbol  = 128
	smallestSymbol = 16 // area
	// Shapes are alike when this share of their pixels, at most, differs. What differs
	// is coded, so this decides about bytes alone.
	unlike = 0.22
)

// shape is a component's pixels, a pair of words each row.
type shape struct {
	width, height, area int
	rows                [][2]uint64
}

func shapeOf(c bilevel.Component) shape {
	s := shape{width: c.Box.Dx(), height: c.Box.Dy(), area: c.Area, rows: make([][2]uint64, c.Box.Dy())}
	for _, r := range c.Runs {
		for x := r.From; x < r.To; x++ {
			s.set(x-c.Box.Min.X, r.Y-c.Box.Min.Y)
		}
	}
	return s
}

func (s shape) set(x, y int) { s.rows[y][x>>6] |= 1 << (63 - x&63) }

// symbol is a shape that several components have, exactly or nearly.
type symbol struct {
	shape
	bitmap *bilevel.Bitmap
	uses   int
	number int // in the dictionary
}

// instance is a component of a page that is written as a symbol.
type instance struct {
	component bilevel.Component
	match
}

// repeated are the symbols that are used more than once, in the order of the
// dictionary: by height, then by width. They are numbered.
func (s *symbolSet) repeated() []*symbol {
	kept := slices.DeleteFunc(slices.Clone(s.all), func(s *symbol) bool { return s.uses < 2 })
	slices.SortStableFunc(kept, func(a, b *symbol) int {
		if a.height != b.height {
			return a.height - b.height
		}
		return a.width - b.width
	})
	for i, symbol := range kept {
		symbol.number = i
	}
	return kept
}

// dictionary is the data of a symbol dictionary segment (7.4.2, 6.5).
func dictionary(symbols []*symbol) []byte {
	data := binary.BigEndian.AppendUint16(nil, 0) // arithmetic coding, template 0
	data = append(data, nominalAT...)
	for range 2 { // all are exported, and all are new
		data = binary.BigEndian.AppendUint32(data, uint32(len(symbols))) //nolint:gosec // fewer than components
	}
	e := newArithmeticEncoder()
	contexts := make([]context, 1<<16)
	var heights, widths, exports integerContexts
	height, width := 0, 0
	for i, s := range symbols {
		if i == 0 || s.height != height {
			if i > 0 {
				e.outOfBand(&widths)
			}
			e.integer(s.height-height, &heights)
			height, width = s.height, 0
		}
		e.integer(s.width-width, &widths)
		width = s.width
		e.generic(s.bitmap, contexts, false)
	}
	e.outOfBand(&widths)
	e.integer(0, &exports) // none is left out …
	e.integer(len(symbols), &exports)
	return append(data, e.flush()...)
}

const (
	logStrip = 3 // instances are ordered by strips of so many rows (as a power of two)
	strip    = 1 << logStrip
)

// textRegion is the data of a text region segment (7.4.3, 6.4): the instances of a page,
// each by its bottom left.
func textRegion(b *bilevel.Bitmap, instances []instance, symbols int) []byte {
	const refining, template1 = 1 << 1, 1 << 15 // the reference corner is the bottom left
	data := region(b)
	data = binary.BigEndian.AppendUint16(data, refining|logStrip<<2|template1)
	data = binary.BigEndian.AppendUint32(data, uint32(len(instances))) //nolint:gosec // fewer than pixels
	slices.SortStableFunc(instances, func(a, b instance) int {
		if a.strip() != b.strip() {
			return a.strip() - b.strip()
		}
		return a.component.Box.Min.X - b.component.Box.Min.X
	})
	w := newTextWriter(symbols)
	return append(data, w.write(instances)...)
}

// bottom is the row of the instance's lowest pixels.
func (i instance) bottom() int { return i.component.Box.Max.Y - 1 }

func (i instance) strip() int { return i.bottom() >> logStrip }

// textWriter codes instances (6.4.5).
type textWriter struct {
	*arithmeticEncoder
	dt, fs, ds, it, ri     integerContexts
	rdw, rdh, rdx, rdy     integerContexts
	ids, refinement        []context
	idBits                 int
	stripNow, first, after int
}

func newTextWriter(symbols int) *textWriter {
	idBits := bits.Len(uint(symbols - 1)) //nolint:gosec // at least one
	return &textWriter{
		arithmeticEncoder: newArithmeticEncoder(), idBits: idBits,
		ids: make([]context, 1<<(idBits+1)), refinement: make([]context, refinementContexts),
	}
}

func (w *textWriter) write(instances []instance) []byte {
	w.integer(0, &w.dt)
	for i, in := range instances {
		left := in.component.Box.Min.X
		switch {
		case i == 0 || in.strip() != instances[i-1].strip():
			if i > 0 {
				w.outOfBand(&w.ds)
			}
			w.integer(in.strip()-w.stripNow, &w.dt)
			w.integer(left-w.first, &w.fs)
			w.stripNow, w.first = in.strip(), left
		default:
			w.integer(left-w.after, &w.ds)
		}
		w.integer(in.bottom()-in.strip()*strip, &w.it)
		w.symbolID(in.symbol.number, w.idBits, w.ids)
		w.shape(in)
		w.after = left + in.component.Box.Dx() - 1
	}
	w.outOfBand(&w.ds)
	return w.flush()
}

// shape codes whether an instance is its symbol, and if not, how it differs (6.4.11).
func (w *textWriter) shape(in instance) {
	if in.exact {
		w.integer(0, &w.ri)
		return
	}
	w.integer(1, &w.ri)
	wider, higher := in.component.Box.Dx()-in.symbol.width, in.component.Box.Dy()-in.symbol.height
	w.integer(wider, &w.rdw)
	w.integer(higher, &w.rdh)
	below := higher + in.below // of the component's top left
	w.integer(in.right-wider>>1, &w.rdx)
	w.integer(below-higher>>1, &w.rdy)
	w.refine(in.component.Bitmap(), in.symbol.bitmap, in.right, below, w.refinement)
}

// Pages are pages that share their symbols.
type Pages struct {
	Shared []byte   // what all of them need; empty when nothing is shared
	Pages  [][]byte // each on its own
}

// Bytes is what all of them weigh.
func (p Pages) Bytes() int {
	n := len(p.Shared)
	for _, page := range p.Pages {
		n += len(page)
	}
	return n
}

// EncodeEach encodes pages on their own.
func EncodeEach(pages []*bilevel.Bitmap) Pages {
	out := Pages{Pages: make([][]byte, len(pages))}
	onAllCores(len(pages), func(i int) { out.Pages[i] = EncodePage(pages[i]) })
	return out
}

// Encode encodes pages together: what comes again, on one page or on several, is stored
// once.
func Encode(pages []*bilevel.Bitmap) Pages {
	found := make([][]instance, len(pages))
	for i, b := range pages {
		for _, c := range b.Components() {
			if size := c.Box.Size(); c.Area >= smallestSymbol && max(size.X, size.Y) <= largestSymbol {
				found[i] = append(found[i], instance{component: c})
			}
		}
	}
	set := averaged(firstSymbols(found), found)
	set.matchAll(found)
	symbols := set.repeated()
	out := Pages{Pages: make([][]byte, len(pages))}
	if len(symbols) > 0 {
		out.Shared = segment(nil, 0, symbolDictionary, 0, nil, dictionary(symbols))
	}
	onAllCores(len(pages), func(i int) {
		instances := slices.DeleteFunc(found[i], func(in instance) bool { return in.symbol.uses < 2 })
		out.Pages[i] = encodeWith(pages[i], instances, len(symbols))
	})
	return out
}

// onAllCores does something so many times, several at once.
func onAllCores(n int, do func(i int)) {
	var all sync.WaitGroup
	free := make(chan struct{}, runtime.GOMAXPROCS(0))
	for i := range n {
		free <- struct{}{}
		all.Go(func() {
			do(i)
			<-free
		})
	}
	all.Wait()
}

// encodeWith writes what is left of a page without its instances, and these over it.
func encodeWith(b *bilevel.Bitmap, instances []instance, symbols int) []byte {
	rest := b.Clone()
	for _, in := range instances {
		rest.Erase(in.component)
	}
	out := segment(nil, 1, pageInformation, thePage, nil, page(b))
	out = segment(out, 2, immediateGenericRegion, thePage, nil, genericRegion(rest))
	if len(instances) == 0 {
		return out
	}
	return segment(out, 3, immediateTextRegion, thePage, []uint32{0}, textRegion(b, instances, symbols))
}
