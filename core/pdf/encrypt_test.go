package pdf

import (
	"bytes"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/finish"
	"dorbin/core/geometry"
	"dorbin/core/typeface"
)

// protectedFile has a page of a document, a picture and a page with a text.
func protectedFile(t *testing.T, p Protection) []byte {
	t.Helper()
	var out bytes.Buffer
	a := NewAssembler(&out, 3)
	require.NoError(t, a.Protect(p))
	a.SetMarks([][]finish.Mark{nil, nil, {{Kind: finish.FooterMark, Text: "At the foot", Size: 12, Face: typeface.Sans, Colour: "#000000", At: geometry.Point{X: 50, Y: 700}}}})
	require.NoError(t, a.AddDocument(parse(t, awkward()), []Placement{{}}, nil))
	white := deflate(bytes.Repeat([]byte{0xAB}, 100_000))
	img := Image{Width: 1000, Height: 100, BitsPerComponent: 8, Colour: Gray, Filter: Flate, Length: int64(len(white)), Data: bytes.NewReader(white)}
	require.NoError(t, a.AddImage(img, []Placement{{Position: 1, Framing: geometry.Framing{Flat: geometry.A4}}}))
	require.NoError(t, a.AddBlank(2, geometry.A4))
	require.NoError(t, a.Finish(Properties{Title: "Dächer (1) \\", Author: "Larkmere", Described: true, Created: time.Unix(0, 0), Bookmarks: []Bookmark{{Title: "All", Count: 3}}}))
	return out.Bytes()
}

// TestOthersOpenWhatIsProtected has qpdf and poppler open files with each password, and none of
// them without one.
func TestOthersOpenWhatIsProtected(t *testing.T) {
	for name, c := range map[string]struct {
		protection Protection
		passwords  []string
		wrong      []string
		qpdf       []string
		info       string
	}{
		"to open": {
			Protection{ToOpen: "Bootshaus 7", Print: true, Copy: true, Fill: true},
			[]string{"Bootshaus 7"}, []string{"", "bootshaus 7"},
			[]string{"extract for any purpose: allowed", "print high resolution: allowed", "modify anything: not allowed", "modify annotations: allowed"},
			"yes (print:yes copy:yes change:no addNotes:yes algorithm:AES-256)",
		},
		"to change alone": {
			Protection{ToChange: "Überdach"},
			[]string{"", "Überdach"}, []string{"Uberdach"},
			[]string{"extract for any purpose: not allowed", "print low resolution: not allowed", "modify anything: not allowed", "modify forms: not allowed"},
			"yes (print:no copy:no change:no addNotes:no algorithm:AES-256)",
		},
		"both, very long": {
			Protection{ToOpen: strings.Repeat("long ", 40), ToChange: "x", Print: true},
			[]string{strings.Repeat("long ", 40), "x"}, []string{"long", ""},
			[]string{"extract for any purpose: not allowed", "print high resolution: allowed"},
			"yes (print:yes copy:no change:no addNotes:no algorithm:AES-256)",
		},
	} {
		t.Run(name, func(t *testing.T) {
			path := filepath.Join(t.TempDir(), "x.pdf")
			require.NoError(t, os.WriteFile(path, protectedFile(t, c.protection), 0o600))
			for _, password := range c.passwords {
				shown, err := exec.Command("qpdf", "--password="+password, "--show-encryption", "--check", path).CombinedOutput()
				require.NoError(t, err, string(shown))
				for _, want := range append(c.qpdf, "R = 6", "stream encryption method: AESv3", "string encryption method: AESv3", "No syntax or stream encoding errors found") {
					assert.Contains(t, string(shown), want)
				}
				if len(password) > 32 {
					continue // the command line of poppler takes no longer ones
				}
				option := "-upw"
				if password == c.protection.ToChange {
					option = "-opw"
				}
				text, err := exec.Command("pdftotext", option, password, path, "-").CombinedOutput()
				require.NoError(t, err, string(text))
				assert.Contains(t, string(text), "Words")
				assert.Contains(t, string(text), "At the foot")
				info, err := exec.Command("pdfinfo", option, password, path).CombinedOutput()
				require.NoError(t, err, string(info))
				assert.Contains(t, string(info), `Dächer (1) \`)
				assert.Contains(t, string(info), c.info)
			}
			for _, password := range c.wrong {
				_, err := exec.Command("qpdf", "--password="+password, "--check", path).CombinedOutput()
				if password != "" || c.protection.ToOpen != "" {
					assert.Error(t, err, "%q", password)
				}
			}
		})
	}
}

// TestWhatIsProtectedDiffersEachTime has no bytes of a file tell that another is the same, and
// nothing of it readable.
func TestWhatIsProtectedDiffersEachTime(t *testing.T) {
	p := Protection{ToOpen: "x", ToChange: "y"}
	one, other := protectedFile(t, p), protectedFile(t, p)
	assert.NotEqual(t, one, other)
	for _, readable := range []string{"Larkmere", "Words", "At the foot", "xpacket", "Helvetica"} {
		assert.NotContains(t, string(one), readable)
	}
	assert.ErrorContains(t, NewAssembler(&bytes.Buffer{}, 1).Protect(Protection{ToOpen: "a\x00b"}), "letters that cannot be")
}
