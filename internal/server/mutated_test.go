package server_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/gif"
	"image/jpeg"
	"image/png"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/packet"
	"dorbin/internal/await"
	"dorbin/internal/demo"
	"dorbin/internal/export"
	"dorbin/internal/hostile"
	"dorbin/internal/packets"
	"dorbin/internal/sampling"
)

const (
	mutatedFiles  = 10_000 // of which an ordinary run goes through 500
	filesOfPacket = 25
)

// healthyFiles are of every kind that is read without another program.
func healthyFiles(t *testing.T) []namedFile {
	t.Helper()
	files := []namedFile{{"unseen.pdf", hostile.Unseen()}}
	for _, name := range []string{"application-form.pdf", "accounts.pdf", "site-plan.pdf"} {
		paper, err := demo.Draw(name)
		require.NoError(t, err)
		files = append(files, namedFile{name, paper.Data})
	}
	drawing := image.NewPaletted(image.Rect(0, 0, 90, 120), color.Palette{color.Black, color.White, color.RGBA{200, 30, 30, 255}})
	for i := range drawing.Pix {
		drawing.Pix[i] = uint8(i * i / 7 % 3)
	}
	var asJPEG, asPNG, asGIF bytes.Buffer
	require.NoError(t, jpeg.Encode(&asJPEG, drawing, nil))
	require.NoError(t, png.Encode(&asPNG, drawing))
	require.NoError(t, gif.Encode(&asGIF, drawing, nil))
	return append(files, namedFile{"a.jpg", asJPEG.Bytes()}, namedFile{"a.png", asPNG.Bytes()}, namedFile{"a.gif", asGIF.Bytes()})
}

// TestMutatedFiles uploads damaged files of all kinds, looks at their pages and exports them. No
// request fails on our side, and every export opens in two other readers, or names the file that
// it failed at.
func TestMutatedFiles(t *testing.T) {
	sampling.Heavy(t)
	healthy := healthyFiles(t)
	c := start(t)
	for _, batch := range sampling.Numbers(t, mutatedFiles/filesOfPacket, 20) {
		var files []namedFile
		for i := range filesOfPacket {
			n := batch*filesOfPacket + i
			original := healthy[n%len(healthy)]
			files = append(files, namedFile{fmt.Sprintf("%d-%s", n, original.name), hostile.Mutated(original.data, uint64(n))}) //nolint:gosec // small
		}
		id := c.newPacket().ID
		for i, outcome := range c.upload(id, files...) {
			assert.Contains(t, outcome.Sentence.English, files[i].name)
		}
		c.lookAtPages(id)
		c.exportMutated(id)
	}
}

// lookAtPages asks for pictures of the pages of a packet: one that cannot be made is no error of
// ours.
func (c client) lookAtPages(id string) {
	c.t.Helper()
	for _, part := range c.packet(id).Parts {
		for _, page := range part.Pages {
			path := fmt.Sprintf("/api/sources/%s/pages/%d/image?width=240", page.Source, page.SourcePage)
			if status := c.do("GET", path, nil, nil); status >= http.StatusInternalServerError {
				c.t.Errorf("page %d of %s: %d", page.SourcePage, sourceName(c.packet(id), page.Source), status)
			}
		}
	}
}

func sourceName(p packets.Packet, id packet.SourceID) string {
	for _, source := range p.Sources {
		if source.ID == id {
			return source.Name
		}
	}
	return string(id)
}

// exportMutated exports a packet. A file that it fails at is named, and left out the next time.
func (c client) exportMutated(id string) {
	c.t.Helper()
	for range filesOfPacket {
		p := c.packet(id)
		if len(p.Parts) == 0 {
			return
		}
		e := c.exported(id)
		if e.State == "done" {
			c.openElsewhere(e)
			return
		}
		var pages []string
		for _, part := range p.Parts {
			for _, page := range part.Pages {
				if strings.Contains(e.Problem.English, sourceName(p, page.Source)) {
					pages = append(pages, string(page.ID))
				}
			}
		}
		if !assert.NotEmpty(c.t, pages, "the file is not named: %s", e.Problem) {
			return
		}
		c.t.Log(e.Problem)
		body := map[string]any{"revision": p.Revision, "commands": []any{map[string]any{"do": "setAside", "pages": pages}}}
		require.Equal(c.t, http.StatusOK, c.do("POST", "/api/packets/"+id+"/commands", body, nil))
	}
	c.t.Error("more exports failed than there are files")
}

func (c client) exported(id string) (e export.Export) {
	c.t.Helper()
	require.Less(c.t, c.do("POST", "/api/packets/"+id+"/exports", map[string]any{}, &e), 300)
	await.Until(c.t, func() bool {
		require.Equal(c.t, http.StatusOK, c.do("GET", "/api/exports/"+e.ID, nil, &e))
		return e.State != "waiting" && e.State != "running"
	})
	return e
}

// openElsewhere opens what was made with poppler and with qpdf.
func (c client) openElsewhere(e export.Export) {
	c.t.Helper()
	response, err := http.Get(c.url + "/api/exports/" + e.ID + "/file")
	require.NoError(c.t, err)
	defer response.Body.Close() //nolint:errcheck // only read from
	path := filepath.Join(c.t.TempDir(), "out.pdf")
	file, err := os.Create(path)
	require.NoError(c.t, err)
	_, err = file.ReadFrom(response.Body)
	require.NoError(c.t, err)
	require.NoError(c.t, file.Close())
	info, err := exec.Command("pdfinfo", path).CombinedOutput()
	require.NoError(c.t, err, string(info))
	assert.Contains(c.t, string(info), fmt.Sprintf("Pages:           %d\n", e.Total))
	pages, err := exec.Command("qpdf", "--show-npages", path).Output()
	if exit, ok := err.(*exec.ExitError); err != nil && (!ok || exit.ExitCode() != 3) { //nolint:errorlint // as it is given; 3 is a warning
		c.t.Errorf("qpdf: %v", err)
	}
	assert.Equal(c.t, fmt.Sprint(e.Total), strings.TrimSpace(string(pages)))
}
