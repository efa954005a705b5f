package jbig2

import (
	"bytes"
	"cmp"
	"encoding/binary"
	"image"
	"math/bits"
	"runtime"
	"slices"
	"sync"

	"dorbin/core/bilevel"
)

// What may be a symbol, in pixels: at 300 dpi, letters up to a centimetre. Smaller marks
// cost less where they are.
const (
	largestSymbol  = 128
	smallestSymbol = 16 // area
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

func (s shape) black(x, y int) bool { return s.rows[y][x>>6]&(1<<(63-x&63)) != 0 }

func (s shape) isSame(o shape) bool { return s.width == o.width && slices.Equal(s.rows, o.rows) }

// symbol is a shape that several components have, exactly or nearly.
type symbol struct {
	shape
	grid   grid
	uses   int
	room   sides           // by which its instances are more than the shape
	bitmap *bilevel.Bitmap // the shape, with the room around it
	number int             // in the dictionary
}

// sides are lengths at the sides of a box, in pixels.
type sides struct{ left, top, right, bottom int }

// instance is a component of a page, and the symbol that it is written as. Without one it stays where it is.
type instance struct {
	component bilevel.Component
	shape     shape
	match
	nearest []match // symbols that could be it
}

func newInstance(c bilevel.Component) instance { return instance{component: c, shape: shapeOf(c)} }

// symbolBox is where the symbol lies on the page, without its room.
func (i instance) symbolBox() image.Rectangle {
	left, bottom := i.component.Box.Min.X+i.right, i.component.Box.Max.Y+i.below
	return image.Rect(left, bottom-i.symbol.height, left+i.symbol.width, bottom)
}

// box is where the symbol lies with its room, in which the component is whole.
func (i instance) box() image.Rectangle {
	box, room := i.symbolBox(), i.symbol.room
	return image.Rect(box.Min.X-room.left, box.Min.Y-room.top, box.Max.X+room.right, box.Max.Y+room.bottom)
}

// bitmap is the component in its box.
func (i instance) bitmap() *bilevel.Bitmap { return i.component.BitmapIn(i.box()) }

// inOrder are the symbols in the order of the dictionary: by height, then by width. They are drawn with their room, and
// numbered.
func (s *symbolSet) inOrder() []*symbol {
	ordered := slices.Clone(s.all)
	for _, symbol := range ordered {
		symbol.draw()
	}
	slices.SortStableFunc(ordered, func(a, b *symbol) int {
		return cmp.Or(a.bitmap.Height-b.bitmap.Height, a.bitmap.Width-b.bitmap.Width)
	})
	for i, symbol := range ordered {
		symbol.number = i
	}
	return ordered
}

func (s *symbol) draw() {
	r := s.room
	s.bitmap = s.bitmapAt(r.left+s.width+r.right, r.top+s.height+r.bottom, r.left, r.top)
}

// bitmapAt is the shape in a bitmap of a size, at a place.
func (s shape) bitmapAt(width, height, left, top int) *bilevel.Bitmap {
	b := bilevel.New(width, height)
	for y := range s.height {
		for x := range s.width {
			if s.black(x, y) {
				b.Set(left+x, top+y)
			}
		}
	}
	return b
}

// dictionaryTemplateAt is where the number of the template is in the first byte of the flags of a dictionary.
const dictionaryTemplateAt = 2

// dictionary is the data of a symbol dictionary segment (7.4.2, 6.5).
func dictionary(symbols []*symbol) []byte {
	data := []byte{fewer.number << dictionaryTemplateAt, 0} // arithmetic coding
	data = append(data, fewer.adaptive()...)
	for range 2 { // all are exported, and all are new
		data = binary.BigEndian.AppendUint32(data, uint32(len(symbols))) //nolint:gosec // fewer than components
	}
	e := newArithmeticEncoder()
	contexts := fewer.contexts()
	var heights, widths, exports integerContexts
	height, width := 0, 0
	for i, s := range symbols {
		if i == 0 || s.bitmap.Height != height {
			if i > 0 {
				e.outOfBand(&widths)
			}
			e.integer(s.bitmap.Height-height, &heights)
			height, width = s.bitmap.Height, 0
		}
		e.integer(s.bitmap.Width-width, &widths)
		width = s.bitmap.Width
		e.generic(s.bitmap, &fewer, contexts, false)
	}
	e.outOfBand(&widths)
	e.integer(0, &exports) // none is left out …
	e.integer(len(symbols), &exports)
	return append(data, e.flush()...)
}

const (
	logStripAt = 2 // where it is in the flags of a text region

	logStrip = 1 // instances are ordered by strips of so many rows (as a power of two)
	strip    = 1 << logStrip
)

// textRegion is the data of a text region segment (7.4.3, 6.4): the instances of a page,
// each by its bottom left.
func textRegion(b *bilevel.Bitmap, instances []instance, symbols int) []byte {
	const refining, template1 = 1 << 1, 1 << 15 // the reference corner is the bottom left
	data := region(b)
	data = binary.BigEndian.AppendUint16(data, refining|logStrip<<logStripAt|template1)
	data = binary.BigEndian.AppendUint32(data, uint32(len(instances))) //nolint:gosec // fewer than pixels
	slices.SortStableFunc(instances, func(a, b instance) int {
		return cmp.Or(a.strip()-b.strip(), a.box().Min.X-b.box().Min.X)
	})
	w := newTextWriter(symbols)
	return append(data, w.write(instances)...)
}

// bottom is the lowest row of the instance's box.
func (i instance) bottom() int { return i.box().Max.Y - 1 }

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
		left := in.box().Min.X
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
		w.after = left + in.symbol.bitmap.Width - 1
	}
	w.outOfBand(&w.ds)
	return w.flush()
}

// shape codes whether an instance is its symbol, and if not, how it differs (6.4.11). It is as large, and in the same place.
func (w *textWriter) shape(in instance) {
	bitmap := in.bitmap()
	if bytes.Equal(bitmap.Bits, in.symbol.bitmap.Bits) {
		w.integer(0, &w.ri)
		return
	}
	w.integer(1, &w.ri)
	for _, contexts := range []*integerContexts{&w.rdw, &w.rdh, &w.rdx, &w.rdy} {
		w.integer(0, contexts)
	}
	w.refine(bitmap, in.symbol.bitmap, 0, 0, w.refinement)
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

// Encode encodes pages: together, so that what comes again, on one page or on several, is stored once; or each on its own,
// where that is shorter.
func Encode(pages []*bilevel.Bitmap) Pages {
	together, saved := encodeTogether(pages)
	if saved > together.Bytes()/10 {
		return together // far from what each would take on its own
	}
	if alone := encodeEach(pages); alone.Bytes() <= together.Bytes() {
		return alone
	}
	return together
}

func encodeEach(pages []*bilevel.Bitmap) Pages {
	out := Pages{Pages: make([][]byte, len(pages))}
	onAllCores(len(pages), func(i int) { out.Pages[i] = EncodePage(pages[i]) })
	return out
}

// encodeTogether also tells how many bytes the symbols save, about.
func encodeTogether(pages []*bilevel.Bitmap) (out Pages, saved int) {
	found := make([][]instance, len(pages))
	onAllCores(len(pages), func(i int) {
		for _, c := range pages[i].Components() {
			if size := c.Box.Size(); c.Area >= smallestSymbol && max(size.X, size.Y) <= largestSymbol {
				found[i] = append(found[i], newInstance(c))
			}
		}
	})
	set := symbolsOf(found)
	symbols := set.inOrder()
	out.Pages = make([][]byte, len(pages))
	if len(symbols) > 0 {
		out.Shared = segment(nil, 0, symbolDictionary, 0, nil, dictionary(symbols))
	}
	onAllCores(len(pages), func(i int) {
		instances := slices.DeleteFunc(found[i], func(in instance) bool { return in.symbol == nil })
		out.Pages[i] = encodeWith(pages[i], instances, len(symbols))
	})
	return out, int(set.saves / oneBit / 8)
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
