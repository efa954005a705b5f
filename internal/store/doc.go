// Package store keeps everything that must survive: packets with their command
// logs, sources and exports in an SQLite file, and the immutable bytes of
// sources and exports as files named by their SHA-256.
//
// It may touch the database and its data folder, and import core/packet. It
// knows nothing of HTTP or of how pages are drawn.
package store
