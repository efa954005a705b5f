// Package confine takes rights from processes that read what came from outside: the network, files
// other than those they need, privileges, memory. It does what the system can: on Linux by
// namespaces, Landlock and limits of resources; elsewhere next to nothing.
//
// The package knows nothing of what the processes do. It imports nothing of ours.
package confine

// Rights are what a process keeps.
type Rights struct {
	// Folders are all that it may open files in; nil is any.
	Folders *Folders
	// Memory is how much it can write to, in bytes; 0 is any.
	Memory uint64
}

// Folders are those in which a process reads files, or writes them as well. What is missing of
// them is passed over.
type Folders struct{ Read, Write []string }
