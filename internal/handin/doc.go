// Package handin hands finished documents in: to a folder that the installation allows, to a WebDAV
// folder, by e-mail, to a portal by HTTP, or by noting that somebody took the file there. It keeps
// what was handed in, with the exact bytes, and tells what changed afterwards.
//
// A document is handed in whole or not at all, overwrites nothing, and is not sent twice after a
// broken line: each channel notes how far it came, and looks there before it begins again. Where that
// cannot be known, as with e-mail, it is said, and nothing is sent again by itself.
//
// Passwords are kept sealed, with a key that is a file of its own. Addresses, certificates and answers
// are not trusted: answers are bounded in size and time, redirects are told and not followed, and
// nothing goes unencrypted beyond this machine.
//
// The room reads exports and writes deliveries. It knows no pages.
package handin
