// Package packets keeps packets: it carries out commands on them, takes them back, copies packets,
// and shows packets and their pages.
//
// The rules of the commands are in core/packet. The package imports checking, render,
// sources, store and the core, and knows nothing of HTTP.
package packets
