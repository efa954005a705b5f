package intake

import (
	"bytes"
	"context"
	"encoding/binary"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"dorbin/core/problem"
	"dorbin/core/raster"
	"dorbin/internal/office"
	"dorbin/internal/sampling"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/bmp"
	"golang.org/x/image/webp"
)

func inspector() *Inspector { return &Inspector{Limits: DefaultLimits, Pool: workers} }

// convert gives the converted copy of a file.
func convert(t *testing.T, name string, data []byte) (Kind, string, error) {
	t.Helper()
	path := save(t, name, data)
	in := inspector()
	kind, err := in.Kind(path, name)
	require.NoError(t, err)
	require.True(t, kind.IsConverted())
	var out bytes.Buffer
	err = in.Convert(t.Context(), kind, path, name, &out)
	return kind, save(t, "converted", out.Bytes()), err
}

// moduleFile reads a file of a module we depend on: real test data.
func moduleFile(t *testing.T, module, file string) []byte {
	t.Helper()
	folder, err := exec.Command("go", "list", "-m", "-f", "{{.Dir}}", module).Output()
	require.NoError(t, err)
	data, err := os.ReadFile(filepath.Join(strings.TrimSpace(string(folder)), file))
	require.NoError(t, err)
	return data
}

func TestPicturesAreConverted(t *testing.T) {
	sampling.Heavy(t)
	img := image.NewPaletted(image.Rect(0, 0, 60, 40), color.Palette{color.White, color.RGBA{200, 30, 30, 255}})
	for i := range img.Pix[:1200] {
		img.Pix[i] = 1
	}
	var asGIF, asBMP bytes.Buffer
	require.NoError(t, gif.Encode(&asGIF, img, nil))
	require.NoError(t, bmp.Encode(&asBMP, img))
	cases := map[string]struct {
		data          []byte
		kind          Kind
		width, height int
	}{
		"a.gif":  {asGIF.Bytes(), GIF, 60, 40},
		"a.bmp":  {asBMP.Bytes(), BMP, 60, 40},
		"a.webp": {moduleFile(t, "golang.org/x/image", "testdata/blue-purple-pink-large.normal-filter.lossy.webp"), WebP, 600, 400},
		"a.heic": {moduleFile(t, "github.com/gen2brain/heic", "testdata/test.heic"), HEIC, 1346, 1346},
	}
	for name, c := range cases {
		kind, copied, err := convert(t, name, c.data)
		require.NoError(t, err, name)
		assert.Equal(t, c.kind, kind)
		pages, err := inspector().Pages(t.Context(), copied, name, "")
		require.NoError(t, err, name)
		require.Len(t, pages, 1)
		assert.Equal(t, [2]int{c.width, c.height}, pages[0].Pixels, name)
		assert.False(t, pages[0].Scanned)
		if c.width == 60 { // without loss
			images, err := OpenImages(copied, PNG)
			require.NoError(t, err)
			decoded, err := images.Pages[0].Decode()
			require.NoError(t, err)
			r, g, b, _ := decoded.At(3, 3).RGBA()
			assert.Equal(t, [3]uint32{200 * 257, 30 * 257, 30 * 257}, [3]uint32{r, g, b})
			require.NoError(t, images.Close())
		}
	}
}

// TestSeeThroughPicturesAreOnWhite converts WebPs, one of which lost nothing: it has to have the same pixels still.
func TestSeeThroughPicturesAreOnWhite(t *testing.T) {
	for name, kind := range map[string]Kind{"gopher-doc.with-alpha.lossless.webp": PNG, "tux.lossless.webp": PNG, "yellow_rose.lossy-with-alpha.webp": JPEG} {
		data := moduleFile(t, "golang.org/x/image", "testdata/"+name)
		_, copied, err := convert(t, name, data)
		require.NoError(t, err, name)
		images, err := OpenImages(copied, kind)
		require.NoError(t, err, name)
		got, err := images.Pages[0].Decode()
		require.NoError(t, err, name)
		require.NoError(t, images.Close())
		was, err := webp.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		want, shown := raster.ToRGBA(was), raster.ToRGBA(got)
		worst := 0
		for i := range want.Pix {
			worst = max(worst, int(want.Pix[i])-int(shown.Pix[i]), int(shown.Pix[i])-int(want.Pix[i]))
		}
		most := map[Kind]int{PNG: 0, JPEG: 90}[kind] // a JPEG is softer at the edges of colours
		assert.LessOrEqual(t, worst, most, name)
	}
}

func TestPicturesThatClaimTooMuchAreRefused(t *testing.T) {
	var asBMP bytes.Buffer
	require.NoError(t, bmp.Encode(&asBMP, image.NewGray(image.Rect(0, 0, 4, 4))))
	bomb := asBMP.Bytes()
	binary.LittleEndian.PutUint32(bomb[18:], 60_000)
	binary.LittleEndian.PutUint32(bomb[22:], 60_000)
	_, _, err := convert(t, "bomb.bmp", bomb)
	var trouble *problem.Error
	require.ErrorAs(t, err, &trouble)
	assert.Equal(t, TooManyPixels, trouble.Reason)

	// A HEIC that claims to be huge in its image spatial extents (ISO/IEC 23008-12,
	// 6.5.3) is refused one way or the other, soon, whatever its data say.
	photo := moduleFile(t, "github.com/gen2brain/heic", "testdata/test.heic")
	for at := bytes.Index(photo, []byte("ispe")); at >= 0; {
		binary.BigEndian.PutUint32(photo[at+8:], 60_000)
		binary.BigEndian.PutUint32(photo[at+12:], 60_000)
		next := bytes.Index(photo[at+4:], []byte("ispe"))
		if next < 0 {
			break
		}
		at += 4 + next
	}
	_, _, err = convert(t, "bomb.heic", photo)
	require.ErrorAs(t, err, &trouble)
	assert.Contains(t, trouble.Sentence.English, "bomb.heic")
}

func TestDamagedPicturesAreNamed(t *testing.T) {
	for name, data := range map[string][]byte{
		"torn.heic": moduleFile(t, "github.com/gen2brain/heic", "testdata/test.heic")[:600],
		"torn.webp": moduleFile(t, "golang.org/x/image", "testdata/blue-purple-pink-large.normal-filter.lossy.webp")[:40],
		"torn.gif":  []byte("GIF89a\x01\x00"),
		"torn.bmp":  []byte("BM"),
	} {
		_, _, err := convert(t, name, data)
		var trouble *problem.Error
		require.ErrorAs(t, err, &trouble, name)
		assert.Equal(t, Damaged, trouble.Reason, name)
		assert.Contains(t, trouble.Sentence.English, name)
	}
}

// scenery is a picture that hardly compresses, so that it can be torn anywhere.
func scenery() *image.RGBA {
	random := rand.New(rand.NewPCG(1, 9))
	img := image.NewRGBA(image.Rect(0, 0, 320, 240))
	for y := range 240 {
		for x := range 320 {
			img.SetRGBA(x, y, color.RGBA{uint8(x/2 + random.IntN(60)), uint8(y + random.IntN(15)), uint8(random.IntN(255)), 255})
		}
	}
	return img
}

func TestTornJPEGsShowWhatIsThere(t *testing.T) {
	var whole bytes.Buffer
	require.NoError(t, jpeg.Encode(&whole, scenery(), nil))
	original, err := jpeg.Decode(bytes.NewReader(whole.Bytes()))
	require.NoError(t, err)
	torn, err := IsTorn(save(t, "whole.jpg", whole.Bytes()), JPEG)
	require.NoError(t, err)
	assert.False(t, torn)
	for _, share := range []float64{0.3, 0.5, 0.85, 0.99} {
		path := save(t, "torn.jpg", whole.Bytes()[:int(share*float64(whole.Len()))])
		torn, err := IsTorn(path, JPEG)
		require.NoError(t, err)
		require.True(t, torn)
		var mended bytes.Buffer
		there, err := mendJPEG(imagesInput{path, "torn.jpg", JPEG, DefaultLimits}, &mended)
		require.NoError(t, err)
		assert.InDelta(t, share, there, 0.2)
		img, err := jpeg.Decode(bytes.NewReader(mended.Bytes()))
		require.NoError(t, err)
		last := int(there*240) - 8
		for _, at := range []image.Point{{5, 5}, {300, last}} {
			want, got := color.GrayModel.Convert(original.At(at.X, at.Y)).(color.Gray).Y, color.GrayModel.Convert(img.At(at.X, at.Y)).(color.Gray).Y
			assert.InDelta(t, want, got, 24, "share %.2f at %v", share, at)
		}
		if there < 0.9 {
			assert.Equal(t, color.Gray{255}, color.GrayModel.Convert(img.At(160, 236)))
		}
	}
	_, err = mendJPEG(imagesInput{save(t, "stump.jpg", whole.Bytes()[:300]), "stump.jpg", JPEG, DefaultLimits}, &bytes.Buffer{})
	var trouble *problem.Error
	require.ErrorAs(t, err, &trouble)
	assert.Contains(t, trouble.Sentence.English, "stump.jpg")
}

func TestATornPhotographKeepsItsOrientation(t *testing.T) {
	var whole bytes.Buffer
	require.NoError(t, jpeg.Encode(&whole, scenery(), nil))
	segment := exifSegment(6, 300, true)
	data := append([]byte{0xFF, 0xD8, 0xFF, segment[0]}, binary.BigEndian.AppendUint16(nil, uint16(len(segment)+1))...)
	data = append(append(data, segment[1:]...), whole.Bytes()[2:]...)
	var mended bytes.Buffer
	_, err := mendJPEG(imagesInput{save(t, "torn.jpg", data[:len(data)*2/3]), "torn.jpg", JPEG, DefaultLimits}, &mended)
	require.NoError(t, err)
	images, err := OpenImages(save(t, "mended.jpg", mended.Bytes()), JPEG)
	require.NoError(t, err)
	defer images.Close() //nolint:errcheck // only read from
	assert.Equal(t, 6, images.Pages[0].Orientation)
}

func TestWithoutLibreOfficeTheSentenceSaysHowToGetIt(t *testing.T) {
	in := Inspector{Limits: DefaultLimits, Pool: workers, Office: office.Converter{Program: "/nowhere/soffice"}}
	err := in.Convert(t.Context(), Office, save(t, "letter.rtf", []byte(`{\rtf1 Hello}`)), "letter.rtf", &bytes.Buffer{})
	var trouble *problem.Error
	require.ErrorAs(t, err, &trouble)
	assert.Equal(t, NeedsOffice, trouble.Reason)
	assert.Contains(t, trouble.Sentence.English, "letter.rtf")
	assert.Contains(t, trouble.Sentence.English, "install")
}

// TestDocumentsBecomePDFs has LibreOffice convert a document that refers to a
// picture on a server of ours: it must not fetch it.
func TestDocumentsBecomePDFs(t *testing.T) {
	sampling.Heavy(t)
	fetched := make(chan string, 1)
	server := httptest.NewServer(http.HandlerFunc(func(_ http.ResponseWriter, r *http.Request) {
		select {
		case fetched <- r.URL.Path:
		default:
		}
	}))
	defer server.Close()
	rtf := `{\rtf1\ansi Larkmere minutes\par {\field{\*\fldinst INCLUDEPICTURE "` + server.URL + `/spy.png"}{\fldrslt }}}`
	for name, text := range map[string]string{"minutes.rtf": rtf, "minutes.txt": "Larkmere minutes", "sums.csv": "Larkmere minutes;2\n"} {
		path := save(t, name, []byte(text))
		var out bytes.Buffer
		require.NoError(t, inspector().Convert(t.Context(), Office, path, name, &out), name)
		words, err := exec.Command("pdftotext", save(t, "out.pdf", out.Bytes()), "-").Output()
		require.NoError(t, err)
		assert.Contains(t, string(words), "Larkmere minutes", name)
	}
	select {
	case path := <-fetched:
		t.Errorf("the document had %s fetched", path)
	default:
	}
}

// TestOfficeThatHangs stands in a program that never ends and starts another.
func TestOfficeThatHangs(t *testing.T) {
	program := filepath.Join(t.TempDir(), "soffice")
	require.NoError(t, os.WriteFile(program, []byte("#!/bin/sh\nsleep 300 & sleep 300\n"), 0o700))
	in := Inspector{Limits: DefaultLimits, Pool: workers, Office: office.Converter{Program: program, Time: 300 * time.Millisecond}}
	begun := time.Now()
	err := in.Convert(t.Context(), Office, save(t, "a.docx", []byte("PK")), "a.docx", &bytes.Buffer{})
	var trouble *problem.Error
	require.ErrorAs(t, err, &trouble)
	assert.Contains(t, trouble.Sentence.English, "longer than")
	assert.Less(t, time.Since(begun), 20*time.Second)

	ctx, cancel := context.WithCancel(t.Context())
	cancel()
	err = in.Convert(ctx, Office, save(t, "a.docx", []byte("PK")), "a.docx", &bytes.Buffer{})
	assert.ErrorIs(t, err, context.Canceled)
}

func TestPlainTextIsTakenByItsName(t *testing.T) {
	in := inspector()
	kind, err := in.Kind(save(t, "list.csv", []byte("a;b;c\n1;2;3\n")), "list.csv")
	require.NoError(t, err)
	assert.Equal(t, Office, kind)
	_, err = in.Kind(save(t, "list.bin", []byte("a;b;c\n1;2;3\n")), "list.bin")
	assert.Error(t, err)
	_, err = in.Kind(save(t, "list.txt", []byte("a\x00b")), "list.txt")
	assert.Error(t, err)
}

func FuzzTornJPEG(f *testing.F) {
	var whole bytes.Buffer
	require.NoError(f, jpeg.Encode(&whole, scenery().SubImage(image.Rect(0, 0, 40, 40)), nil))
	f.Add(whole.Bytes()[:whole.Len()/2])
	f.Add([]byte{0xFF, 0xD8, 0xFF, 0xDD, 0, 4, 0, 9})
	limits := DefaultLimits
	limits.Pixels = 1 << 20
	f.Fuzz(func(_ *testing.T, data []byte) {
		_, _, _ = imagesInput{Name: "torn.jpg", Kind: JPEG, Limits: limits}.mendedJPEG(data)
	})
}
