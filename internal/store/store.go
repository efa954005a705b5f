package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"net/url"
	"os"
	"path/filepath"
	"slices"
	"time"

	"github.com/gofrs/flock"
	"modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"

	"dorbin/core/packet"
)

// ErrNotFound is returned for a packet, source or export that is not there.
var ErrNotFound = errors.New("not found")

// ErrStale is returned when a packet has changed since it was read.
var ErrStale = errors.New("the packet has changed in the meantime")

// ErrInUse is returned when another program has the data folder open.
var ErrInUse = errors.New("another Dorbin is using this data folder: stop it first, or choose another folder")

// ErrForeign is returned for a folder with files of something else: what is in folders of
// Dorbin's names would be deleted.
var ErrForeign = errors.New("it is not a data folder of Dorbin, and not empty: choose an empty folder, or one that Dorbin made")

// Store is an open data folder. It is safe for concurrent use.
type Store struct {
	db     *sql.DB
	folder string
	lock   *flock.Flock // held while the folder is open
	files  *files
	pins   pins
	states memo[packet.Packet]
	pages  memo[[]SourcePage]
	texts  textMemo
}

// Open opens the data folder, making it and bringing its database up to date as needed.
// It returns ErrInUse while another program has it open.
func Open(folder string) (_ *Store, err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return nil, fmt.Errorf("make the data folder: %w", err)
	}
	if err := checkOwn(folder); err != nil {
		return nil, err
	}
	lock, err := lockFolder(folder)
	if err != nil {
		return nil, err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, lock.Unlock())
		}
	}()
	files, err := openFiles(folder)
	if err != nil {
		return nil, err
	}
	db, err := openDatabase(filepath.Join(folder, databaseName))
	if err != nil {
		return nil, err
	}
	if err := migrate(db, folder); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	return &Store{db: db, folder: folder, lock: lock, files: files, pins: pins{count: map[string]int{}}}, nil
}

// lockName is the file by which a data folder is locked.
const lockName = "lock"

func lockFolder(folder string) (*flock.Flock, error) {
	lock := flock.New(filepath.Join(folder, lockName))
	locked, err := lock.TryLock()
	if err != nil {
		return nil, fmt.Errorf("lock the data folder: %w", err)
	}
	if !locked {
		return nil, ErrInUse
	}
	return lock, nil
}

// FilesFolder is where stored files are kept.
func (s *Store) FilesFolder() string { return s.files.stored }

// CacheFolder is for what can be made again and belongs to no file.
func (s *Store) CacheFolder() string { return filepath.Join(s.folder, "cache") }

// ScratchFolder is for files that are made and read at once. It is emptied at every start.
func (s *Store) ScratchFolder() string { return s.files.incoming }

// Close closes the database and lets others open the folder.
func (s *Store) Close() error {
	if err := errors.Join(s.db.Close(), s.lock.Unlock()); err != nil {
		return fmt.Errorf("close the data folder: %w", err)
	}
	return nil
}

const databaseName = "dorbin.db"

func openDatabase(path string) (*sql.DB, error) {
	options := url.Values{"_pragma": {
		"journal_mode(WAL)",
		"synchronous(FULL)", // what was acknowledged survives a power cut
		"secure_delete(ON)", // what is deleted is overwritten
		"foreign_keys(1)", "busy_timeout(10000)",
	}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", "file:"+url.PathEscape(filepath.ToSlash(path))+"?"+options.Encode())
	if err != nil {
		return nil, fmt.Errorf("open database: %w", err)
	}
	return db, nil
}

// inTransaction runs work and commits, or rolls back when it fails.
func (s *Store) inTransaction(ctx context.Context, work func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return fmt.Errorf("begin transaction: %w", err)
	}
	defer tx.Rollback() //nolint:errcheck // does nothing after the commit
	if err := work(tx); err != nil {
		return err
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("commit: %w", err)
	}
	return nil
}

func now() string { return time.Now().UTC().Format(time.RFC3339Nano) }

// formatTime writes a time as now does; nothing of none.
func formatTime(t time.Time) string {
	if t.IsZero() {
		return ""
	}
	return t.UTC().Format(time.RFC3339Nano)
}

func parseTime(text string) time.Time {
	t, _ := time.Parse(time.RFC3339Nano, text)
	return t
}

func notFound(err error) error {
	if errors.Is(err, sql.ErrNoRows) || errors.Is(err, os.ErrNotExist) || isForeignKeyError(err) {
		return ErrNotFound
	}
	return err
}

// isForeignKeyError tells of a row that was to be added to something that is gone, such as
// a packet that was deleted meanwhile.
func isForeignKeyError(err error) bool {
	var problem *sqlite.Error
	return errors.As(err, &problem) && problem.Code() == sqlite3.SQLITE_CONSTRAINT_FOREIGNKEY
}

// checkOwn tells whether a folder is a data folder, or may become one because it is empty.
func checkOwn(folder string) error {
	entries, err := os.ReadDir(folder)
	if err != nil {
		return fmt.Errorf("read the data folder: %w", err)
	}
	var names []string
	for _, entry := range entries {
		names = append(names, entry.Name())
	}
	if len(names) == 0 || slices.Contains(names, databaseName) {
		return nil
	}
	// Another Dorbin may be making it at this moment: the lock tells.
	isBeingMade := slices.Contains(names, lockName)
	for _, name := range names {
		if !isBeingMade || !slices.Contains([]string{lockName, "files", "incoming", "cache"}, name) {
			return ErrForeign
		}
	}
	return nil
}
