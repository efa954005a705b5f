// Package typeface has the typefaces that ship with the program for what is added to pages:
// how wide a text is in one, which letters it lacks, and the part of its file that a document
// needs.
//
// The package is pure. The files are TrueType (ISO/IEC 14496-22), and licensed under the SIL Open
// Font License; table names below are those of that standard.
package typeface
