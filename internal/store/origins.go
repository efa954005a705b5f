package store

import (
	"context"
	"database/sql"
	"fmt"
	"time"
)

// Origin is the file of a folder that a packet was opened from, and that it is saved back to.
type Origin struct {
	Packet   string
	Folder   string // its name
	Path     string // of the file in the folder, with slashes
	SHA256   string // of the file as it was opened, or saved last
	Bytes    int64
	Modified time.Time // by the folder
	Export   string    // that was saved last; empty where none was
	Saved    time.Time
}

// EarlierVersion is a file that was in an origin's place before a document was saved.
type EarlierVersion struct {
	Packet string
	Folder string
	Path   string
	SHA256 string
	Kept   time.Time
}

const originColumns = `packet, folder, path, sha256, bytes, modified, export, saved`

// Origin reads what a packet was opened from. It returns ErrNotFound for one that was not.
func (s *Store) Origin(ctx context.Context, packet string) (Origin, error) {
	return scanOrigin(s.db.QueryRowContext(ctx, `SELECT `+originColumns+` FROM origins WHERE packet = ?`, packet))
}

// OriginsIn lists what packets were opened from a folder, by the packets' age.
func (s *Store) OriginsIn(ctx context.Context, folder string) ([]Origin, error) {
	return queryAll(ctx, s.db, scanOrigin, `SELECT `+originColumns+` FROM origins JOIN packets ON packets.id = origins.packet
		WHERE folder = ? ORDER BY packets.created, packets.id`, folder)
}

func scanOrigin(row scanner) (o Origin, err error) {
	var modified, saved string
	if err := row.Scan(&o.Packet, &o.Folder, &o.Path, &o.SHA256, &o.Bytes, &modified, &o.Export, &saved); err != nil {
		return o, fmt.Errorf("read what a packet was opened from: %w", notFound(err))
	}
	o.Modified, o.Saved = parseTime(modified), parseTime(saved)
	return o, nil
}

// SetOrigin keeps what a packet was opened from, or saved as, and the earlier versions that were kept
// with it.
func (s *Store) SetOrigin(ctx context.Context, o Origin, kept ...EarlierVersion) error {
	return s.inTransaction(ctx, func(tx *sql.Tx) error {
		_, err := tx.ExecContext(ctx, `INSERT OR REPLACE INTO origins (`+originColumns+`) VALUES (?, ?, ?, ?, ?, ?, ?, ?)`,
			o.Packet, o.Folder, o.Path, o.SHA256, o.Bytes, formatTime(o.Modified), o.Export, formatTime(o.Saved))
		if err != nil {
			return fmt.Errorf("keep what packet %s was opened from: %w", o.Packet, notFound(err))
		}
		for _, v := range kept {
			_, err := tx.ExecContext(ctx, `INSERT OR REPLACE INTO earlier_versions (`+earlierColumns+`) VALUES (?, ?, ?, ?, ?)`,
				v.Packet, v.Folder, v.Path, v.SHA256, formatTime(v.Kept))
			if err != nil {
				return fmt.Errorf("keep where an earlier version of packet %s is: %w", o.Packet, err)
			}
		}
		return nil
	})
}

const earlierColumns = `packet, folder, path, sha256, kept`

// EarlierVersions lists the earlier versions of a packet's file, the newest first.
func (s *Store) EarlierVersions(ctx context.Context, packet string) ([]EarlierVersion, error) {
	return queryAll(ctx, s.db, scanEarlier, `SELECT `+earlierColumns+` FROM earlier_versions WHERE packet = ? ORDER BY kept DESC, path`, packet)
}

// EarlierVersionsIn lists the earlier versions in a folder.
func (s *Store) EarlierVersionsIn(ctx context.Context, folder string) ([]EarlierVersion, error) {
	return queryAll(ctx, s.db, scanEarlier, `SELECT `+earlierColumns+` FROM earlier_versions WHERE folder = ? ORDER BY path`, folder)
}

func scanEarlier(row scanner) (v EarlierVersion, err error) {
	var kept string
	if err := row.Scan(&v.Packet, &v.Folder, &v.Path, &v.SHA256, &kept); err != nil {
		return v, fmt.Errorf("read an earlier version: %w", notFound(err))
	}
	v.Kept = parseTime(kept)
	return v, nil
}
