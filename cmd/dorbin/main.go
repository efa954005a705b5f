// Command dorbin serves the application: "dorbin serve", "dorbin demo", "dorbin
// check", "dorbin scanner", "dorbin portal" and "dorbin version". Every flag can also be given as an environment variable:
// --data as DORBIN_DATA.
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"strings"
	"syscall"
	"time"

	"dorbin/core/finish"
	"dorbin/internal/app"
	"dorbin/internal/demo"
	"dorbin/internal/intake"
	"dorbin/internal/ocr"
	"dorbin/internal/server"
)

// version is set when the program is built.
var version = "development"

const usage = `Dorbin turns scans, photos and PDFs into one submission-ready document.

  dorbin serve [--data DIR] [--listen ADDR]   serve the application
  dorbin demo  [--data DIR] [--listen ADDR]   the same, with a packet to try things on
  dorbin check FILE.pdf --receiver FILE.json  hold a PDF against a receiver's rules: 0 all are met, 1 one is not, 2 it was not checked
  dorbin scanner [--listen ADDR]              a simulated network scanner with paper in it
  dorbin portal [--listen ADDR]               a simulated receiver of documents: a portal, a WebDAV folder, a mail server
  dorbin version                              print the version

Flags can be given as environment variables: DORBIN_DATA, DORBIN_LISTEN,
DORBIN_MAX_FILE_MB, DORBIN_TESSERACT, DORBIN_LANGUAGES. The demo starts a simulated scanner and a simulated receiver
too, at the addresses of --scanner-listen and --portal-listen. The password of the mail server is DORBIN_MAIL_PASSWORD.
`

// gcPercent trades a little time for memory: a document of scans is held while
// it is copied, and is most of what the program holds.
const gcPercent = 50

// softMemory is how many bytes the program tries to stay under by collecting more often.
const softMemory = 400 << 20

func main() {
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(gcPercent)
	}
	if os.Getenv("GOMEMLIMIT") == "" {
		debug.SetMemoryLimit(softMemory)
	}
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	err := run(ctx, os.Args[1:], os.Stdout, os.Stderr)
	switch {
	case errors.Is(err, errNotMet):
		os.Exit(1) // what is not met was printed
	case errors.Is(err, errNotChecked):
		fmt.Fprintln(os.Stderr, "dorbin:", err)
		os.Exit(2)
	case err != nil:
		fmt.Fprintln(os.Stderr, "dorbin:", err)
		os.Exit(1)
	}
}

func run(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	command := "help"
	if len(args) > 0 {
		command = args[0]
	}
	switch command {
	case "serve", "demo":
		settings, err := readSettings(command, args[1:], stderr)
		if err != nil {
			return unlessHelp(err)
		}
		slog.SetDefault(slog.New(slog.NewTextHandler(stderr, nil)))
		return serve(ctx, settings, stdout, slog.Default())
	case app.WorkerArgument:
		return app.Work(args[1:])
	case "scanner":
		return runScanner(ctx, args[1:], stdout, stderr)
	case "portal":
		return runPortal(ctx, args[1:], stdout, stderr)
	case "check":
		return runCheck(ctx, args[1:], stdout, stderr)
	case "version":
		fmt.Fprintln(stdout, "dorbin", version)
		return nil
	case "help", "-h", "--help":
		fmt.Fprint(stdout, usage)
		return nil
	}
	return fmt.Errorf("there is no command %q\n\n%s", command, usage)
}

type settings struct {
	data, listen  string
	scannerListen string
	portalListen  string
	folders       string // name=path, with commas between
	mailServer    string
	mailFrom      string
	trust         string // a file of certificates
	keyFile       string
	keepDays      int
	finish        string // a file of what is added to new packets
	tesseract     string
	languages     string
	maxFileMB     int64
	demo          bool
	withoutSignIn bool
}

func readSettings(command string, args []string, stderr io.Writer) (settings, error) {
	s := settings{demo: command == "demo"}
	folder := "dorbin"
	if s.demo {
		folder = "dorbin-demo"
	}
	flags := flag.NewFlagSet(command, flag.ContinueOnError)
	flags.SetOutput(stderr)
	flags.StringVar(&s.data, "data", dataFolder(folder), "the folder that holds all data")
	flags.StringVar(&s.listen, "listen", "127.0.0.1:8181", "the address to listen on")
	flags.Int64Var(&s.maxFileMB, "max-file-mb", intake.DefaultLimits.FileBytes>>20, "the largest file that is taken in, in MB")
	flags.StringVar(&s.tesseract, "tesseract", "tesseract", "the program that reads text in pictures; none reads none")
	flags.StringVar(&s.languages, "languages", "", "the languages that scans are read in where a packet has none, such as eng+deu")
	flags.BoolVar(&s.withoutSignIn, "without-sign-in", false, "listen beyond this machine, where anybody on the network can see everything")
	flags.StringVar(&s.folders, "folders", "", "folders that documents may be handed in to, and that PDFs are opened from, such as Outbox=/srv/outbox,Records=/srv/records")
	flags.StringVar(&s.mailServer, "mail-server", "", "the server that e-mails are sent through, such as smtp://mail.example:587 or smtps://user@mail.example:465")
	flags.StringVar(&s.mailFrom, "mail-from", "", "the address that e-mails come from")
	flags.StringVar(&s.trust, "trust", "", "a file of certificates (PEM) that are trusted besides those of the system, where documents are handed in")
	flags.StringVar(&s.keyFile, "key-file", "", "the file with the key that passwords for handing in are sealed with; in the data folder if it is not named")
	flags.IntVar(&s.keepDays, "keep-days", 0, "how many days new packets are kept, if nothing else is said; 0 keeps them for good")
	flags.StringVar(&s.finish, "finish", "", "a JSON file of what is added to new packets, such as {\"properties\": {\"on\": true, \"author\": \"…\"}}")
	if s.demo {
		flags.StringVar(&s.portalListen, "portal-listen", usualPortal, "the address of the simulated receiver; another port is taken if that one is")
		flags.StringVar(&s.scannerListen, "scanner-listen", "127.0.0.1:0", "the address of the simulated scanner")
	}
	if err := readFlags(flags, args); err != nil {
		return s, err
	}
	if flags.NArg() > 0 {
		return s, fmt.Errorf("%q is one argument too many", flags.Arg(0))
	}
	if s.keepDays < 0 {
		return s, errors.New("--keep-days is at least 0")
	}
	if s.maxFileMB <= 0 {
		return s, errors.New("--max-file-mb is at least 1")
	}
	if !isLocal(s.listen) && !s.withoutSignIn {
		return s, fmt.Errorf("--listen %s: anybody on the network could see and change everything, as there is no signing in. "+
			"Say --without-sign-in as well if that is meant, or listen on 127.0.0.1", s.listen)
	}
	return s, nil
}

// isLocal tells whether an address is reached from this machine alone.
func isLocal(listen string) bool {
	host, _, err := net.SplitHostPort(listen)
	if err != nil {
		return true // what is wrong with it is told by whoever listens
	}
	ip := net.ParseIP(host)
	return host == "localhost" || (ip != nil && ip.IsLoopback())
}

// readFlags sets flags from the environment and from the command line. It returns flag.ErrHelp where
// help was asked for, and printed.
func readFlags(flags *flag.FlagSet, args []string) error {
	if err := fromEnvironment(flags); err != nil {
		return err
	}
	if err := flags.Parse(args); err != nil {
		return fmt.Errorf("read flags: %w", err)
	}
	return nil
}

// unlessHelp gives an error, unless it is that help was asked for.
func unlessHelp(err error) error {
	if errors.Is(err, flag.ErrHelp) {
		return nil
	}
	return err
}

// serveUntil serves HTTP at an address until the context ends, and gives where that is.
func serveUntil(ctx context.Context, listen string, handler http.Handler) (address string, err error) {
	listener, err := net.Listen("tcp", listen)
	if err != nil {
		return "", fmt.Errorf("listen: %w", err)
	}
	server := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second}
	go func() { _ = server.Serve(listener) }() // ends with the context
	context.AfterFunc(ctx, func() { _ = server.Close() })
	return listener.Addr().String(), nil
}

// fromEnvironment sets flags from DORBIN_ variables: max-file-mb from
// DORBIN_MAX_FILE_MB. What is given on the command line comes later and wins.
func fromEnvironment(flags *flag.FlagSet) error {
	var err error
	flags.VisitAll(func(f *flag.Flag) {
		name := "DORBIN_" + strings.ToUpper(strings.ReplaceAll(f.Name, "-", "_"))
		if value, ok := os.LookupEnv(name); ok {
			if setErr := flags.Set(f.Name, value); setErr != nil {
				err = errors.Join(err, fmt.Errorf("%s: %w", name, setErr))
			}
		}
	})
	return err
}

// readFinish reads the file of what is added to new packets; without one, it is nothing.
func readFinish(path string) (finish.Finish, error) {
	if path == "" {
		return finish.Finish{}, nil
	}
	file, err := os.Open(path)
	if err != nil {
		return finish.Finish{}, fmt.Errorf("--finish: %w", err)
	}
	defer file.Close() //nolint:errcheck // it is read
	added, err := finish.ReadDefaults(file)
	if err != nil {
		return added, fmt.Errorf("--finish %s: %w", path, err)
	}
	return added, nil
}

// languagesOf parts languages that are joined by +.
func languagesOf(joined string) []string {
	return strings.FieldsFunc(joined, func(r rune) bool { return r == '+' || r == ',' || r == ' ' })
}

func dataFolder(name string) string {
	base, err := os.UserConfigDir()
	if err != nil {
		base = "."
	}
	return filepath.Join(base, name)
}

// shutdownTime is how long requests under way may take to finish.
const shutdownTime = 10 * time.Second

func serve(ctx context.Context, s settings, stdout io.Writer, log *slog.Logger) (err error) {
	listener, err := net.Listen("tcp", s.listen)
	if err != nil {
		return fmt.Errorf("listen: %w", err)
	}
	defer listener.Close() //nolint:errcheck // closed by the server
	limits := intake.DefaultLimits
	limits.FileBytes = s.maxFileMB << 20
	allowed, err := s.handInSettings()
	if err != nil {
		return err
	}
	added, err := readFinish(s.finish)
	if err != nil {
		return err
	}
	var office simulatedOffice
	if s.demo {
		if office, allowed, err = startDemoOffice(ctx, s, allowed); err != nil {
			return err
		}
	}
	a, err := app.Open(ctx, app.Options{
		Folder: s.data, Limits: limits, Reader: ocr.Reader{Program: s.tesseract}, Languages: languagesOf(s.languages), Log: log,
		HandIn: allowed, KeepDays: s.keepDays, Finish: added,
	})
	if err != nil {
		return fmt.Errorf("open data folder %s: %w", s.data, err)
	}
	defer func() { err = errors.Join(err, a.Close()) }()
	if s.demo {
		if err := makeDemoFolders(s.data); err != nil {
			return err
		}
		if err := demo.Load(ctx, a, "http://"+office.address+"/upload"); err != nil {
			return fmt.Errorf("load the demo: %w", err)
		}
		fmt.Fprintf(stdout, "The simulated receiver is at http://%s/\n", office.address)
		if err := startDemoScanner(ctx, a, s.scannerListen, stdout); err != nil {
			return err
		}
	}
	requests, cancelRequests := context.WithCancel(context.Background())
	defer cancelRequests()
	handler := &http.Server{
		Handler:           server.New(a, version, s.listen),
		ReadHeaderTimeout: 10 * time.Second,
		IdleTimeout:       2 * time.Minute,
		BaseContext:       func(net.Listener) context.Context { return requests },
	}
	failed := make(chan error, 1)
	go func() { failed <- handler.Serve(listener) }()
	log.Info("ready", "address", listener.Addr().String(), "data", s.data, "version", version)
	fmt.Fprintf(stdout, "Dorbin is at http://%s/\n", listener.Addr())
	if !isLocal(s.listen) {
		fmt.Fprintln(stdout, "Anybody on the network can see and change everything in it: there is no signing in.")
	}
	select {
	case err := <-failed:
		return fmt.Errorf("serve: %w", err)
	case <-ctx.Done():
	}
	log.Info("shutting down")
	cancelRequests() // ends the event streams, which would never end by themselves
	ending, cancel := context.WithTimeout(context.Background(), shutdownTime)
	defer cancel()
	if err := handler.Shutdown(ending); err != nil {
		return fmt.Errorf("shut down: %w", err)
	}
	return nil
}
