package jbig2

import (
	"encoding/binary"

	"dorbin/core/bilevel"
)

// Types of segments (7.3).
const (
	symbolDictionary       = 0
	immediateTextRegion    = 6
	immediateGenericRegion = 38
	pageInformation        = 48
)

const thePage = 1

// segment writes a segment with its header (7.2). A page of 0 is that of what pages
// share.
func segment(out []byte, number uint32, kind uint8, page uint8, refersTo []uint32, data []byte) []byte {
	out = binary.BigEndian.AppendUint32(out, number)
	out = append(out, kind, uint8(len(refersTo))<<5) //nolint:gosec // at most one
	for _, other := range refersTo {
		switch {
		case number <= 256:
			out = append(out, uint8(other)) //nolint:gosec // below number
		default:
			out = binary.BigEndian.AppendUint16(out, uint16(other)) //nolint:gosec // below number
		}
	}
	out = append(out, page)
	out = binary.BigEndian.AppendUint32(out, uint32(len(data))) //nolint:gosec // a page
	return append(out, data...)
}

// page is the data of a page's information segment (7.4.8).
func page(b *bilevel.Bitmap) []byte {
	data := dimensions(b)
	data = append(data, make([]byte, 8)...) // resolution unknown
	return append(data, 1, 0, 0)            // lossless, not striped
}

func dimensions(b *bilevel.Bitmap) []byte {
	data := binary.BigEndian.AppendUint32(nil, uint32(b.Width))  //nolint:gosec // not negative
	return binary.BigEndian.AppendUint32(data, uint32(b.Height)) //nolint:gosec // not negative
}

// region begins the data of a region that covers the page (7.4.1).
func region(b *bilevel.Bitmap) []byte {
	return append(dimensions(b), make([]byte, 9)...) // at the top left, to be laid over what is there
}

// genericRegion is the data of a generic region segment (7.4.6), by the template that makes it shortest.
func genericRegion(b *bilevel.Bitmap) []byte {
	shortest := genericRegionBy(b, &more)
	others := []*template{&fewer}
	if moved := more.moved(b, len(shortest)); moved != nil {
		others = append(others, moved)
	}
	for _, t := range others {
		if other := genericRegionBy(b, t); len(other) < len(shortest) {
			shortest = other
		}
	}
	return shortest
}

const (
	templateAt   = 1 // where the number of the template is in the flags of a generic region
	sameRowsTold = 1 << 3
)

func genericRegionBy(b *bilevel.Bitmap, t *template) []byte {
	data := append(region(b), sameRowsTold|t.number<<templateAt)
	data = append(data, t.adaptive()...)
	e := newArithmeticEncoder()
	e.generic(b, t, t.contexts(), true)
	return append(data, e.flush()...)
}

// EncodePage encodes a bitmap on its own, as one generic region.
func EncodePage(b *bilevel.Bitmap) []byte {
	out := segment(nil, 0, pageInformation, thePage, nil, page(b))
	return segment(out, 1, immediateGenericRegion, thePage, nil, genericRegion(b))
}
