package raster

import (
	"bytes"
	"encoding/binary"
	"image"
	"slices"

	"dorbin/core/message"
)

// ToneMode is what is made of a page's light and colour.
type ToneMode string

// The tones.
const (
	AsItIs     ToneMode = ""           // nothing is changed
	PaperWhite ToneMode = "white"      // uneven light is flattened, colours stay
	GrayTone   ToneMode = "gray"       // without colours
	BlackWhite ToneMode = "blackWhite" // ink or paper, nothing between
)

// Tone is a page's light and colour. The zero Tone leaves them as they are.
type Tone struct {
	Mode       ToneMode `json:"mode,omitempty" enum:",white,gray,blackWhite"`
	Brightness int      `json:"brightness,omitempty" minimum:"-100" maximum:"100"`
	Contrast   int      `json:"contrast,omitempty" minimum:"-100" maximum:"100"`
}

// IsZero tells whether the tone leaves a page as it is.
func (t Tone) IsZero() bool { return t == Tone{} }

// Check tells what is wrong with a tone.
func (t Tone) Check() error {
	if !slices.Contains([]ToneMode{AsItIs, PaperWhite, GrayTone, BlackWhite}, t.Mode) {
		return message.Errorf("there is no tone %q", t.Mode)
	}
	if max(t.Brightness, t.Contrast) > 100 || min(t.Brightness, t.Contrast) < -100 {
		return message.Errorf("brightness and contrast go from -100 to 100")
	}
	return nil
}

// Apply gives the picture in this tone. Grey and black-and-white come out as
// *image.Gray, the latter with the values 0 and 255 alone.
func (t Tone) Apply(img image.Image) image.Image {
	if t.Mode == GrayTone || t.Mode == BlackWhite {
		img = ToGray(img)
	}
	if t.Mode == PaperWhite || t.Mode == BlackWhite {
		img = whiten(img)
	}
	if t.Mode == BlackWhite {
		img = deepen(img.(*image.Gray))
	}
	if t.Brightness != 0 || t.Contrast != 0 {
		img = throughCurve(img, t.curve())
	}
	if t.Mode == BlackWhite {
		return threshold(img.(*image.Gray))
	}
	return img
}

// curve turns about the middle: full contrast is three times as steep, none
// flat.
func (t Tone) curve() (curve [256]byte) {
	slope := 1 + float64(t.Contrast)/100
	if t.Contrast > 0 {
		slope = 1 + 2*float64(t.Contrast)/100
	}
	for i := range curve {
		v := (float64(i)-127.5)*slope + 127.5 + 1.27*float64(t.Brightness)
		curve[i] = byte(max(0, min(255, v+0.5)))
	}
	return curve
}

func throughCurve(img image.Image, curve [256]byte) image.Image {
	if gray, ok := img.(*image.Gray); ok {
		out := image.NewGray(gray.Rect)
		for i, v := range gray.Pix {
			out.Pix[i] = curve[v]
		}
		return out
	}
	in := ToRGBA(img)
	out := image.NewRGBA(in.Rect)
	for i := 0; i+3 < len(in.Pix); i += 4 {
		out.Pix[i], out.Pix[i+1], out.Pix[i+2], out.Pix[i+3] = curve[in.Pix[i]], curve[in.Pix[i+1]], curve[in.Pix[i+2]], 255
	}
	return out
}

const (
	lightCells   = 56   // along the longer edge, in which the paper's light is measured
	lightFill    = 7    // cells: print and pictures up to twice as large are bridged
	whitePaper   = 264  // what paper becomes, so that its grain is white too
	darkestPaper = 48.0 // what is darker is not lit up
)

// whiten divides a picture by the light that falls on its paper, which it
// measures in cells of the picture: the light is what bright parts of a cell
// have, and cells without bright parts get their neighbours'.
func whiten(img image.Image) image.Image {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	if gray, ok := img.(*image.Gray); ok {
		out := image.NewGray(image.Rect(0, 0, w, h))
		l := measureLight(gray.Pix, gray.Stride, 1, 0, w, h)
		l.divide(out.Pix, gray.Pix, out.Stride, gray.Stride, 1, 0, w, h)
		return out
	}
	in := ToRGBA(img)
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	for i := 3; i < len(out.Pix); i += 4 {
		out.Pix[i] = 255
	}
	for c := range 3 {
		l := measureLight(in.Pix, in.Stride, 4, c, w, h)
		l.divide(out.Pix, in.Pix, out.Stride, in.Stride, 4, c, w, h)
	}
	return out
}

// light is the level of the paper in cells.
type light struct {
	columns, rows int
	level         []float32
}

func measureLight(pix []byte, stride, step, channel, w, h int) light {
	cell := max(1, (max(w, h)+lightCells-1)/lightCells)
	l := light{columns: (w + cell - 1) / cell, rows: (h + cell - 1) / cell}
	l.level = make([]float32, l.columns*l.rows)
	skip := max(1, cell/24) // enough pixels to know a cell by
	for row := range l.rows {
		for column := range l.columns {
			var histogram [256]int
			n := 0
			for y := row * cell; y < min(h, (row+1)*cell); y += skip {
				for x := column * cell; x < min(w, (column+1)*cell); x += skip {
					histogram[pix[y*stride+x*step+channel]]++
					n++
				}
			}
			l.level[row*l.columns+column] = float32(percentile(&histogram, n, 0.85))
		}
	}
	l = l.closed(lightFill)
	smooth := make([]float32, len(l.level))
	boxBlur(smooth, l.level, l.columns, l.rows, 2)
	l.level = smooth
	return l
}

func percentile(histogram *[256]int, n int, share float64) int {
	want := int(share * float64(n))
	for v, count := range histogram {
		want -= count
		if want < 0 {
			return v
		}
	}
	return 255
}

// closed is the morphological closing: of the brightest around each cell, the
// darkest. It goes on beyond the border, or the border would be too bright.
func (l light) closed(radius int) light {
	wide := light{columns: l.columns + 2*radius, rows: l.rows + 2*radius}
	wide.level = make([]float32, wide.columns*wide.rows)
	for row := range l.rows {
		copy(wide.level[(row+radius)*wide.columns+radius:], l.level[row*l.columns:(row+1)*l.columns])
	}
	wide.level = wide.extreme(radius, func(a, b float32) float32 { return max(a, b) })
	wide.level = wide.extreme(radius, func(a, b float32) float32 { return min(a, b) })
	closed := light{l.columns, l.rows, make([]float32, len(l.level))}
	for row := range l.rows {
		copy(closed.level[row*l.columns:(row+1)*l.columns], wide.level[(row+radius)*wide.columns+radius:])
	}
	return closed
}

// extreme gives each cell the extreme of the cells within a radius.
func (l light) extreme(radius int, of func(a, b float32) float32) []float32 {
	rows := extremes(l.level, l.columns, 1, l.rows, l.columns, radius, of)
	return extremes(rows, l.rows, l.columns, l.columns, 1, radius, of)
}

// extremes goes along lines as runningMeans does.
func extremes(in []float32, n, stride, count, lineStride, radius int, of func(a, b float32) float32) []float32 {
	out := make([]float32, len(in))
	for line := range count {
		for i := range n {
			v := in[line*lineStride+i*stride]
			for k := max(0, i-radius); k <= min(n-1, i+radius); k++ {
				v = of(v, in[line*lineStride+k*stride])
			}
			out[line*lineStride+i*stride] = v
		}
	}
	return out
}

// gainBits is how finely the gain of a pixel is told.
const gainBits = 16

// divide lights the picture evenly. Between the middles of cells the light is
// interpolated.
func (l light) divide(out, in []byte, outStride, inStride, step, channel, w, h int) {
	gain := make([]int, l.columns+1)
	spans := l.spans(w)
	for y := range h {
		fy := (float32(y)+0.5)/float32(h)*float32(l.rows) - 0.5
		top, ty := between(fy, l.rows)
		for c := range l.columns {
			a, b := l.level[top*l.columns+c], l.level[min(top+1, l.rows-1)*l.columns+c]
			gain[c] = int(whitePaper / max(darkestPaper, a+(b-a)*ty) * (1 << gainBits))
		}
		gain[l.columns] = gain[l.columns-1]
		at := channel
		for left, shares := range spans {
			first, difference := gain[left], gain[left+1]-gain[left]
			from, to := in[y*inStride:], out[y*outStride:]
			for _, share := range shares {
				g := first + difference*share>>fractionBits
				to[at] = byte(min(255, int(from[at])*g>>gainBits)) //nolint:gosec // at most 255
				at += step
			}
		}
	}
}

// spans gives, for each cell across, the pixels of a row from its middle to that of the next: the share of the next in
// each, in 256ths.
func (l light) spans(w int) [][]int {
	spans := make([][]int, l.columns)
	for x := range w {
		left, tx := between((float32(x)+0.5)/float32(w)*float32(l.columns)-0.5, l.columns)
		spans[left] = append(spans[left], int(tx*(1<<fractionBits)))
	}
	return spans
}

// between splits a position into the cell before it and how far it is on the
// way to the next.
func between(at float32, cells int) (int, float32) {
	at = max(0, min(float32(cells-1), at))
	whole := int(at)
	return whole, at - float32(whole)
}

const (
	sauvolaK      = 0.22
	sauvolaR      = 128.0
	sauvolaWindow = 1.0 / 60 // of the longer edge, to each side
	surelyInk     = 70       // black areas stay black however large they are
	surelyPaper   = 248
)

// threshold makes ink of what is darker than its surroundings (J. Sauvola and
// M. Pietikäinen, "Adaptive document image binarization", Pattern Recognition
// 33, 2000).
func threshold(img *image.Gray) *image.Gray {
	w, h := img.Rect.Dx(), img.Rect.Dy()
	out := image.NewGray(image.Rect(0, 0, w, h))
	white := bytes.Repeat([]byte{255}, w)
	around := newSurroundings(img, max(4, int(sauvolaWindow*float64(max(w, h)))))
	for y := range h {
		around.moveTo(y)
		row, to := img.Pix[y*img.Stride:][:w], out.Pix[y*out.Stride:][:w]
		copy(to, white)
		for x := 0; x < w; x++ {
			if x+8 <= w && areSurelyPaper(row[x:x+8]) {
				x += 7
				continue
			}
			v := row[x]
			if v <= surelyInk || (v < surelyPaper && !around.isPaper(x, v)) {
				to[x] = 0
			}
		}
	}
	return out
}

// areSurelyPaper tells whether eight pixels all have surelyPaper or more: the five highest bits of each are set.
func areSurelyPaper(pixels []uint8) bool {
	const fiveHighest = surelyPaper * 0x01010101_01010101
	return binary.LittleEndian.Uint64(pixels)&fiveHighest == fiveHighest
}

// isPaper compares a grey with the threshold m(1 + k(s/R - 1)), where m and s are
// the mean and the deviation of n greys around it. All is multiplied by n and
// squared: divisions and a root for every pixel take long.
func isPaper(v uint8, sum, square, n int) bool {
	above := float64(int(v)*n) - float64(sum)*(1-sauvolaK)
	if above <= 0 {
		return false
	}
	reach := float64(sum) * (sauvolaK / sauvolaR)
	variance := float64(square)*float64(n) - float64(sum)*float64(sum)
	return above*above*float64(n)*float64(n) > reach*reach*variance
}

// surroundings are the pixels up to a radius from each pixel of a row: sums of their levels and of the squares of these.
type surroundings struct {
	img      *image.Gray
	radius   int
	columns  []columnSum // of the rows near the present one
	from, to int         // these rows
	before   []rowSum    // of the columns before each one
}

type columnSum struct{ sum, square int32 }

type rowSum struct{ sum, square int }

func newSurroundings(img *image.Gray, radius int) *surroundings {
	w := img.Rect.Dx()
	return &surroundings{img: img, radius: radius, columns: make([]columnSum, w), before: make([]rowSum, w+1)}
}

// moveTo goes to a row, which is not before the present one.
func (s *surroundings) moveTo(y int) {
	for ; s.to < min(s.img.Rect.Dy(), y+s.radius+1); s.to++ {
		s.add(s.to, 1)
	}
	for ; s.from < y-s.radius; s.from++ {
		s.add(s.from, -1)
	}
	var sum rowSum
	for x, column := range s.columns {
		sum.sum += int(column.sum)
		sum.square += int(column.square)
		s.before[x+1] = sum
	}
}

func (s *surroundings) add(y int, sign int32) {
	for x, v := range s.img.Pix[y*s.img.Stride:][:len(s.columns)] {
		level := int32(v)
		s.columns[x].sum += sign * level
		s.columns[x].square += sign * level * level
	}
}

// isPaper tells whether a pixel of the row, with a level, is paper.
func (s *surroundings) isPaper(x int, level uint8) bool {
	left, right := max(0, x-s.radius), min(len(s.columns), x+s.radius+1)
	from, to := s.before[left], s.before[right]
	return isPaper(level, to.sum-from.sum, to.square-from.square, (right-left)*(s.to-s.from))
}
