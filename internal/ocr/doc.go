// Package ocr reads the text of pictures with the tesseract program, when it is
// installed. It may start that program, and touches nothing else.
package ocr
