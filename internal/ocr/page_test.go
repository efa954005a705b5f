package ocr

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/raster"
	"dorbin/core/text"
)

func TestTextOfAPage(t *testing.T) {
	page := written(t, 1000, 300, "Repair of the boathouse roof, 2026.", "Slates and lead are to be renewed.")
	read, err := Reader{}.Text(t.Context(), page, []string{"eng"}, 200)
	require.NoError(t, err)
	assert.Equal(t, "Repair of the boathouse roof, 2026.\nSlates and lead are to be renewed.", strings.ReplaceAll(read.String(), "\n\n", "\n"))
	first := read.Lines[0]
	assert.InDelta(t, 40, first.At.X, 4)
	assert.InDelta(t, 120, first.At.Y, 3, "the baseline of the drawing")
	assert.InDelta(t, 11*200/72.0, first.Size, 6)
	assert.InDelta(t, 0, first.Angle, 0.5)
}

func TestTextOnItsSideIsInItsPlace(t *testing.T) {
	page := written(t, 1000, 300, "Repair of the boathouse roof, 2026.", "Slates and lead are to be renewed.")
	read, err := Reader{}.Text(t.Context(), raster.Turn(page, 270), []string{"eng"}, 200)
	require.NoError(t, err)
	require.NotEmpty(t, read.Lines)
	for _, line := range read.Lines {
		if strings.Contains(line.Words[0].Text, "Repair") {
			assert.InDelta(t, -90, line.Angle, 2)
			assert.InDelta(t, 120, line.At.X, 8)
		}
	}
}

func TestLanguages(t *testing.T) {
	installed, err := Reader{}.Languages(t.Context())
	require.NoError(t, err)
	assert.Contains(t, installed, Language{"eng", "English", "en"})
	_, err = Reader{Program: "no-such-program"}.Languages(t.Context())
	assert.ErrorIs(t, err, ErrNotInstalled)

	listed := parseLanguages("List of available languages in \"/usr/share/\" (6):\nosd\nchi_sim\ndeu\nscript/Latin\njpn_vert\nno such\n")
	assert.Equal(t, []Language{
		{"deu", "German", "de"}, {"jpn_vert", "Japanese, upright lines", "ja"}, {"chi_sim", "Simplified Chinese", "zh-Hans"},
	}, listed)
}

// TestProgramsThatFail has programs in the place of the recognition that crash, hang and answer
// nonsense.
func TestProgramsThatFail(t *testing.T) {
	page := written(t, 100, 100)
	for name, script := range map[string]string{
		"crashes":  "cat >/dev/null; kill -SEGV $$",
		"nonsense": "cat >/dev/null; echo '<html><body><div'",
		"boxes":    `cat >/dev/null; echo "<p class='ocr_par'><span class='ocr_line' title='bbox 9 9 1 1'></span></p>"`,
		"endless":  "cat >/dev/null; yes x",
	} {
		t.Run(name, func(t *testing.T) {
			path := filepath.Join(t.TempDir(), "reader")
			require.NoError(t, os.WriteFile(path, []byte("#!/bin/sh\n"+script+"\n"), 0o700)) //nolint:gosec // a program
			_, err := Reader{Program: path}.Text(t.Context(), page, []string{"eng"}, 200)
			assert.Error(t, err)
		})
	}
}

func FuzzHOCR(f *testing.F) {
	f.Add("<html><body><div class='ocr_page'><p class='ocr_par' dir='rtl'><span class='ocr_line' title=\"bbox 1 2 30 40; baseline 0.01 -3; x_size 20; x_descenders 4\">" +
		"<span class='ocrx_word' title='bbox 1 2 30 40; x_wconf 93'>Roof&amp;</span></span></p></div></body></html>")
	f.Add("<span class='ocr_line' title='bbox 1 2 30 40; textangle 90'><span class='ocrx_word' title='bbox 1 2 30 40'>x</span></span>")
	f.Add("<span class='ocrx_word' title='bbox 0 0 0 0; x_wconf -7'><strong>x</strong></span>")
	f.Fuzz(func(t *testing.T, answer string) {
		page, err := parseHOCR(strings.NewReader(answer))
		if err != nil {
			assert.Equal(t, text.Page{}, page)
			return
		}
		for _, line := range page.Lines {
			assert.NotEmpty(t, line.Words)
			for _, word := range line.Words {
				assert.NotEmpty(t, word.Text)
				assert.GreaterOrEqual(t, word.Width, 0.0)
			}
		}
	})
}
