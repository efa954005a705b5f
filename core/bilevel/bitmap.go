package bilevel

import (
	"encoding/binary"
	"image"
	"iter"
	"math/bits"
)

// Bitmap is a one-bit image. A 1 bit is black; rows are packed from the most
// significant bit and begin on a byte. Bits beyond Width are 0.
type Bitmap struct {
	Width, Height int
	Stride        int // bytes per row
	Bits          []byte
}

// New returns a white bitmap.
func New(width, height int) *Bitmap {
	stride := (width + 7) / 8
	return &Bitmap{Width: width, Height: height, Stride: stride, Bits: make([]byte, stride*height)}
}

// Row is the packed bits of row y.
func (b *Bitmap) Row(y int) []byte { return b.Bits[y*b.Stride : (y+1)*b.Stride] }

// Black tells the colour of a pixel.
func (b *Bitmap) Black(x, y int) bool { return b.Bits[y*b.Stride+x>>3]&(0x80>>(x&7)) != 0 }

// Blacks gives the places of the black pixels in a row, from left to right.
func (b *Bitmap) Blacks(y int) iter.Seq[int] {
	return func(yield func(int) bool) {
		for at, some := range b.Row(y) {
			for ; some != 0; some &^= 0x80 >> bits.LeadingZeros8(some) {
				if !yield(8*at + bits.LeadingZeros8(some)) {
					return
				}
			}
		}
	}
}

// Set makes a pixel black.
func (b *Bitmap) Set(x, y int) { b.Bits[y*b.Stride+x>>3] |= 0x80 >> (x & 7) }

// Fill makes the pixels of a rectangle black, which is within the bitmap.
func (b *Bitmap) Fill(area image.Rectangle) {
	for y := area.Min.Y; y < area.Max.Y; y++ {
		fill(b.Row(y), area.Min.X, area.Max.X)
	}
}

// Invert swaps black and white.
func (b *Bitmap) Invert() {
	for i := range b.Bits {
		b.Bits[i] = ^b.Bits[i]
	}
	b.clearPadding()
}

func (b *Bitmap) clearPadding() {
	if b.Width%8 == 0 {
		return
	}
	mask := byte(0xFF) << (8 - b.Width%8)
	for i := b.Stride - 1; i < len(b.Bits); i += b.Stride {
		b.Bits[i] &= mask
	}
}

// IsOneBit tells whether a picture is of black and white alone.
func IsOneBit(img *image.Gray) bool {
	for y := range img.Rect.Dy() {
		for _, v := range img.Pix[y*img.Stride:][:img.Rect.Dx()] {
			if v != 0 && v != 255 {
				return false
			}
		}
	}
	return true
}

// FromGray makes a bitmap of a picture's darker pixels: those below the middle grey.
func FromGray(img *image.Gray) *Bitmap {
	b := New(img.Rect.Dx(), img.Rect.Dy())
	for y := range b.Height {
		row, pixels := b.Row(y), img.Pix[y*img.Stride:][:b.Width]
		for i := range b.Width / 8 {
			row[i] = ^highBits(binary.BigEndian.Uint64(pixels[8*i:]))
		}
		for x := b.Width &^ 7; x < b.Width; x++ {
			row[x>>3] |= (^pixels[x] & 0x80) >> (x & 7)
		}
	}
	return b
}

// highBits gives the high bits of eight bytes, the first one's first. Each byte is moved to another place of the top byte
// of the product, and no two to the same place anywhere.
func highBits(eight uint64) byte {
	const highest = 0x80808080_80808080
	return byte(eight & highest >> 7 * 0x01020408_10204080 >> 56)
}

// Gray converts to eight bits a pixel.
func (b *Bitmap) Gray() *image.Gray {
	img := image.NewGray(image.Rect(0, 0, b.Width, b.Height))
	for y := range b.Height {
		row, out := b.Row(y), img.Pix[y*img.Stride:]
		whole := b.Width / 8
		for i, bits := range row[:whole] {
			binary.LittleEndian.PutUint64(out[8*i:], grays[bits])
		}
		for x := 8 * whole; x < b.Width; x++ {
			if row[x>>3]&(0x80>>(x&7)) == 0 {
				out[x] = 0xFF
			}
		}
	}
	return img
}

// grays are the eight pixels of each byte of a row, the leftmost in the lowest byte of a word.
var grays = func() (all [256]uint64) {
	for bits := range all {
		for x := range 8 {
			if bits<<x&0x80 == 0 {
				all[bits] |= 0xFF << (8 * x)
			}
		}
	}
	return all
}()

// nextChange is the first position from x on whose colour is not black, or the
// row's width.
func nextChange(row []byte, x, width int, black bool) int {
	for x < width {
		chunk := row[x>>3]
		if black {
			chunk = ^chunk
		}
		chunk <<= x & 7
		if chunk != 0 {
			return min(x+bits.LeadingZeros8(chunk), width)
		}
		x = (x | 7) + 1
	}
	return width
}

// fill makes the pixels from..to-1 of a row black.
func fill(row []byte, from, to int) {
	for from < to && from&7 != 0 {
		row[from>>3] |= 0x80 >> (from & 7)
		from++
	}
	for ; from+8 <= to; from += 8 {
		row[from>>3] = 0xFF
	}
	for ; from < to; from++ {
		row[from>>3] |= 0x80 >> (from & 7)
	}
}
