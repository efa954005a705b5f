package store

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"sync"
	"time"
)

// File is a stored file.
type File struct {
	SHA256 string
	Bytes  int64
}

// Pin is a stored file that no row owns yet. It cannot be removed while it is pinned,
// even if its last owner is deleted meanwhile. Whoever stores a file commits the row that
// owns it, then releases the pin.
type Pin struct {
	File
	store *Store
	once  sync.Once
}

// Release ends the pin, and may be called more than once, also of none. A file that no row owns by then
// is removed, unless somebody else has pinned it too. The removal does not depend on any
// request: one that was cancelled leaves nothing behind. If it fails, Sweep catches up.
func (p *Pin) Release() {
	if p == nil {
		return
	}
	p.once.Do(func() {
		p.store.pins.remove(p.SHA256)
		ctx, cancel := context.WithTimeout(context.Background(), releaseTime)
		defer cancel()
		_ = p.store.collect(ctx, p.SHA256) // Sweep catches up
	})
}

// releaseTime is far more than it takes to ask for a file's owners.
const releaseTime = 30 * time.Second

// pins counts the pins of each file. A file is stored, pinned and removed under the lock
// of its hash.
type pins struct {
	mutex sync.Mutex
	count map[string]int
	locks [256]sync.Mutex
}

// lock locks the files whose hash begins as this one does.
func (p *pins) lock(sum string) (unlock func()) {
	var i byte
	if _, err := fmt.Sscanf(sum[:2], "%02x", &i); err != nil {
		i = 0 // not a hash: any lock will do
	}
	p.locks[i].Lock()
	return p.locks[i].Unlock
}

func (p *pins) add(sum string) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	p.count[sum]++
}

func (p *pins) remove(sum string) {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	if p.count[sum]--; p.count[sum] <= 0 {
		delete(p.count, sum)
	}
}

func (p *pins) has(sum string) bool {
	p.mutex.Lock()
	defer p.mutex.Unlock()
	return p.count[sum] > 0
}

// Write stores what fill writes, under the name of its hash, and pins it. It returns
// ErrDiskFull when the disk would be left nearly full. When it fails nothing is left.
func (s *Store) Write(fill func(io.Writer) error) (*Pin, error) {
	return s.keep(s.files.receive(fill))
}

// WriteFile is Write for what writes a file, which is there, by its path: a worker.
func (s *Store) WriteFile(fill func(path string) error) (*Pin, error) {
	return s.keep(s.files.receiveFile(fill))
}

// keep gives a received file its place, and pins it.
func (s *Store) keep(in incomingFile, err error) (*Pin, error) {
	if err != nil {
		return nil, err
	}
	defer s.pins.lock(in.sum)()
	if err := s.files.adopt(in); err != nil {
		return nil, err
	}
	s.pins.add(in.sum)
	return &Pin{File: File{in.sum, in.bytes}, store: s}, nil
}

// Save stores all that r gives and pins it. It returns ErrTooLarge above limit bytes, and
// fails like Write.
func (s *Store) Save(r io.Reader, limit int64) (*Pin, error) {
	return s.Write(func(w io.Writer) error {
		n, err := io.Copy(w, io.LimitReader(r, limit+1))
		if err != nil {
			return fmt.Errorf("receive file: %w", err)
		}
		if n > limit {
			return ErrTooLarge
		}
		return nil
	})
}

// Pin pins a file that is stored already, so that it stays while it is read.
func (s *Store) Pin(sum string) *Pin {
	defer s.pins.lock(sum)()
	s.pins.add(sum)
	return &Pin{File: File{SHA256: sum}, store: s}
}

// FilePath is where the file with this hash is stored.
func (s *Store) FilePath(sum string) string { return s.files.path(sum) }

// DerivedFolder is where to keep what can be made again from the file with this hash. It
// is deleted with the file. Whoever writes there checks afterwards that the file is still
// stored, and otherwise deletes the folder.
func (s *Store) DerivedFolder(sum string) string { return s.files.derivedFrom(sum) }

// WriteDerived has fill write what can be made again from the file with this hash, under a name in its
// DerivedFolder. It is there whole or not at all, and not where the file was deleted meanwhile, of which an
// error tells that wraps ErrNotFound.
func (s *Store) WriteDerived(sum, name string, fill func(*os.File) error) error {
	folder := s.DerivedFolder(sum)
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return fmt.Errorf("make the folder of what is derived: %w", err)
	}
	file, err := os.CreateTemp(folder, "new-*")
	if err != nil {
		return fmt.Errorf("make a file for what is derived: %w", err)
	}
	defer os.Remove(file.Name()) //nolint:errcheck // gone already once it is renamed
	if err := errors.Join(fill(file), file.Close()); err != nil {
		return err
	}
	if err := os.Rename(file.Name(), filepath.Join(folder, name)); err != nil {
		return fmt.Errorf("keep what is derived: %w", err)
	}
	if _, err := os.Stat(s.FilePath(sum)); err != nil {
		return errors.Join(fmt.Errorf("keep what is derived: %w", notFound(err)), os.RemoveAll(folder))
	}
	return nil
}

// OpenFile opens a stored file for reading.
func (s *Store) OpenFile(sum string) (*os.File, error) {
	file, err := os.Open(s.files.path(sum))
	if err != nil {
		return nil, fmt.Errorf("open file: %w", notFound(err))
	}
	return file, nil
}

// owners counts the rows that own a file.
const owners = `SELECT (SELECT count(*) FROM sources WHERE blob = ?1) + (SELECT count(*) FROM sources WHERE working = ?1)
	+ (SELECT count(*) FROM exports WHERE blob = ?1) + (SELECT count(*) FROM deliveries WHERE blob = ?1)
	+ (SELECT count(*) FROM batch_files WHERE blob = ?1)`

// collect removes a file that is not pinned and that no row owns. Whoever is about to
// commit a row that owns it holds a pin, so that none can come in between.
func (s *Store) collect(ctx context.Context, sum string) error {
	if sum == "" {
		return nil
	}
	defer s.pins.lock(sum)()
	if s.pins.has(sum) {
		return nil
	}
	var count int
	if err := s.db.QueryRowContext(ctx, owners, sum).Scan(&count); err != nil {
		return fmt.Errorf("count a file's owners: %w", err)
	}
	if count > 0 {
		return nil
	}
	return s.files.remove(sum)
}

// release notes within a transaction that files have lost an owner. They are collected
// after the commit, or at the next start.
func release(ctx context.Context, tx querier, sums ...string) error {
	for _, sum := range sums {
		if sum == "" {
			continue
		}
		if _, err := tx.ExecContext(ctx, `INSERT OR IGNORE INTO released (sha256) VALUES (?)`, sum); err != nil {
			return fmt.Errorf("release a file: %w", err)
		}
	}
	return nil
}

// collectReleased removes the files that were released, unless others own or pin them.
func (s *Store) collectReleased(ctx context.Context) error {
	sums, err := queryAll(ctx, s.db, scanString, `SELECT sha256 FROM released`)
	if err != nil {
		return fmt.Errorf("list released files: %w", err)
	}
	for _, sum := range sums {
		if err := s.collect(ctx, sum); err != nil {
			return err
		}
		if _, err := s.db.ExecContext(ctx, `DELETE FROM released WHERE sha256 = ?`, sum); err != nil {
			return fmt.Errorf("forget a released file: %w", err)
		}
	}
	return nil
}

// Sweep removes every file that no row owns and nobody has pinned, and what was derived
// from files that are gone. There is none unless the program was stopped at a bad moment.
func (s *Store) Sweep(ctx context.Context) error {
	err := s.files.each(func(sum string) error { return errors.Join(ctx.Err(), s.collect(ctx, sum)) })
	return errors.Join(err, s.collectReleased(ctx))
}
