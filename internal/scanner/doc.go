// Package scanner drives network scanners over eSCL, the openly published
// driverless protocol (Mopria Alliance, "eSCL Technical Specification"): XML over
// HTTP. It reads what a device can do, starts scans, fetches the pages one by
// one, and looks for devices by DNS-SD (RFC 6763).
//
// It may use the network, but only to reach devices it is told of or finds on
// the local link. It knows nothing of packets.
package scanner
