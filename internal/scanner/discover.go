package scanner

import (
	"context"
	"io"
	"log"
	"net"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/hashicorp/mdns"
)

// Service is the DNS-SD type of eSCL devices.
const Service = "_uscan._tcp"

// Found is a device that announces itself.
type Found struct {
	Name    string `json:"name"`
	Address string `json:"address"`
}

// Discover asks the local network for devices and listens for a while. A network
// that does not carry such questions gives none.
func Discover(ctx context.Context, patience time.Duration) []Found {
	entries := make(chan *mdns.ServiceEntry, 64)
	done := make(chan []Found)
	go func() {
		var found []Found
		for entry := range entries {
			if f, ok := foundDevice(entry); ok && !slices.Contains(found, f) {
				found = append(found, f)
			}
		}
		done <- found
	}()
	params := mdns.DefaultParams(Service)
	params.Entries, params.Timeout = entries, patience
	params.DisableIPv6 = true
	params.Logger = log.New(io.Discard, "", 0)
	_ = mdns.QueryContext(ctx, params) // no network is no devices
	close(entries)
	return <-done
}

func foundDevice(entry *mdns.ServiceEntry) (Found, bool) {
	instance, isScanner := strings.CutSuffix(entry.Name, "."+Service+".local.")
	if !isScanner || entry.AddrV4 == nil {
		return Found{}, false
	}
	root := "eSCL"
	name := strings.ReplaceAll(instance, `\ `, " ")
	for _, field := range entry.InfoFields {
		if value, ok := strings.CutPrefix(field, "rs="); ok && value != "" {
			root = strings.Trim(value, "/")
		}
		if value, ok := strings.CutPrefix(field, "ty="); ok && value != "" {
			name = value
		}
	}
	address := url.URL{Scheme: "http", Host: net.JoinHostPort(entry.AddrV4.String(), strconv.Itoa(entry.Port)), Path: "/" + root}
	return Found{Name: boundedName(name), Address: address.String()}, true
}
