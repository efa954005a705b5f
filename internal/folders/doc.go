// Package folders reads and writes the folders that the installation allows. Nothing outside them is
// reached, through links neither, and no file is overwritten: a new one takes a name that is free, and
// one that takes the place of another does so only while the other is as it was, and keeps it.
//
// It imports the words of problems alone.
package folders
