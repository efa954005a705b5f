package main

import (
	"context"
	"flag"
	"fmt"
	"io"

	"dorbin/internal/app"
	"dorbin/internal/demo"
	"dorbin/internal/scanner/sim"
)

// runScanner serves the simulated scanner alone.
func runScanner(ctx context.Context, args []string, stdout, stderr io.Writer) error {
	flags := flag.NewFlagSet("scanner", flag.ContinueOnError)
	flags.SetOutput(stderr)
	listen := flags.String("listen", "127.0.0.1:8282", "the address to listen on")
	announce := flags.Bool("announce", true, "announce it on the local network by DNS-SD")
	if err := readFlags(flags, args); err != nil {
		return unlessHelp(err)
	}
	device := demo.Scanner()
	address, err := serveScanner(ctx, device, *listen)
	if err != nil {
		return err
	}
	if *announce {
		stop, err := sim.Announce(device.Name, address)
		if err != nil {
			fmt.Fprintln(stderr, "The scanner is not announced on the network:", err)
		} else {
			defer stop()
		}
	}
	fmt.Fprintf(stdout, "The simulated scanner is at http://%s/\n", address)
	<-ctx.Done()
	return nil
}

// startDemoScanner serves the demo's scanner beside the application, and adds it
// there.
func startDemoScanner(ctx context.Context, a *app.App, listen string, stdout io.Writer) error {
	address, err := serveScanner(ctx, demo.Scanner(), listen)
	if err != nil {
		return err
	}
	known, err := a.Scanning.Scanners(ctx)
	if err != nil {
		return err
	}
	for _, s := range known { // of an earlier run, at another port
		if s.Name == demo.ScannerName {
			if err := a.Scanning.RemoveScanner(ctx, s.ID); err != nil {
				return err
			}
		}
	}
	if _, err := a.Scanning.AddScanner(ctx, address); err != nil {
		return fmt.Errorf("add the demo's scanner: %w", err)
	}
	fmt.Fprintf(stdout, "The simulated scanner is at http://%s/\n", address)
	return nil
}

// serveScanner serves a device until the context ends.
func serveScanner(ctx context.Context, device *sim.Device, listen string) (address string, err error) {
	if address, err = serveUntil(ctx, listen, device.Handler()); err != nil {
		return "", fmt.Errorf("serve the scanner: %w", err)
	}
	return address, nil
}
