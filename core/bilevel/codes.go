package bilevel

import "strings"

// The code words of T.4, tables 2, 3a and 3b, in the order of their run
// lengths: terminating codes for 0 to 63, make-up codes for 64 to 1728 in steps
// of 64, and extended make-up codes, the same for both colours, for 1792 to 2560.

// whiteTerminating are the codes of white runs of 0 to 63.
const whiteTerminating = `
00110101 000111 0111 1000 1011 1100 1110 1111 10011 10100 00111 01000 001000 000011 110100
110101 101010 101011 0100111 0001100 0001000 0010111 0000011 0000100 0101000 0101011 0010011
0100100 0011000 00000010 00000011 00011010 00011011 00010010 00010011 00010100 00010101
00010110 00010111 00101000 00101001 00101010 00101011 00101100 00101101 00000100 00000101
00001010 00001011 01010010 01010011 01010100 01010101 00100100 00100101 01011000 01011001
01011010 01011011 01001010 01001011 00110010 00110011 00110100`

// whiteMakeUp are the codes of white runs of 64 to 1728.
const whiteMakeUp = `
11011 10010 010111 0110111 00110110 00110111 01100100 01100101 01101000 01100111 011001100
011001101 011010010 011010011 011010100 011010101 011010110 011010111 011011000 011011001
011011010 011011011 010011000 010011001 010011010 011000 010011011`

// blackTerminating are the codes of black runs of 0 to 63.
const blackTerminating = `
0000110111 010 11 10 011 0011 0010 00011 000101 000100 0000100 0000101 0000111 00000100
00000111 000011000 0000010111 0000011000 0000001000 00001100111 00001101000 00001101100
00000110111 00000101000 00000010111 00000011000 000011001010 000011001011 000011001100
000011001101 000001101000 000001101001 000001101010 000001101011 000011010010 000011010011
000011010100 000011010101 000011010110 000011010111 000001101100 000001101101 000011011010
000011011011 000001010100 000001010101 000001010110 000001010111 000001100100 000001100101
000001010010 000001010011 000000100100 000000110111 000000111000 000000100111 000000101000
000001011000 000001011001 000000101011 000000101100 000001011010 000001100110 000001100111`

// blackMakeUp are the codes of black runs of 64 to 1728.
const blackMakeUp = `
0000001111 000011001000 000011001001 000001011011 000000110011 000000110100 000000110101
0000001101100 0000001101101 0000001001010 0000001001011 0000001001100 0000001001101
0000001110010 0000001110011 0000001110100 0000001110101 0000001110110 0000001110111
0000001010010 0000001010011 0000001010100 0000001010101 0000001011010 0000001011011
0000001100100 0000001100101`

// extendedMakeUp are the codes of runs of 1792 to 2560.
const extendedMakeUp = `
00000001000 00000001100 00000001101 000000010010 000000010011 000000010100 000000010101
000000010110 000000010111 000000011100 000000011101 000000011110 000000011111`

// code is a code word: its length in bits and the bits themselves, right-aligned.
type code struct {
	length int
	bits   uint32
}

// decoding maps a code word to what it stands for.
type decoding map[code]int

// longestCode is the length of the longest code word of any table.
const longestCode = 13

// Modes of two-dimensional coding (T.4 table 4). A vertical mode is its offset
// from modeVertical: -3 to 3.
const (
	modePass = iota
	modeHorizontal
	modeVertical = 10
)

var (
	whiteCodes = runCodes(whiteTerminating, whiteMakeUp)
	blackCodes = runCodes(blackTerminating, blackMakeUp)
	modeCodes  = map[int]code{
		modePass: parseCode("0001"), modeHorizontal: parseCode("001"),
		modeVertical:     parseCode("1"),
		modeVertical + 1: parseCode("011"), modeVertical + 2: parseCode("000011"), modeVertical + 3: parseCode("0000011"),
		modeVertical - 1: parseCode("010"), modeVertical - 2: parseCode("000010"), modeVertical - 3: parseCode("0000010"),
	}
	endOfLine = parseCode("000000000001")

	whiteDecoding = invert(whiteCodes)
	blackDecoding = invert(blackCodes)
	modeDecoding  = invert(modeCodes)
)

func runCodes(terminating, makeUp string) map[int]code {
	codes := map[int]code{}
	for run, word := range strings.Fields(terminating) {
		codes[run] = parseCode(word)
	}
	for i, word := range strings.Fields(makeUp + " " + extendedMakeUp) {
		codes[64*(i+1)] = parseCode(word)
	}
	return codes
}

func parseCode(word string) code {
	c := code{length: len(word)}
	for _, bit := range word {
		c.bits = c.bits<<1 | uint32(bit-'0')
	}
	return c
}

func invert(codes map[int]code) decoding {
	inverse := decoding{}
	for meaning, c := range codes {
		inverse[c] = meaning
	}
	return inverse
}
