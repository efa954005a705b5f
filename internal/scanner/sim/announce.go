package sim

import (
	"errors"
	"fmt"
	"io"
	"log"
	"net"
	"os"
	"strconv"

	"github.com/hashicorp/mdns"

	"dorbin/internal/scanner"
)

// Announce tells the local network of a device at an address, by DNS-SD, until
// stop is called.
func Announce(name, address string) (stop func(), err error) {
	host, portText, err := net.SplitHostPort(address)
	if err != nil {
		return nil, fmt.Errorf("announce the scanner: %w", err)
	}
	port, err := strconv.Atoi(portText)
	if err != nil {
		return nil, fmt.Errorf("announce the scanner: %w", err)
	}
	machine, err := os.Hostname()
	if err != nil {
		return nil, fmt.Errorf("announce the scanner: %w", err)
	}
	ips, err := reachableAt(host)
	if err != nil {
		return nil, fmt.Errorf("announce the scanner: %w", err)
	}
	service, err := mdns.NewMDNSService(name, scanner.Service, "", machine+".", port, ips,
		[]string{"txtvers=1", "rs=eSCL", "ty=" + name, "pdl=image/jpeg", "cs=color,grayscale,binary", "is=platen,adf", "duplex=T"})
	if err != nil {
		return nil, fmt.Errorf("announce the scanner: %w", err)
	}
	server, err := mdns.NewServer(&mdns.Config{Zone: service, Logger: log.New(io.Discard, "", 0)})
	if err != nil {
		return nil, fmt.Errorf("announce the scanner: %w", err)
	}
	return func() { _ = server.Shutdown() }, nil // it answers no more either way
}

// reachableAt lists the addresses of a host; of all interfaces of this machine,
// when it listens on all.
func reachableAt(host string) ([]net.IP, error) {
	if ip := net.ParseIP(host); ip != nil && !ip.IsUnspecified() {
		return []net.IP{ip}, nil
	}
	addresses, err := net.InterfaceAddrs()
	if err != nil {
		return nil, err
	}
	var ips []net.IP
	for _, address := range addresses {
		if network, ok := address.(*net.IPNet); ok && !network.IP.IsLoopback() && network.IP.To4() != nil {
			ips = append(ips, network.IP)
		}
	}
	if len(ips) == 0 {
		return nil, errors.New("this machine is on no network")
	}
	return ips, nil
}
