package pdf

import (
	"bytes"
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"crypto/sha256"
	"crypto/sha512"
	"encoding/binary"
	"errors"
	"fmt"
	"io"

	"github.com/pdfcpu/pdfcpu/pkg/pdfcpu/types"
	"golang.org/x/text/secure/precis"
)

// Protection is by passwords, with AES of 256 bits (7.6, revision 6 of the standard security
// handler).
type Protection struct {
	ToOpen   string // empty: anybody may open it
	ToChange string // empty: nobody knows it
	Print    bool   // it may be printed without the password to change it
	Copy     bool   // text may be copied without it
	Fill     bool   // forms may be filled in, and comments made, without it
}

// Permissions (table 22). Bits that are reserved are set.
const (
	allPermissions    = 0xFFFFFFFC
	mayPrint          = 1<<2 | 1<<11
	mayChange         = 1<<3 | 1<<10 // contents, and the order of pages
	mayCopy           = 1 << 4
	mayFillAndComment = 1<<5 | 1<<8
)

func (p Protection) permissions() uint32 {
	bits := uint32(allPermissions &^ mayChange)
	for taken, kept := range map[uint32]bool{mayPrint: p.Print, mayCopy: p.Copy, mayFillAndComment: p.Fill} {
		if !kept {
			bits &^= taken
		}
	}
	return bits
}

// encryption encrypts what is written.
type encryption struct {
	block cipher.Block
	dict  types.Dict
}

// Protect has the file encrypted. It is called before any page is added. Its error is that a
// password has letters that none can have.
func (a *Assembler) Protect(p Protection) error {
	encryption, err := newEncryption(p)
	if err != nil {
		return fmt.Errorf("protect the PDF: %w", err)
	}
	a.out.encryption, a.version2 = encryption, true
	return nil
}

// longestPassword is in bytes of UTF-8 (7.6.4.3.3).
const longestPassword = 127

func prepared(password string) ([]byte, error) {
	if password == "" {
		return nil, nil
	}
	// OpaqueString has succeeded the profile that the standard names, SASLprep (RFC 8265, 4).
	text, err := precis.OpaqueString.String(password)
	if err != nil {
		return nil, fmt.Errorf("a password has letters that cannot be in one: %w", err)
	}
	return []byte(text)[:min(len(text), longestPassword)], nil
}

const saltBytes = 8

// newEncryption makes a key and what the encryption dictionary tells of it (algorithms 8, 9 and
// 10 in 7.6.4.4).
func newEncryption(p Protection) (*encryption, error) {
	user, err := prepared(p.ToOpen)
	if err != nil {
		return nil, err
	}
	owner, err := prepared(p.ToChange)
	if err != nil {
		return nil, err
	}
	if len(owner) == 0 {
		owner = random(32)
	}
	key := random(32)
	u, ue, err := passwordEntries(user, nil, key)
	if err != nil {
		return nil, err
	}
	o, oe, err := passwordEntries(owner, u, key)
	if err != nil {
		return nil, err
	}
	block, err := aes.NewCipher(key)
	if err != nil {
		return nil, err
	}
	bits := p.permissions()
	perms := binary.LittleEndian.AppendUint32(nil, bits)
	perms = append(perms, 0xFF, 0xFF, 0xFF, 0xFF, 'T', 'a', 'd', 'b')
	perms = append(perms, random(4)...)
	block.Encrypt(perms, perms)
	return &encryption{block, types.Dict{
		"Filter": types.Name("Standard"), "V": types.Integer(5), "R": types.Integer(6), "Length": types.Integer(256),
		"CF":   types.Dict{"StdCF": types.Dict{"AuthEvent": types.Name("DocOpen"), "CFM": types.Name("AESV3"), "Length": types.Integer(32)}},
		"StmF": types.Name("StdCF"), "StrF": types.Name("StdCF"), "P": types.Integer(int32(bits)), //nolint:gosec // the standard has it signed
		"U": types.NewHexLiteral(u), "UE": types.NewHexLiteral(ue), "O": types.NewHexLiteral(o), "OE": types.NewHexLiteral(oe),
		"Perms": types.NewHexLiteral(perms),
	}}, nil
}

// passwordEntries are the entries by which a password is known, and the key is had from it. Those
// of the owner depend on the user's.
func passwordEntries(password, user, key []byte) (check, encryptedKey []byte, err error) {
	validation, forKey := random(saltBytes), random(saltBytes)
	check = append(hardened(password, validation, user), append(validation, forKey...)...)
	block, err := aes.NewCipher(hardened(password, forKey, user))
	if err != nil {
		return nil, nil, err
	}
	encryptedKey = make([]byte, len(key))
	cipher.NewCBCEncrypter(block, make([]byte, aes.BlockSize)).CryptBlocks(encryptedKey, key)
	return check, encryptedKey, nil
}

// hardened is the hash of a password (algorithm 2.B in 7.6.4.3.4).
func hardened(password, salt, user []byte) []byte {
	first := sha256.Sum256(bytes.Join([][]byte{password, salt, user}, nil))
	k := first[:]
	for round := 0; ; round++ {
		e := bytes.Repeat(bytes.Join([][]byte{password, k, user}, nil), 64)
		block, err := aes.NewCipher(k[:16])
		if err != nil {
			panic(err) // only for keys of another length
		}
		cipher.NewCBCEncrypter(block, k[16:32]).CryptBlocks(e, e)
		sum := 0
		for _, b := range e[:16] {
			sum += int(b)
		}
		switch sum % 3 { // of a number of 16 bytes, as 256 is 1 modulo 3
		case 0:
			h := sha256.Sum256(e)
			k = h[:]
		case 1:
			h := sha512.Sum384(e)
			k = h[:]
		default:
			h := sha512.Sum512(e)
			k = h[:]
		}
		if round >= 63 && int(e[len(e)-1]) <= round-31 {
			return k[:32:32]
		}
	}
}

// random bytes, which are never had in vain.
func random(n int) []byte {
	b := make([]byte, n)
	_, _ = rand.Read(b) // it ends the program rather than fail
	return b
}

// encryptedLength is how long data are with the vector before them and the padding behind
// (7.6.3.1).
func encryptedLength(length int64) int64 {
	return aes.BlockSize + (length/aes.BlockSize+1)*aes.BlockSize
}

// encrypted reads data encrypted.
func (e *encryption) encrypted(data io.Reader) io.Reader {
	vector := random(aes.BlockSize)
	return io.MultiReader(bytes.NewReader(vector), &cbcReader{data: data, mode: cipher.NewCBCEncrypter(e.block, vector)})
}

// cbcReader encrypts and pads what it reads.
type cbcReader struct {
	data   io.Reader
	mode   cipher.BlockMode
	buffer []byte // encrypted, not read yet
	isDone bool
}

func (r *cbcReader) Read(out []byte) (int, error) {
	if len(r.buffer) == 0 {
		if r.isDone {
			return 0, io.EOF
		}
		if err := r.fill(); err != nil {
			return 0, err
		}
	}
	n := copy(out, r.buffer)
	r.buffer = r.buffer[n:]
	return n, nil
}

func (r *cbcReader) fill() error {
	const chunk = 1 << 15
	plain := make([]byte, chunk, chunk+aes.BlockSize)
	n, err := io.ReadFull(r.data, plain)
	switch {
	case err == nil:
	case errors.Is(err, io.EOF) || errors.Is(err, io.ErrUnexpectedEOF):
		padding := aes.BlockSize - n%aes.BlockSize
		plain = append(plain[:n], bytes.Repeat([]byte{byte(padding)}, padding)...)
		r.isDone = true
	default:
		return err
	}
	r.mode.CryptBlocks(plain, plain)
	r.buffer = plain
	return nil
}

// strings encrypts the strings in an object that is in no object stream.
func (e *encryption) strings(o types.Object) types.Object {
	switch v := o.(type) {
	case types.Dict:
		copied := types.Dict{}
		for key, value := range v {
			copied[key] = e.strings(value)
		}
		return copied
	case types.Array:
		copied := make(types.Array, len(v))
		for i, value := range v {
			copied[i] = e.strings(value)
		}
		return copied
	case types.StringLiteral:
		if plain, err := types.Unescape(string(v)); err == nil {
			return e.string(plain)
		}
	case types.HexLiteral:
		if plain, err := v.Bytes(); err == nil {
			return e.string(plain)
		}
	}
	return o
}

func (e *encryption) string(plain []byte) types.Object {
	encrypted, err := io.ReadAll(e.encrypted(bytes.NewReader(plain)))
	if err != nil {
		panic(err) // memory can be read
	}
	return types.NewHexLiteral(encrypted)
}
