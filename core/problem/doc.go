// Package problem is the one kind of error whose words users read. Every room that refuses
// something, or fails for a reason that its user can do something about, says so by an Error;
// what any other error says is for the log alone.
package problem
