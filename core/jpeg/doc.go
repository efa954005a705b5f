// Package jpeg reads and writes JPEG files (ITU-T T.81): baseline and progressive ones of 8 bits, in grey, YCbCr, RGB,
// CMYK and YCCK. Pictures are decoded at their size or at a half, a quarter or an eighth of it, for which
// a smaller transform is enough. Pictures are encoded as progressive ones with codes of their own, quantised so that
// they show as much as they can in their bytes, and a JPEG is written in fewer bytes with every pixel the same. It also
// tells which bytes of a file show the picture, and which only tell about it.
//
// The package is pure: it reads from what it is given. What is damaged is decoded as far as it goes.
package jpeg
