// Package receivers keeps whom documents are for, and holds packets against what they ask for at every
// moment: by the plan, the findings and the text.
//
// It changes no packet: what would settle a rule is told as commands. It imports checking, reading,
// export, packets, sources, store and the core; the rules themselves are core/requirements.
package receivers
