package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"os"
	"path/filepath"

	"dorbin/core/requirements"
	"dorbin/internal/app"
	"dorbin/internal/intake"
	"dorbin/internal/ocr"
	"dorbin/internal/render"
)

// errNotMet says that a document does not meet a rule.
var errNotMet = errors.New("not all rules are met")

// errNotChecked says that nothing is known of a document.
var errNotChecked = errors.New("the document was not checked")

// runCheck holds a PDF against the rules of a receiver's file, and prints how each stands.
func runCheck(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("check", flag.ContinueOnError)
	flags.SetOutput(stderr)
	receiverFile := flags.String("receiver", "", "the receiver's file, whose rules it is held against")
	password := flags.String("password", "", "the password that opens the document")
	if err := fromEnvironment(flags); err != nil {
		return errors.Join(errNotChecked, err)
	}
	document, err := parseAround(flags, args)
	if errors.Is(err, flag.ErrHelp) {
		return nil
	}
	if err != nil {
		return errors.Join(errNotChecked, err)
	}
	receiver, err := readReceiver(*receiverFile)
	if err != nil {
		return errors.Join(errNotChecked, err)
	}
	verdicts, err := checkFile(ctx, document, *password, receiver)
	if err != nil {
		return errors.Join(errNotChecked, err)
	}
	return printVerdicts(stdout, filepath.Base(document), receiver.Name, verdicts)
}

// parseAround reads flags before and behind the one argument that is no flag.
func parseAround(flags *flag.FlagSet, args []string) (argument string, err error) {
	if err := flags.Parse(args); err != nil {
		return "", err
	}
	if flags.NArg() == 0 {
		return "", errors.New("say which PDF is to be checked: dorbin check FILE.pdf --receiver FILE.json")
	}
	argument = flags.Arg(0)
	if err := flags.Parse(flags.Args()[1:]); err != nil {
		return "", err
	}
	if flags.NArg() > 0 {
		return "", fmt.Errorf("%q is one argument too many", flags.Arg(0))
	}
	return argument, nil
}

func readReceiver(path string) (requirements.Receiver, error) {
	if path == "" {
		return requirements.Receiver{}, errors.New("say whose rules it is held against: --receiver FILE.json")
	}
	file, err := os.Open(path) //nolint:gosec // its user names it
	if err != nil {
		return requirements.Receiver{}, fmt.Errorf("open the receiver's file: %w", err)
	}
	defer file.Close() //nolint:errcheck // only read from
	receiver, err := requirements.ReadFile(file)
	if err != nil {
		return receiver, fmt.Errorf("%s: %w", filepath.Base(path), err)
	}
	return receiver, nil
}

// checkFile opens the program's own readers in a folder that is removed afterwards.
func checkFile(ctx context.Context, document, password string, receiver requirements.Receiver) (_ []requirements.Verdict, err error) {
	folder, err := os.MkdirTemp("", "dorbin-check-*")
	if err != nil {
		return nil, fmt.Errorf("make a folder to work in: %w", err)
	}
	defer func() { err = errors.Join(err, os.RemoveAll(folder)) }()
	a, err := app.Open(ctx, app.Options{
		Folder: folder, Limits: intake.DefaultLimits, Reader: ocr.Reader{}, Log: slog.New(slog.DiscardHandler), CodeCache: codeCache(),
	})
	if err != nil {
		return nil, err
	}
	defer func() { err = errors.Join(err, a.Close()) }()
	verdicts, err := a.CheckFile(ctx, document, password, receiver)
	switch {
	case errors.Is(err, render.ErrPassword):
		return nil, fmt.Errorf("%s is protected with a password, or with another one: give it by --password", document)
	case errors.Is(err, render.ErrNotPDF):
		return nil, fmt.Errorf("%s cannot be read as a PDF", document)
	case errors.Is(err, fs.ErrNotExist):
		return nil, fmt.Errorf("there is no file %s", document)
	}
	return verdicts, err
}

// codeCache is the user's folder for compiled code, which makes every check but the first quick; empty
// where there is none.
func codeCache() string {
	caches, err := os.UserCacheDir()
	if err != nil {
		return ""
	}
	folder := filepath.Join(caches, "dorbin", "pdfium")
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return ""
	}
	return folder
}

// printVerdicts prints how each rule stands. It returns errNotMet where one is not met.
func printVerdicts(out io.Writer, document, receiver string, verdicts []requirements.Verdict) error {
	words := map[requirements.State]string{requirements.Met: "met", requirements.NotMet: "NOT MET", requirements.Pending: "not known"}
	broken := 0
	for _, v := range verdicts {
		if v.State == requirements.NotMet {
			broken++
		}
		line := fmt.Sprintf("%-9s  %s", words[v.State], v.Title)
		if !v.Why.IsEmpty() {
			line += ": " + v.Why.English
		}
		fmt.Fprintln(out, line)
	}
	fmt.Fprintf(out, "%s meets %d of the %d rules of %s.\n", document, len(verdicts)-broken, len(verdicts), receiver)
	if broken > 0 {
		return errNotMet
	}
	return nil
}
