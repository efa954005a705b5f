// Package keeping says how long packets are kept, tells what belongs to one, and deletes those whose
// day has come: sources, pictures, text, exports and what was handed in. A line stays of what was
// handed in, if that is wanted: when, to whom, and which file, without its content.
//
// It deletes packets through the room packets, which ends their jobs first. When a packet's day comes,
// the earlier versions go too that the room filing kept in folders.
package keeping
