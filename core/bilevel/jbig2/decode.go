package jbig2

import (
	"bytes"
	"encoding/binary"
	"errors"
	"fmt"
	"image"

	"dorbin/core/bilevel"
)

// ErrDamaged is wrapped by the errors of Decode.
var ErrDamaged = errors.New("the JBIG2 data is damaged, or of a kind that is not written here")

// largestBox is how wide or high a symbol is at most, with its room: its instances are at most a pixel larger, and a pixel
// beside it.
const largestBox = largestSymbol + 4

// mostPixels is how many a page has at most.
const mostPixels = 1 << 28

// Decode reads a page that Encode or EncodePage wrote, with what it shares
// with others. It reads what they write and nothing else: it is there to compare what
// was written with what was meant.
func Decode(shared, data []byte) (*bilevel.Bitmap, error) {
	d := pageDecoder{}
	for _, part := range [][]byte{shared, data} {
		if err := d.segments(part); err != nil {
			return nil, err
		}
	}
	if d.page == nil {
		return nil, fmt.Errorf("%w: there is no page", ErrDamaged)
	}
	return d.page, nil
}

type pageDecoder struct {
	page    *bilevel.Bitmap
	symbols []*bilevel.Bitmap
}

func (d *pageDecoder) segments(data []byte) error {
	for len(data) > 0 {
		kind, body, rest, err := nextSegment(data)
		if err != nil {
			return err
		}
		data = rest
		switch kind {
		case symbolDictionary:
			err = d.dictionary(body)
		case pageInformation:
			d.page, _, err = newBitmap(body)
		case immediateGenericRegion:
			err = d.genericRegion(body)
		case immediateTextRegion:
			err = d.textRegion(body)
		default:
			err = fmt.Errorf("%w: a segment of kind %d", ErrDamaged, kind)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func nextSegment(data []byte) (kind uint8, body, rest []byte, err error) {
	const fixed = 4 + 1 + 1
	if len(data) < fixed {
		return 0, nil, nil, fmt.Errorf("%w: a header breaks off", ErrDamaged)
	}
	refersTo, size := int(data[5]>>5), 1
	if binary.BigEndian.Uint32(data) > 256 {
		size = 2
	}
	at := fixed + refersTo*size + 1
	if len(data) < at+4 {
		return 0, nil, nil, fmt.Errorf("%w: a header breaks off", ErrDamaged)
	}
	length := int(binary.BigEndian.Uint32(data[at:]))
	if at += 4; length > len(data)-at {
		return 0, nil, nil, fmt.Errorf("%w: a segment breaks off", ErrDamaged)
	}
	return data[4], data[at : at+length], data[at+length:], nil
}

// newBitmap makes a bitmap of the size that data begins with.
func newBitmap(data []byte) (b *bilevel.Bitmap, rest []byte, err error) {
	if len(data) < 8 {
		return nil, nil, fmt.Errorf("%w: a size breaks off", ErrDamaged)
	}
	width, height := int(binary.BigEndian.Uint32(data)), int(binary.BigEndian.Uint32(data[4:]))
	b, err = sizedBitmap(width, height)
	return b, data[8:], err
}

func sizedBitmap(width, height int) (*bilevel.Bitmap, error) {
	if width < 1 || height < 1 || width > mostPixels || height > mostPixels/width {
		return nil, fmt.Errorf("%w: a bitmap of %d by %d", ErrDamaged, width, height)
	}
	return bilevel.New(width, height), nil
}

// region gives the data of a region that covers the page, after its header.
func (d *pageDecoder) region(data []byte, header int) ([]byte, error) {
	const place = 8 + 9
	if d.page == nil || len(data) < place+header {
		return nil, fmt.Errorf("%w: a region breaks off", ErrDamaged)
	}
	if int(binary.BigEndian.Uint32(data)) != d.page.Width || int(binary.BigEndian.Uint32(data[4:])) != d.page.Height {
		return nil, fmt.Errorf("%w: a region is not as large as its page", ErrDamaged)
	}
	return data[place:], nil
}

func (d *pageDecoder) genericRegion(data []byte) error {
	data, err := d.region(data, 1)
	if err != nil {
		return err
	}
	t, coded, err := templateOf(data[0]>>templateAt&3, data[1:])
	if err != nil {
		return err
	}
	newArithmeticDecoder(coded).generic(d.page, t, t.contexts(), true)
	return nil
}

// templateOf gives a template by its number, with its first adaptive pixel where data says, and the data after its adaptive
// pixels.
func templateOf(number uint8, data []byte) (*template, []byte, error) {
	for _, t := range []template{more, fewer} {
		if t.number != number || len(data) < len(t.adaptive()) {
			continue
		}
		t.first = image.Pt(int(int8(data[0])), int(int8(data[1]))) //nolint:gosec // they are signed
		adaptive := t.adaptive()
		if t.canBeFirst() && bytes.HasPrefix(data, adaptive) {
			return &t, data[len(adaptive):], nil
		}
	}
	return nil, nil, fmt.Errorf("%w: template %d", ErrDamaged, number)
}

func (d *pageDecoder) dictionary(data []byte) error {
	if len(data) < 2 {
		return fmt.Errorf("%w: a dictionary breaks off", ErrDamaged)
	}
	t, data, err := templateOf(data[0]>>dictionaryTemplateAt&3, data[2:])
	if err != nil {
		return err
	}
	const header = 8
	if len(data) < header {
		return fmt.Errorf("%w: a dictionary breaks off", ErrDamaged)
	}
	count := int(binary.BigEndian.Uint32(data[header-4:]))
	a := newArithmeticDecoder(data[header:])
	contexts := t.contexts()
	var heights, widths integerContexts
	height, pixels := 0, 0
	for len(d.symbols) < count {
		taller, _ := a.integer(&heights)
		height += taller
		for width := 0; ; {
			wider, more := a.integer(&widths)
			if !more {
				break
			}
			width += wider
			b, err := sizedBitmap(width, height)
			if pixels += width * height; err != nil || len(d.symbols) == count || max(width, height) > largestBox || pixels > mostPixels {
				return fmt.Errorf("%w: a symbol of %d by %d", ErrDamaged, width, height)
			}
			a.generic(b, t, contexts, false)
			d.symbols = append(d.symbols, b)
		}
		if a.isPastEnd() {
			return fmt.Errorf("%w: a dictionary breaks off", ErrDamaged)
		}
	}
	return nil
}

func (d *pageDecoder) textRegion(data []byte) error {
	const header = 2 + 4
	data, err := d.region(data, header)
	if err != nil {
		return err
	}
	if len(d.symbols) == 0 {
		return fmt.Errorf("%w: text without symbols", ErrDamaged)
	}
	r := newTextReader(data[header:], d.symbols)
	r.strip = 1 << (data[1] >> logStripAt & 3)
	return r.read(d.page, int(binary.BigEndian.Uint32(data[2:])))
}

// textReader decodes instances (6.4.5).
type textReader struct {
	*arithmeticDecoder
	symbols            []*bilevel.Bitmap
	dt, fs, ds, it, ri integerContexts
	rdw, rdh, rdx, rdy integerContexts
	ids, refinement    []context
	idBits, strip      int
}

func newTextReader(data []byte, symbols []*bilevel.Bitmap) *textReader {
	w := newTextWriter(len(symbols)) // its contexts have the sizes that are needed
	return &textReader{
		arithmeticDecoder: newArithmeticDecoder(data), symbols: symbols, ids: w.ids, refinement: w.refinement, idBits: w.idBits,
	}
}

func (r *textReader) read(page *bilevel.Bitmap, count int) error {
	number := func(contexts *integerContexts) int { v, _ := r.integer(contexts); return v }
	top := -number(&r.dt) * r.strip
	first := 0
	for read := 0; read < count; {
		top += number(&r.dt) * r.strip
		first += number(&r.fs)
		for left := first; ; {
			bottom := top + number(&r.it)
			b, err := r.shape()
			if err != nil {
				return err
			}
			lay(page, b, image.Pt(left, bottom-b.Height+1))
			read++
			further, more := r.integer(&r.ds)
			if r.isPastEnd() {
				return fmt.Errorf("%w: text breaks off", ErrDamaged)
			}
			if !more {
				break
			}
			if read == count {
				return fmt.Errorf("%w: there are more than %d symbols", ErrDamaged, count)
			}
			left += b.Width - 1 + further
		}
	}
	return nil
}

// shape decodes an instance: a symbol, or one that differs from it.
func (r *textReader) shape() (*bilevel.Bitmap, error) {
	id := r.symbolID(r.idBits, r.ids)
	if id >= len(r.symbols) {
		return nil, fmt.Errorf("%w: there is no symbol %d", ErrDamaged, id)
	}
	symbol := r.symbols[id]
	if differs, _ := r.integer(&r.ri); differs == 0 {
		return symbol, nil
	}
	wider, _ := r.integer(&r.rdw)
	higher, _ := r.integer(&r.rdh)
	right, _ := r.integer(&r.rdx)
	down, _ := r.integer(&r.rdy)
	b, err := sizedBitmap(symbol.Width+wider, symbol.Height+higher)
	if err != nil || max(b.Width, b.Height) > largestBox {
		return nil, fmt.Errorf("%w: a refined symbol", ErrDamaged)
	}
	r.refine(b, symbol, wider>>1+right, higher>>1+down, r.refinement)
	return b, nil
}

// lay lays a bitmap over the page at a place.
func lay(page, b *bilevel.Bitmap, at image.Point) {
	for y := max(0, -at.Y); y < min(b.Height, page.Height-at.Y); y++ {
		for x := max(0, -at.X); x < min(b.Width, page.Width-at.X); x++ {
			if b.Black(x, y) {
				page.Set(at.X+x, at.Y+y)
			}
		}
	}
}

// generic decodes a bitmap, as generic codes it.
func (d *arithmeticDecoder) generic(b *bilevel.Bitmap, t *template, contexts []context, sameRowsTold bool) {
	above2, above, row := newPixels(b.Width), newPixels(b.Width), newPixels(b.Width)
	firsts := t.firstRows(b)
	same := false
	for y := range b.Height {
		if sameRowsTold {
			same = same != (d.decode(&contexts[t.sameRow]) == 1)
		}
		if same {
			if y > 0 {
				copy(b.Row(y), b.Row(y-1))
			}
			above2, above, row = above, above.copyTo(row), above2
			continue
		}
		d.genericRow(row, above, above2, firsts.of(y, above), b.Width, t, contexts)
		row.pack(b, y)
		above2, above, row = above, row, above2
	}
}

func (d *arithmeticDecoder) genericRow(row, above, above2, first pixels, width int, t *template, contexts []context) {
	clear(row)
	around := newInkAround(above, above2, first)
	two := uint32(above2[margin])<<1 | uint32(above2[margin+1])
	one := uint32(above[margin])<<1 | uint32(above[margin+1])
	var here uint32
	ofTwo, ofOne, ofHere := t.masks()
	for x := 0; x < width; x++ {
		two = (two<<1 | uint32(above2[margin+x+2])) & ofTwo
		one = (one<<1 | uint32(above[margin+x+2])) & ofOne
		seen := two<<(t.one+1+t.here) | one<<(1+t.here) | uint32(first[margin+x])<<t.here | here
		if seen == 0 {
			if white := d.decodeZeros(contexts[0], around.whiteFrom(x, width)); white > 0 {
				x += white - 1
				continue
			}
		}
		pixel := d.decode(&contexts[seen])
		row[margin+x] = pixel
		here = (here<<1 | uint32(pixel)) & ofHere
	}
}

func (p pixels) pack(b *bilevel.Bitmap, y int) {
	for x := range b.Width {
		if p[margin+x] != 0 {
			b.Set(x, y)
		}
	}
}

// refine decodes a bitmap by template 1, as refine codes it.
func (d *arithmeticDecoder) refine(b, from *bilevel.Bitmap, dx, dy int, contexts []context) {
	r := newRefiner(b, from, dx, dy)
	for y := range b.Height {
		r.beginRow(y)
		for x := range b.Width {
			pixel := d.decode(&contexts[r.context(x)])
			if r.left, r.row[margin+x] = uint32(pixel), pixel; pixel == 1 {
				b.Set(x, y)
			}
		}
	}
}
