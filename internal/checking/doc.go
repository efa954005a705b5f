// Package checking analyses pages in the background and tells what is found: findings, what
// pages can be selected by, and which pages somebody has checked.
//
// It may draw pages and read their text, and imports render, sources, store and the core.
// The rules of what is a finding are in core/check.
package checking
