package office

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"dorbin/internal/confine"
)

// Converter converts documents with LibreOffice.
type Converter struct {
	Program string        // its path; looked for when empty
	Time    time.Duration // for one file; DefaultTime when zero
	// Scratch is the folder in which documents are while they are converted; the system's own when empty.
	Scratch string
	// Confined starts this program again so that it does Be with the arguments behind.
	// Without it LibreOffice is started as it is.
	Confined []string
}

// Run is the first of a worker's arguments where it is to become LibreOffice.
const Run = "office"

// memory is how much LibreOffice can write to, in bytes.
const memory = 3 << 30

// Be becomes LibreOffice in a process that can read the system's own files, and use a folder.
// The arguments are the folder, the program and its arguments.
func Be(args []string) error {
	if len(args) < 2 {
		return errors.New("LibreOffice is started by the program, with its folder")
	}
	return confine.Exec(args[0], confine.Limits{Memory: memory}, args[1], args[2:]...)
}

// DefaultTime is enough for some hundred pages.
const DefaultTime = 2 * time.Minute

// Errors of conversions. Those that are neither are of the machine, or of a context that ended.
var (
	ErrNotInstalled = errors.New("LibreOffice is not installed")
	ErrTooSlow      = errors.New("LibreOffice took too long")
	ErrNothing      = errors.New("LibreOffice made nothing of the document")
)

// programs are where LibreOffice is found.
var programs = []string{
	"soffice", "libreoffice",
	"/Applications/LibreOffice.app/Contents/MacOS/soffice",
	`C:\Program Files\LibreOffice\program\soffice.exe`,
}

func (c Converter) program() (string, error) {
	candidates := programs
	if c.Program != "" {
		candidates = []string{c.Program}
	}
	for _, candidate := range candidates {
		if path, err := exec.LookPath(candidate); err == nil {
			return path, nil
		}
	}
	return "", ErrNotInstalled
}

// IsInstalled tells whether there is a LibreOffice.
func (c Converter) IsInstalled() bool {
	_, err := c.program()
	return err == nil
}

// profile is the profile that a conversion runs with, and that is thrown
// away: no macros, no links to elsewhere, nothing fetched.
const profile = `<?xml version="1.0" encoding="UTF-8"?>
<oor:items xmlns:oor="http://openoffice.org/2001/registry" xmlns:xs="http://www.w3.org/2001/XMLSchema">
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="MacroSecurityLevel" oor:op="fuse"><value>3</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="DisableMacrosExecution" oor:op="fuse"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="BlockUntrustedRefererLinks" oor:op="fuse"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="DisableActiveContent" oor:op="fuse"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Writer/Content/Update"><prop oor:name="Link" oor:op="fuse"><value>0</value></prop></item>
<item oor:path="/org.openoffice.Office.Calc/Content/Update"><prop oor:name="Link" oor:op="fuse"><value>2</value></prop></item>
<item oor:path="/org.openoffice.Inet/Settings"><prop oor:name="ooInetProxyType" oor:op="fuse"><value>1</value></prop></item>
<item oor:path="/org.openoffice.Inet/Settings"><prop oor:name="ooInetHTTPProxyName" oor:op="fuse"><value>127.0.0.1</value></prop></item>
<item oor:path="/org.openoffice.Inet/Settings"><prop oor:name="ooInetHTTPProxyPort" oor:op="fuse"><value>9</value></prop></item>
<item oor:path="/org.openoffice.Inet/Settings"><prop oor:name="ooInetHTTPSProxyName" oor:op="fuse"><value>127.0.0.1</value></prop></item>
<item oor:path="/org.openoffice.Inet/Settings"><prop oor:name="ooInetHTTPSProxyPort" oor:op="fuse"><value>9</value></prop></item>
</oor:items>
`

// one has one LibreOffice run at a time, however many files are converted: each takes hundreds
// of megabytes.
var one = make(chan struct{}, 1)

// Limit is how long a conversion may take.
func (c Converter) Limit() time.Duration {
	if c.Time > 0 {
		return c.Time
	}
	return DefaultTime
}

// Kind is what a document is converted to: a file extension, and the names of LibreOffice's filters
// where it would choose others.
type Kind struct {
	Extension string // without the dot
	Reads     string // the filter that reads the document; empty is found by its extension
	Writes    string // the filter that writes it; empty is that of the extension
}

// Convert writes a document, whose name tells what it is, in another format. The program gets a folder
// and a profile of its own, a limited time, and where the system allows it no network.
func (c Converter) Convert(ctx context.Context, path, name string, to Kind, w io.Writer) error {
	program, err := c.program()
	if err != nil {
		return err
	}
	select {
	case one <- struct{}{}:
		defer func() { <-one }()
	case <-ctx.Done():
		return ctx.Err()
	}
	folder, err := os.MkdirTemp(c.Scratch, "dorbin-office-*")
	if err != nil {
		return fmt.Errorf("convert %s: %w", name, err)
	}
	defer os.RemoveAll(folder) //nolint:errcheck // nobody else looks there
	input, err := prepare(folder, path, name)
	if err != nil {
		return fmt.Errorf("convert %s: %w", name, err)
	}
	limited, cancel := context.WithTimeout(ctx, c.Limit())
	defer cancel()
	said, err := runApart(c.command(limited, program, folder, input, to))
	switch {
	case ctx.Err() != nil:
		return ctx.Err()
	case limited.Err() != nil:
		return errors.Join(ErrTooSlow, limited.Err())
	}
	file, openErr := os.Open(filepath.Join(folder, "out", "document."+to.Extension))
	if openErr != nil {
		return errors.Join(ErrNothing, err, errors.New(strings.TrimSpace(said)))
	}
	defer file.Close() //nolint:errcheck // only read from
	if _, err := io.Copy(w, file); err != nil {
		return fmt.Errorf("convert %s: %w", name, err)
	}
	return nil
}

func (c Converter) command(ctx context.Context, program, folder, input string, to Kind) *exec.Cmd {
	words := []string{program, "--headless", "--norestore", "--nolockcheck", "--nodefault", "--nologo",
		"-env:UserInstallation=file://" + filepath.ToSlash(filepath.Join(folder, "profile"))}
	if to.Reads != "" {
		words = append(words, "--infilter="+to.Reads)
	}
	kind := to.Extension
	if to.Writes != "" {
		kind += ":" + to.Writes
	}
	words = append(words, "--convert-to", kind, "--outdir", filepath.Join(folder, "out"), input)
	if len(c.Confined) > 0 {
		words = slices.Concat(c.Confined, []string{folder}, words)
	}
	command := exec.CommandContext(ctx, words[0], words[1:]...) //nolint:gosec // the program itself, or LibreOffice
	command.Env = append(os.Environ(), "HOME="+folder, "TMPDIR="+folder, "http_proxy=http://127.0.0.1:9", "https_proxy=http://127.0.0.1:9")
	command.WaitDelay = 5 * time.Second
	return command
}

// runApart runs a command without a network, where the system allows it; its profile and
// environment keep it from fetching too. When it is given up, all that it started is killed.
func runApart(command *exec.Cmd) (said string, err error) {
	var out bytes.Buffer
	command.Stdout, command.Stderr = &out, &out
	command.Cancel = func() error { return confine.KillGroup(command) }
	if err := confine.Start(command); err != nil {
		return "", err
	}
	err = command.Wait()
	return out.String(), err
}

// prepare lays out the profile and a copy of the document under a name of
// our own, with its extension.
func prepare(folder, path, name string) (input string, err error) {
	user := filepath.Join(folder, "profile", "user")
	if err := os.MkdirAll(user, 0o700); err != nil {
		return "", err
	}
	if err := os.WriteFile(filepath.Join(user, "registrymodifications.xcu"), []byte(profile), 0o600); err != nil {
		return "", err
	}
	extension := strings.ToLower(filepath.Ext(name))
	if strings.ContainsFunc(extension, func(r rune) bool { return r != '.' && (r < '0' || r > 'z') }) || len(extension) > 6 {
		extension = ""
	}
	input = filepath.Join(folder, "document"+extension)
	in, err := os.Open(path)
	if err != nil {
		return "", err
	}
	defer in.Close() //nolint:errcheck // only read from
	out, err := os.OpenFile(input, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return "", err
	}
	_, err = io.Copy(out, in)
	return input, errors.Join(err, out.Close())
}
