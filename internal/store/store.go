package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"time"

	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the database driver

	"dorbin/core/packet"
)

// ErrNotFound is returned for a packet, source or export that is not there.
var ErrNotFound = errors.New("not found")

// ErrStale is returned when a packet has changed since it was read.
var ErrStale = errors.New("the packet has changed in the meantime")

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open data folder. It is safe for concurrent use.
type Store struct {
	db     *sql.DB
	Files  *Files
	states memo[packet.Packet]
	pages  memo[[]SourcePage]
}

// Open opens the data folder, making it and bringing its database up to date
// as needed.
func Open(folder string) (*Store, error) {
	files, err := openFiles(folder)
	if err != nil {
		return nil, err
	}
	db, err := openDatabase(filepath.Join(folder, "dorbin.db"))
	if err != nil {
		return nil, err
	}
	if err := migrate(db); err != nil {
		return nil, errors.Join(err, db.Close())
	}
	return &Store{db: db, Files: files}, nil
}

// Close closes the database.
func (s *Store) Close() error {
	if err := s.db.Close(); err != nil {
		return fmt.Errorf("close database: %w", err)
	}
	return nil
}

func openDatabase(path string) (*sql.DB, error) {
	options := url.Values{"_pragma": {
		"journal_mode(WAL)", "synchronous(NORMAL)", "foreign_keys(1)", "busy_timeout(10000)",
	}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", "file:"+url.PathEscape(filepath.ToSlash(path))+"?"+options.Encode())
	if err != nil {
		return nil, fmt.Errorf("open database: %w", err)
	}
	return db, nil
}

func migrate(db *sql.DB) error {
	folder, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, folder)
	if err != nil {
		return fmt.Errorf("prepare migrations: %w", err)
	}
	if _, err := provider.Up(context.Background()); err != nil {
		return fmt.Errorf("bring the database up to date: %w", err)
	}
	return nil
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

func parseTime(text string) time.Time {
	t, _ := time.Parse(time.RFC3339Nano, text)
	return t
}

func notFound(err error) error {
	if errors.Is(err, sql.ErrNoRows) || errors.Is(err, os.ErrNotExist) {
		return ErrNotFound
	}
	return err
}
