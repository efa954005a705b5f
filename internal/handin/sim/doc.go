// Package sim is a simulated receiver of documents that ships with the program. It takes documents as
// a portal does (docs/portal.md), into a WebDAV folder, and by e-mail, shows what came on a page of
// its own, and misbehaves there when it is told to: it is slow, full, refuses, breaks off, answers
// nonsense or nothing.
//
// What it takes lies in a folder that it is given. It imports nothing of ours.
package sim
