// Package sim is a simulated network scanner that ships with the program. It
// speaks eSCL, as real devices do, has a feeder with a stack of sheets and a
// glass, takes time for each sheet, and misbehaves when it is told to, on a
// small page of its own.
//
// It may listen on the network it is given and announce itself by DNS-SD. What
// the sheets look like comes from its caller.
package sim
