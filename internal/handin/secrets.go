package handin

import (
	"context"
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"encoding/hex"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"
	"sync"

	"dorbin/core/problem"
	"dorbin/core/requirements"
	"dorbin/internal/store"
)

// secrets keeps passwords: sealed by AES-256-GCM (NIST SP 800-38D) for the next time, or while one
// document is on its way.
type secrets struct {
	store   *store.Store
	keyFile string

	mutex sync.Mutex
	once  map[string]string // by the deliveries' ids
}

// placeOf names what a password is for: a server and a name there.
func placeOf(d requirements.Delivery) string {
	if d.User == "" {
		return ""
	}
	scheme, _, _ := strings.Cut(d.Address, "://")
	return scheme + "://" + hostOf(d.Address) + " " + d.User
}

// take takes the password that an order brings, if it does.
func (s *secrets) take(ctx context.Context, id, place string, order Order) error {
	if order.Password == "" || place == "" {
		return nil
	}
	s.mutex.Lock()
	s.once[id] = order.Password
	s.mutex.Unlock()
	if !order.Keep {
		return nil
	}
	sealer, err := s.sealer(true)
	if err != nil {
		return err
	}
	nonce := make([]byte, sealer.NonceSize())
	_, _ = rand.Read(nonce) // never fails
	return s.store.KeepSealedSecret(ctx, place, sealer.Seal(nonce, nonce, []byte(order.Password), []byte(place)))
}

// of is the password of a delivery; empty where none is known.
func (s *secrets) of(ctx context.Context, id, place string) (string, error) {
	if place == "" {
		return "", nil
	}
	s.mutex.Lock()
	password, ok := s.once[id]
	s.mutex.Unlock()
	if ok {
		return password, nil
	}
	sealed, err := s.store.SealedSecret(ctx, place)
	if err != nil || sealed == nil {
		return "", err
	}
	sealer, err := s.sealer(false)
	if err != nil {
		return "", err
	}
	if len(sealed) < sealer.NonceSize() {
		return "", errNotOpened
	}
	opened, err := sealer.Open(nil, sealed[:sealer.NonceSize()], sealed[sealer.NonceSize():], []byte(place))
	if err != nil {
		return "", errNotOpened
	}
	return string(opened), nil
}

// errNotOpened is returned for what was sealed with another key.
var errNotOpened = problem.New(problem.Invalid, "the password that was kept cannot be opened any longer, as the key is another one: enter it again")

func (s *secrets) forget(id string) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	delete(s.once, id)
}

const keyBytes = 32

// sealer seals with the key in the key file, which can be made.
func (s *secrets) sealer(mayMake bool) (cipher.AEAD, error) {
	s.mutex.Lock()
	defer s.mutex.Unlock()
	key, err := s.key(mayMake)
	if err != nil {
		return nil, err
	}
	block, err := aes.NewCipher(key)
	if err != nil {
		return nil, fmt.Errorf("use the key: %w", err)
	}
	sealer, err := cipher.NewGCM(block)
	if err != nil {
		return nil, fmt.Errorf("use the key: %w", err)
	}
	return sealer, nil
}

func (s *secrets) key(mayMake bool) ([]byte, error) {
	text, err := os.ReadFile(s.keyFile)
	if errors.Is(err, fs.ErrNotExist) && !mayMake {
		return nil, errNotOpened
	}
	if errors.Is(err, fs.ErrNotExist) {
		return s.makeKey()
	}
	if err != nil {
		return nil, fmt.Errorf("read the key file: %w", err)
	}
	key, err := hex.DecodeString(strings.TrimSpace(string(text)))
	if err != nil || len(key) != keyBytes {
		return nil, problem.New(problem.Invalid, "the key file holds no key: whoever runs this installation puts it back, or removes it, and passwords are entered again")
	}
	return key, nil
}

func (s *secrets) makeKey() ([]byte, error) {
	key := make([]byte, keyBytes)
	_, _ = rand.Read(key) // never fails
	file, err := os.OpenFile(s.keyFile, os.O_CREATE|os.O_EXCL|os.O_WRONLY, 0o600)
	if err != nil {
		return nil, fmt.Errorf("make the key file: %w", err)
	}
	_, err = file.WriteString(hex.EncodeToString(key) + "\n")
	if err := errors.Join(err, file.Sync(), file.Close()); err != nil {
		return nil, fmt.Errorf("write the key file: %w", err)
	}
	return key, nil
}
