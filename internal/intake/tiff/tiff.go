package tiff

import (
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"math"

	"dorbin/core/geometry"
)

// ErrFormat is wrapped by the errors of a file that is not a TIFF, or a damaged
// one; ErrUnsupported by those of a valid variant that is not read.
var (
	ErrFormat      = errors.New("not a valid TIFF")
	ErrUnsupported = errors.New("unsupported kind of TIFF")
)

// Compression is the TIFF tag 259.
type Compression int

// The compressions that are read.
const (
	None       Compression = 1
	CCITTRLE   Compression = 2
	Group3     Compression = 3
	Group4     Compression = 4
	LZW        Compression = 5
	JPEG       Compression = 7
	Deflate    Compression = 8
	PackBits   Compression = 32773
	OldDeflate Compression = 32946
)

// Photometric is the TIFF tag 262.
type Photometric int

// The photometric interpretations that are read.
const (
	WhiteIsZero Photometric = 0
	BlackIsZero Photometric = 1
	RGB         Photometric = 2
	Palette     Photometric = 3
	Separated   Photometric = 5
	YCbCr       Photometric = 6
)

// Page is one image of a TIFF file.
type Page struct {
	Width, Height   int // pixels, as stored
	BitsPerSample   int
	SamplesPerPixel int
	Compression     Compression
	Photometric     Photometric
	Resolution      geometry.Resolution
	Orientation     int // 1 to 8, as in EXIF

	reader        io.ReaderAt
	order         binary.ByteOrder
	chunks        []chunk // strips or tiles
	chunkWidth    int
	chunkHeight   int
	separate      bool // one plane per sample
	predictor     int
	lsbFirst      bool // FillOrder 2
	t4Options     int
	colourMap     []uint16
	jpegTables    []byte
	extraIsAlpha  bool
	premultiplied bool
}

type chunk struct{ offset, length int64 }

const (
	// maxPages bounds the chain of directories in a damaged file.
	maxPages = 100_000
	// maxValues bounds the values of all tags of a file that are read into memory: those of
	// 20,000 pages of 200 strips each.
	maxValues = 8_000_000
	// maxSamples bounds the samples of a pixel; more than four are inks nobody scans.
	maxSamples = 8
	// maxTilePixels bounds the memory that one tile takes.
	maxTilePixels = 1 << 24
)

// Open walks the directories of a TIFF file of the given size in bytes.
// Reduced copies of other pages are left out.
func Open(r io.ReaderAt, size int64) ([]*Page, error) {
	header := make([]byte, 8)
	if _, err := r.ReadAt(header, 0); err != nil {
		return nil, fmt.Errorf("%w: the file is too short", ErrFormat)
	}
	f := file{reader: r, size: size, left: maxValues}
	switch string(header[:2]) {
	case "II":
		f.order = binary.LittleEndian
	case "MM":
		f.order = binary.BigEndian
	default:
		return nil, fmt.Errorf("%w: no byte order mark", ErrFormat)
	}
	switch f.order.Uint16(header[2:]) {
	case 42:
	case 43:
		return nil, fmt.Errorf("%w: BigTIFF", ErrUnsupported)
	default:
		return nil, fmt.Errorf("%w: no version mark", ErrFormat)
	}
	return f.pages(int64(f.order.Uint32(header[4:])))
}

type file struct {
	reader io.ReaderAt
	size   int64
	order  binary.ByteOrder
	left   int64 // values of tags that may yet be read
}

func (f *file) pages(offset int64) ([]*Page, error) {
	var pages []*Page
	seen := map[int64]bool{}
	for offset != 0 && !seen[offset] && len(pages) < maxPages {
		seen[offset] = true
		tags, next, err := f.directory(offset)
		if err != nil {
			if len(pages) > 0 {
				break // what came before a broken end is still good
			}
			return nil, err
		}
		offset = next
		if tags.first(tagNewSubfileType, 0)&1 == 1 {
			continue
		}
		page, err := f.page(tags)
		if err != nil {
			return nil, fmt.Errorf("page %d: %w", len(pages)+1, err)
		}
		pages = append(pages, page)
	}
	if len(pages) == 0 {
		return nil, fmt.Errorf("%w: it has no image", ErrFormat)
	}
	return pages, nil
}

// Tag numbers of TIFF 6.0.
const (
	tagNewSubfileType  = 254
	tagWidth           = 256
	tagHeight          = 257
	tagBitsPerSample   = 258
	tagCompression     = 259
	tagPhotometric     = 262
	tagFillOrder       = 266
	tagStripOffsets    = 273
	tagOrientation     = 274
	tagSamplesPerPixel = 277
	tagRowsPerStrip    = 278
	tagStripCounts     = 279
	tagXResolution     = 282
	tagYResolution     = 283
	tagPlanar          = 284
	tagT4Options       = 292
	tagResolutionUnit  = 296
	tagPredictor       = 317
	tagColourMap       = 320
	tagTileWidth       = 322
	tagTileHeight      = 323
	tagTileOffsets     = 324
	tagTileCounts      = 325
	tagExtraSamples    = 338
	tagSampleFormat    = 339
	tagJPEGTables      = 347
)

// readTags are those that are read. Others may be of any length.
var readTags = map[int]bool{
	tagNewSubfileType: true, tagWidth: true, tagHeight: true, tagBitsPerSample: true, tagCompression: true, tagPhotometric: true,
	tagFillOrder: true, tagStripOffsets: true, tagOrientation: true, tagSamplesPerPixel: true, tagRowsPerStrip: true,
	tagStripCounts: true, tagXResolution: true, tagYResolution: true, tagPlanar: true, tagT4Options: true, tagResolutionUnit: true,
	tagPredictor: true, tagColourMap: true, tagTileWidth: true, tagTileHeight: true, tagTileOffsets: true, tagTileCounts: true,
	tagExtraSamples: true, tagSampleFormat: true, tagJPEGTables: true,
}

// tags are the values of a directory, integers only; rationals are in ratios.
type tags struct {
	values map[int][]int64
	ratios map[int]float64
	bytes  map[int][]byte
}

func (t tags) first(tag int, otherwise int64) int64 {
	if v := t.values[tag]; len(v) > 0 {
		return v[0]
	}
	return otherwise
}

// has tells whether a tag was read: the first of several counts.
func (t tags) has(tag int) bool {
	_, isRatio := t.ratios[tag]
	return isRatio || t.bytes[tag] != nil || t.values[tag] != nil
}

var typeBytes = map[uint16]int64{1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8, 13: 4}

func (f *file) directory(offset int64) (tags, int64, error) {
	t := tags{values: map[int][]int64{}, ratios: map[int]float64{}, bytes: map[int][]byte{}}
	count := make([]byte, 2)
	if _, err := f.reader.ReadAt(count, offset); err != nil {
		return t, 0, fmt.Errorf("%w: a directory lies outside the file", ErrFormat)
	}
	n := int(f.order.Uint16(count))
	rows := make([]byte, 12*n+4)
	got, _ := f.reader.ReadAt(rows, offset+2)
	if got < 12*n {
		return t, 0, fmt.Errorf("%w: a directory is cut off", ErrFormat)
	}
	for i := range n {
		if err := f.tag(rows[12*i:12*i+12], t); err != nil {
			return t, 0, err
		}
	}
	return t, int64(f.order.Uint32(rows[12*n:])), nil
}

func (f *file) tag(row []byte, t tags) error {
	tag, kind := int(f.order.Uint16(row)), f.order.Uint16(row[2:])
	count := int64(f.order.Uint32(row[4:]))
	width, known := typeBytes[kind]
	if !known || !readTags[tag] || t.has(tag) {
		return nil
	}
	if f.left -= count; f.left < 0 {
		return fmt.Errorf("%w: it has more than %d values", ErrUnsupported, maxValues)
	}
	data := row[8:12]
	if length := width * count; length > 4 {
		where := int64(f.order.Uint32(data))
		if where+length > f.size {
			return fmt.Errorf("%w: tag %d lies outside the file", ErrFormat, tag)
		}
		data = make([]byte, length)
		if _, err := f.reader.ReadAt(data, where); err != nil {
			return fmt.Errorf("read tag %d: %w", tag, err)
		}
	}
	switch kind {
	case 1, 7:
		t.bytes[tag] = data[:count]
		if kind == 1 {
			for _, v := range data[:count] {
				t.values[tag] = append(t.values[tag], int64(v))
			}
		}
	case 3:
		for i := range count {
			t.values[tag] = append(t.values[tag], int64(f.order.Uint16(data[2*i:])))
		}
	case 4, 13:
		for i := range count {
			t.values[tag] = append(t.values[tag], int64(f.order.Uint32(data[4*i:])))
		}
	case 5:
		if count > 0 {
			t.ratios[tag] = float64(f.order.Uint32(data)) / math.Max(float64(f.order.Uint32(data[4:])), 1)
		}
	}
	return nil
}

func (f *file) page(t tags) (*Page, error) {
	p := &Page{
		Width:           int(t.first(tagWidth, 0)),
		Height:          int(t.first(tagHeight, 0)),
		BitsPerSample:   int(t.first(tagBitsPerSample, 1)),
		SamplesPerPixel: int(t.first(tagSamplesPerPixel, 1)),
		Compression:     Compression(t.first(tagCompression, 1)),
		Photometric:     Photometric(t.first(tagPhotometric, 0)),
		Orientation:     int(t.first(tagOrientation, 1)),
		reader:          f.reader,
		order:           f.order,
		separate:        t.first(tagPlanar, 1) == 2,
		predictor:       int(t.first(tagPredictor, 1)),
		lsbFirst:        t.first(tagFillOrder, 1) == 2,
		t4Options:       int(t.first(tagT4Options, 0)),
		jpegTables:      t.bytes[tagJPEGTables],
	}
	if p.Width <= 0 || p.Height <= 0 || p.Width > math.MaxInt32 || p.Height > math.MaxInt32 {
		return nil, fmt.Errorf("%w: it has no size", ErrFormat)
	}
	for _, v := range t.values[tagColourMap] {
		p.colourMap = append(p.colourMap, uint16(v))
	}
	if extra := t.values[tagExtraSamples]; len(extra) > 0 {
		p.extraIsAlpha, p.premultiplied = extra[0] == 1 || extra[0] == 2, extra[0] == 1
	}
	p.Resolution = resolution(t)
	if err := p.check(t); err != nil {
		return nil, err
	}
	return p, f.locateChunks(p, t)
}

func resolution(t tags) geometry.Resolution {
	const centimetre = 3
	r := geometry.Resolution{X: t.ratios[tagXResolution], Y: t.ratios[tagYResolution]}
	switch t.first(tagResolutionUnit, 2) {
	case centimetre:
		r.X *= geometry.MillimetresPerInch / 10
		r.Y *= geometry.MillimetresPerInch / 10
	case 1: // no unit: only an aspect
		return geometry.Resolution{}
	}
	return r
}

// check refuses what cannot be decoded, so that a file is turned away when it
// comes in and not when it is exported.
func (p *Page) check(t tags) error {
	for _, bits := range t.values[tagBitsPerSample] {
		if int(bits) != p.BitsPerSample {
			return fmt.Errorf("%w: samples of different sizes", ErrUnsupported)
		}
	}
	if format := t.first(tagSampleFormat, 1); format != 1 && format != 4 {
		return fmt.Errorf("%w: samples that are not whole numbers", ErrUnsupported)
	}
	if !compressions[p.Compression] {
		return fmt.Errorf("%w: compression %d", ErrUnsupported, p.Compression)
	}
	layout, known := layouts[p.Photometric]
	if !known {
		return fmt.Errorf("%w: colours of kind %d", ErrUnsupported, p.Photometric)
	}
	if !layout.depths[p.BitsPerSample] || p.SamplesPerPixel < layout.samples || p.SamplesPerPixel > maxSamples {
		return fmt.Errorf("%w: %d samples of %d bits", ErrUnsupported, p.SamplesPerPixel, p.BitsPerSample)
	}
	if p.Photometric == Palette && len(p.colourMap) < 3<<p.BitsPerSample {
		return fmt.Errorf("%w: the palette is too short", ErrFormat)
	}
	if p.Compression == JPEG && (p.separate || (p.SamplesPerPixel != 1 && p.SamplesPerPixel != 3) || p.Photometric == WhiteIsZero || p.Photometric == Separated || p.Photometric == Palette) {
		return fmt.Errorf("%w: JPEG data in unusual colours", ErrUnsupported)
	}
	if p.isFax() && (p.BitsPerSample != 1 || p.SamplesPerPixel != 1) {
		return fmt.Errorf("%w: fax data that is not bilevel", ErrFormat)
	}
	return nil
}

var compressions = map[Compression]bool{
	None: true, CCITTRLE: true, Group3: true, Group4: true, LZW: true, JPEG: true, Deflate: true, PackBits: true, OldDeflate: true,
}

type layout struct {
	samples int // at least
	depths  map[int]bool
}

var (
	anyDepth  = map[int]bool{1: true, 2: true, 4: true, 8: true, 16: true}
	wideDepth = map[int]bool{8: true, 16: true}
	layouts   = map[Photometric]layout{
		WhiteIsZero: {1, anyDepth}, BlackIsZero: {1, anyDepth}, RGB: {3, wideDepth},
		Palette: {1, map[int]bool{1: true, 2: true, 4: true, 8: true}}, Separated: {4, wideDepth},
		YCbCr: {3, map[int]bool{8: true}},
	}
)

func (p *Page) isFax() bool {
	return p.Compression == CCITTRLE || p.Compression == Group3 || p.Compression == Group4
}

func (f *file) locateChunks(p *Page, t tags) error {
	offsets, counts := t.values[tagStripOffsets], t.values[tagStripCounts]
	p.chunkWidth = p.Width
	p.chunkHeight = int(min(t.first(tagRowsPerStrip, int64(p.Height)), int64(p.Height)))
	if width := t.first(tagTileWidth, 0); width > 0 {
		offsets, counts = t.values[tagTileOffsets], t.values[tagTileCounts]
		if len(offsets) == 0 {
			offsets, counts = t.values[tagStripOffsets], t.values[tagStripCounts]
		}
		p.chunkWidth, p.chunkHeight = int(min(width, math.MaxInt32)), int(min(t.first(tagTileHeight, 0), math.MaxInt32))
	}
	if p.chunkHeight <= 0 || p.chunkWidth <= 0 {
		return fmt.Errorf("%w: strips without rows", ErrFormat)
	}
	if p.isTiled() && p.chunkWidth*p.chunkHeight > maxTilePixels {
		return fmt.Errorf("%w: tiles of %d × %d pixels", ErrUnsupported, p.chunkWidth, p.chunkHeight)
	}
	if want := p.chunksPerPlane() * p.planes(); len(offsets) < want {
		return fmt.Errorf("%w: %d of its %d strips are missing", ErrFormat, want-len(offsets), want)
	}
	for i, offset := range offsets {
		length := f.size - offset // some old writers leave the counts out
		if i < len(counts) && counts[i] > 0 {
			length = min(counts[i], length)
		}
		if offset >= f.size || length < 0 {
			return fmt.Errorf("%w: a strip lies outside the file", ErrFormat)
		}
		p.chunks = append(p.chunks, chunk{offset, length})
	}
	return nil
}

func (p *Page) across() int { return (p.Width + p.chunkWidth - 1) / p.chunkWidth }

func (p *Page) chunksPerPlane() int {
	return p.across() * ((p.Height + p.chunkHeight - 1) / p.chunkHeight)
}

func (p *Page) planes() int {
	if p.separate {
		return p.SamplesPerPixel
	}
	return 1
}

// PixelBytes is how many bytes a pixel takes once it is decoded.
func (p *Page) PixelBytes() int {
	if p.SamplesPerPixel == 1 && p.Compression != JPEG {
		return 1
	}
	return 4
}

// EncodedBytes is how many bytes the page's image takes in the file.
func (p *Page) EncodedBytes() int64 {
	var total int64
	for _, c := range p.chunks {
		total += c.length
	}
	return total
}

// Bilevel tells of a page in plain black and white.
func (p *Page) Bilevel() bool {
	return p.BitsPerSample == 1 && p.SamplesPerPixel == 1 && p.Photometric <= BlackIsZero
}
