package scanning

import (
	"context"
	"errors"
	"time"

	"dorbin/core/message"
	"dorbin/core/problem"
	"dorbin/internal/scanner"
	"dorbin/internal/store"
)

// Scanner is a device that can be scanned from.
type Scanner struct {
	ID      string `json:"id"`
	Name    string `json:"name"`
	Address string `json:"address"`
}

// ScannerState is what a device can do and how it is.
type ScannerState struct {
	Capabilities *scanner.Capabilities `json:"capabilities,omitempty"`
	Loaded       bool                  `json:"loaded" doc:"There is paper in the feeder."`
	Problem      message.Text          `json:"problem,omitzero" doc:"Why it cannot be used now, in a sentence."`
}

// Scanners lists the devices that were added.
func (s *Service) Scanners(ctx context.Context) ([]Scanner, error) {
	known, err := s.store.Scanners(ctx)
	if err != nil {
		return nil, err
	}
	list := make([]Scanner, len(known))
	for i, s := range known {
		list[i] = Scanner(s)
	}
	return list, nil
}

// AddScanner adds the device at an address, if one answers there. What is wrong
// is a *problem.Error.
func (s *Service) AddScanner(ctx context.Context, address string) (Scanner, error) {
	client, err := scanner.NewClient(address)
	if err != nil {
		return Scanner{}, err
	}
	capabilities, err := client.Capabilities(ctx)
	if err != nil {
		return Scanner{}, err
	}
	kept, err := s.store.AddScanner(ctx, store.Scanner{ID: store.NewID("d"), Name: capabilities.Name, Address: client.Address()})
	return Scanner(kept), err
}

// RemoveScanner forgets a device.
func (s *Service) RemoveScanner(ctx context.Context, id string) error {
	return s.store.DeleteScanner(ctx, id)
}

// searchTime is how long devices have to announce themselves.
const searchTime = 2 * time.Second

// SearchScanners looks for devices on the local network and adds those that
// answer.
func (s *Service) SearchScanners(ctx context.Context) ([]Scanner, error) {
	for _, found := range scanner.Discover(ctx, searchTime) {
		if _, err := s.AddScanner(ctx, found.Address); err != nil {
			s.log.Info("announced scanner does not answer", "error", err)
		}
	}
	return s.Scanners(ctx)
}

// ScannerState asks a device what it can do and how it is.
func (s *Service) ScannerState(ctx context.Context, id string) (ScannerState, error) {
	client, err := s.scannerClient(ctx, id)
	if err != nil {
		return ScannerState{}, err
	}
	capabilities, err := client.Capabilities(ctx)
	var fault *problem.Error
	if errors.As(err, &fault) {
		return ScannerState{Problem: fault.Sentence}, nil
	}
	if err != nil {
		return ScannerState{}, err
	}
	status, err := client.Status(ctx)
	if errors.As(err, &fault) {
		return ScannerState{Problem: fault.Sentence}, nil
	}
	return ScannerState{Capabilities: &capabilities, Loaded: status.Loaded()}, err
}

func (s *Service) scannerClient(ctx context.Context, id string) (*scanner.Client, error) {
	known, err := s.store.Scanner(ctx, id)
	if err != nil {
		return nil, err
	}
	return scanner.NewClient(known.Address)
}
