package intake

import (
	"bytes"
	"context"
	"dorbin/internal/confine"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// OfficeConverter makes PDFs of text documents and spreadsheets with
// LibreOffice, a separate program.
type OfficeConverter struct {
	Program string        // its path; looked for when empty
	Time    time.Duration // for one file; DefaultOfficeTime when zero
	// Confined starts this program again so that it does BeOffice with the arguments behind.
	// Without it LibreOffice is started as it is.
	Confined []string
}

// RunOffice is the first of a worker's arguments where it is to become LibreOffice.
const RunOffice = "office"

// officeMemory is how much LibreOffice can write to, in bytes.
const officeMemory = 3 << 30

// BeOffice becomes LibreOffice in a process that can read the system's own files, and use a folder.
// The arguments are the folder, the program and its arguments.
func BeOffice(args []string) error {
	if len(args) < 2 {
		return errors.New("LibreOffice is started by the program, with its folder")
	}
	return confine.Exec(args[0], officeMemory, args[1], args[2:]...)
}

// DefaultOfficeTime is enough for some hundred pages.
const DefaultOfficeTime = 2 * time.Minute

// officePrograms are where LibreOffice is found.
var officePrograms = []string{
	"soffice", "libreoffice",
	"/Applications/LibreOffice.app/Contents/MacOS/soffice",
	`C:\Program Files\LibreOffice\program\soffice.exe`,
}

func (o OfficeConverter) program() (string, error) {
	candidates := officePrograms
	if o.Program != "" {
		candidates = []string{o.Program}
	}
	for _, candidate := range candidates {
		if path, err := exec.LookPath(candidate); err == nil {
			return path, nil
		}
	}
	return "", exec.ErrNotFound
}

// officeProfile is the profile that a conversion runs with, and that is thrown
// away: no macros, no links to elsewhere, nothing fetched.
const officeProfile = `<?xml version="1.0" encoding="UTF-8"?>
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

// oneOffice has one LibreOffice run at a time, however many files are added: each takes hundreds
// of megabytes.
var oneOffice = make(chan struct{}, 1)

// convert writes the PDF of a document. The program gets a folder and a profile
// of its own, a limited time, and where the system allows it no network.
func (o OfficeConverter) convert(ctx context.Context, path, name string, w io.Writer) error {
	program, err := o.program()
	if err != nil {
		return refuse(NeedsOffice, err, "%s is a text document or spreadsheet, which takes LibreOffice to read, and that is not installed here. "+
			"Install it (on Debian: apt install libreoffice-writer libreoffice-calc), or save the file as PDF and add that.", name)
	}
	select {
	case oneOffice <- struct{}{}:
		defer func() { <-oneOffice }()
	case <-ctx.Done():
		return ctx.Err()
	}
	folder, err := os.MkdirTemp("", "dorbin-office-*")
	if err != nil {
		return fmt.Errorf("convert %s: %w", name, err)
	}
	defer os.RemoveAll(folder) //nolint:errcheck // nobody else looks there
	input, err := prepareOffice(folder, path, name)
	if err != nil {
		return fmt.Errorf("convert %s: %w", name, err)
	}
	limit := o.Time
	if limit == 0 {
		limit = DefaultOfficeTime
	}
	ctx, cancel := context.WithTimeout(ctx, limit)
	defer cancel()
	words := []string{program, "--headless", "--norestore", "--nolockcheck", "--nodefault", "--nologo",
		"-env:UserInstallation=file://" + filepath.ToSlash(filepath.Join(folder, "profile")),
		"--convert-to", "pdf", "--outdir", filepath.Join(folder, "out"), input}
	if len(o.Confined) > 0 {
		words = slices.Concat(o.Confined, []string{folder}, words)
	}
	command := exec.CommandContext(ctx, words[0], words[1:]...) //nolint:gosec // the program itself, or LibreOffice
	command.Env = append(os.Environ(), "HOME="+folder, "TMPDIR="+folder, "http_proxy=http://127.0.0.1:9", "https_proxy=http://127.0.0.1:9")
	command.WaitDelay = 5 * time.Second
	said, err := runApart(command)
	switch {
	case errors.Is(ctx.Err(), context.DeadlineExceeded):
		return refuse(Damaged, ctx.Err(), "%s was not added: making pages of it took longer than %d seconds. Save it as PDF and add that.", name, int(limit.Seconds()))
	case ctx.Err() != nil:
		return ctx.Err()
	}
	file, openErr := os.Open(filepath.Join(folder, "out", "document.pdf"))
	if openErr != nil {
		return refuse(Damaged, errors.Join(err, errors.New(strings.TrimSpace(said))),
			"%s cannot be opened: it is damaged or protected with a password. Save it as PDF and add that.", name)
	}
	defer file.Close() //nolint:errcheck // only read from
	if _, err := io.Copy(w, file); err != nil {
		return fmt.Errorf("convert %s: %w", name, err)
	}
	return nil
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

// prepareOffice lays out the profile and a copy of the document under a name of
// our own, with its extension.
func prepareOffice(folder, path, name string) (input string, err error) {
	user := filepath.Join(folder, "profile", "user")
	if err := os.MkdirAll(user, 0o700); err != nil {
		return "", err
	}
	if err := os.WriteFile(filepath.Join(user, "registrymodifications.xcu"), []byte(officeProfile), 0o600); err != nil {
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
