// Package confine takes rights from processes that read what came from outside: the network, files
// other than those they need, privileges, memory. It does what the system can: on Linux by
// namespaces, Landlock and limits of resources; elsewhere next to nothing.
//
// The package knows nothing of what the processes do. It imports nothing of ours.
package confine

import "time"

// Rights are what a process keeps.
type Rights struct {
	// Folders are all that it may open files in; nil is any.
	Folders *Folders
	Limits
}

// Limits are how much of the machine a process can have.
type Limits struct {
	// Memory is how much it can write to, in bytes; 0 is any.
	Memory uint64
	// Processor is for how long it can compute, in whole seconds; it is killed afterwards. 0 is for ever.
	// Waiting does not count, so that a busy machine stops nothing.
	Processor time.Duration
	// Yields has it compute when hardly anything else wants to.
	Yields bool
}

// Folders are those in which a process reads files, or writes them as well. What is missing of
// them is passed over.
type Folders struct{ Read, Write []string }
