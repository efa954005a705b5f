package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// migrate brings the database up to date. An older one is copied first.
func migrate(db *sql.DB, folder string) error {
	scripts, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return fmt.Errorf("read migrations: %w", err)
	}
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, scripts)
	if err != nil {
		return fmt.Errorf("prepare migrations: %w", err)
	}
	ctx := context.Background()
	version, target, err := provider.GetVersions(ctx)
	if err != nil {
		return fmt.Errorf("ask for the database's version: %w", err)
	}
	if version > 0 && version < target {
		if err := keepCopy(ctx, db, folder, version); err != nil {
			return err
		}
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("bring the database up to date: %w", err)
	}
	return nil
}

// keepCopy copies the database, as it is before it is migrated, in place of older copies.
func keepCopy(ctx context.Context, db *sql.DB, folder string, version int64) error {
	older, err := copies(folder)
	if err != nil {
		return err
	}
	name := filepath.Join(folder, fmt.Sprintf("dorbin-before-version-%d.db", version+1))
	if err := os.Remove(name); err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("replace the copy of the database: %w", err)
	}
	if _, err := db.ExecContext(ctx, `VACUUM INTO ?`, name); err != nil {
		return fmt.Errorf("copy the database before it is brought up to date: %w", err)
	}
	for _, path := range older {
		if path == name {
			continue
		}
		if err := os.Remove(path); err != nil {
			return fmt.Errorf("remove an older copy of the database: %w", err)
		}
	}
	return nil
}

func copies(folder string) ([]string, error) {
	found, err := filepath.Glob(filepath.Join(folder, "dorbin-before-version-*.db"))
	if err != nil {
		return nil, fmt.Errorf("look for copies of the database: %w", err)
	}
	return found, nil
}

// forgetInCopies deletes a packet from the copies that were made before migrations: what
// was deleted is nowhere.
func (s *Store) forgetInCopies(ctx context.Context, packetID string) error {
	found, err := copies(s.folder)
	if err != nil {
		return err
	}
	for _, path := range found {
		db, err := openDatabase(path)
		if err != nil {
			return err
		}
		_, err = db.ExecContext(ctx, `DELETE FROM packets WHERE id = ?`, packetID)
		if err := errors.Join(err, db.Close()); err != nil {
			return fmt.Errorf("delete packet in the copy of the database: %w", err)
		}
	}
	return nil
}
