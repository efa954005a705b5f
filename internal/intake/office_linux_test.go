package intake

import (
	"bytes"
	"os"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/sys/unix"

	"dorbin/internal/office"
	"dorbin/internal/sampling"
	"dorbin/internal/worker/workertest"
)

// TestLibreOfficeReadsNoFilesOfTheUser has it convert a document that asks for a picture from the
// user's disk: as it is started by itself it takes it, as the program starts it it cannot.
func TestLibreOfficeReadsNoFilesOfTheUser(t *testing.T) {
	sampling.Heavy(t)
	if abi, _, failed := unix.Syscall(unix.SYS_LANDLOCK_CREATE_RULESET, 0, 0, 1); failed != 0 || abi < 1 {
		t.Skip("this kernel has no Landlock")
	}
	private := save(t, "private.png", encodePNG(t, scenery()))
	rtf := save(t, "letter.rtf", []byte(`{\rtf1\ansi Larkmere letter\par {\field{\*\fldinst INCLUDEPICTURE "file://`+private+`"}{\fldrslt }}}`))
	pictures := func(converter office.Converter) int {
		in := Inspector{Limits: DefaultLimits, Office: converter, Pool: workers}
		var out bytes.Buffer
		require.NoError(t, in.Convert(t.Context(), Office, rtf, "letter.rtf", &out))
		path := save(t, "out.pdf", out.Bytes())
		words, err := exec.Command("pdftotext", path, "-").Output()
		require.NoError(t, err)
		assert.Contains(t, string(words), "Larkmere letter")
		list, err := exec.Command("pdfimages", "-list", path).Output()
		require.NoError(t, err)
		return strings.Count(string(list), " image ")
	}
	assert.Equal(t, 1, pictures(office.Converter{}), "else this test tells nothing")
	assert.Zero(t, pictures(office.Converter{Confined: []string{os.Args[0], workertest.Argument, office.Run}}))
}
