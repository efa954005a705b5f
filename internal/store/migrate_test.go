package store

import (
	"database/sql"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/pressly/goose/v3"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"dorbin/core/message"
	"dorbin/core/packet"
)

// rows are what a user could have had at each version of the schema, by the version
// that brought its table.
var rows = map[int64][]string{
	1: {
		`INSERT INTO packets VALUES ('k1', 'Roof', 3, 1, '{"name":"Roof","parts":[],"setAside":[],"lastId":4}', '2026-01-01T10:00:00Z', '2026-01-02T10:00:00Z')`,
		`INSERT INTO steps VALUES ('k1', 1, 'Turned 1 page right', '[]', '{}', '2026-01-02T10:00:00Z')`,
		`INSERT INTO sources (id, packet, ordinal, name, kind, state, blob, working, bytes, pages, weighed, added)
		 VALUES ('f1', 'k1', 1, 'form.pdf', 'pdf', 'ready', '0a', '0b', 10, '[{"size":{"width":595,"height":842}}]', 0, '2026-01-01T10:00:00Z')`,
		`INSERT INTO exports (id, packet, name, state, request, total, done, problem, blob, receipt, created)
		 VALUES ('e1', 'k1', 'roof.pdf', 'running', '{}', 1, 0, '', '', '', '2026-01-02T10:00:00Z'),
		        ('e2', 'k1', 'roof.pdf', 'done', '{}', 1, 1, '', '0c', '{}', '2026-01-02T11:00:00Z')`,
	},
	2: {
		`INSERT INTO batches VALUES ('b1', 'k1', '{"pages":[]}', '2026-01-02T10:00:00Z')`,
		`INSERT INTO batch_files VALUES ('b1', '0d')`,
		`INSERT INTO scanners VALUES ('d1', 'Scanner', 'http://127.0.0.1', '2026-01-02T10:00:00Z')`,
	},
	3: {
		`INSERT INTO looks VALUES ('k1', 'p1', 'x')`,
		`INSERT INTO accepted VALUES ('k1', 'blank p1')`,
	},
	5: {
		`INSERT INTO sizings VALUES ('k1', '{"limit":4000000,"receiver":"Tarn Valley Fund"}')`,
	},
	13: {
		`INSERT INTO handed_in VALUES ('d0', 'Older', 'Tarn Valley Fund', 'older.pdf', 10, 1, '0e', '{"by":"download"}', '', '2026-01-03T10:00:00Z')`,
	},
	12: {
		`INSERT INTO deliveries (id, packet, export, name, blob, bytes, pages, delivery, state, created)
		 VALUES ('d1', 'k1', 'e2', 'roof.pdf', '0c', 10, 1, '{"by":"download"}', 'done', '2026-01-03T10:00:00Z')`,
		`UPDATE exports SET request = '{"asked":{"name":"Tarn Valley Fund"}}' WHERE id = 'e2'`,
		`INSERT INTO secrets VALUES ('https://files.example club', x'00')`,
	},
	15: {
		`INSERT INTO origins VALUES ('k1', 'Records', 'roof.pdf', '0a', 10, '2026-01-01T10:00:00Z', '', '')`,
		`INSERT INTO earlier_versions VALUES ('k1', 'Records', 'roof (before).pdf', '0f', '2026-01-03T10:00:00Z')`,
	},
	7: {
		`INSERT INTO measured (source, page, look, versions)
		 VALUES ('f1', 1, 'y', '{"scope":1,"words":["roof","slate"],"versions":[{"bytes":7,"words":0.9}]}')`,
	},
}

// atVersion makes a database of an earlier version, with data in it.
func atVersion(t *testing.T, folder string, version int64) {
	t.Helper()
	db, err := openDatabase(filepath.Join(folder, databaseName))
	require.NoError(t, err)
	scripts, err := fs.Sub(migrations, "migrations")
	require.NoError(t, err)
	provider, err := goose.NewProvider(goose.DialectSQLite3, db, scripts)
	require.NoError(t, err)
	for v := int64(1); v <= version; v++ {
		_, err = provider.UpTo(t.Context(), v)
		require.NoError(t, err)
		for _, row := range rows[v] {
			_, err := db.ExecContext(t.Context(), row)
			require.NoError(t, err, row)
		}
	}
	require.NoError(t, db.Close())
}

func newestVersion(t *testing.T) int64 {
	t.Helper()
	scripts, err := fs.Glob(migrations, "migrations/*.sql")
	require.NoError(t, err)
	return int64(len(scripts))
}

func count(t *testing.T, db *sql.DB, table string) (n int) {
	t.Helper()
	require.NoError(t, db.QueryRowContext(t.Context(), "SELECT count(*) FROM "+table).Scan(&n))
	return n
}

func TestMigratingFromEveryEarlierVersion(t *testing.T) {
	for version := int64(1); version < newestVersion(t); version++ {
		t.Run(fmt.Sprint(version), func(t *testing.T) {
			folder := t.TempDir()
			atVersion(t, folder, version)
			s := open(t, folder)
			p, err := s.Packet(t.Context(), "k1")
			require.NoError(t, err)
			assert.Equal(t, "Turned 1 page right", p.Undo.English)
			sources, err := s.Sources(t.Context(), "k1")
			require.NoError(t, err)
			require.Len(t, sources, 1)
			assert.Len(t, sources[0].Pages, 1)
			exports, err := s.Exports(t.Context(), "k1")
			require.NoError(t, err)
			assert.Len(t, exports, 2)
			measured, err := s.Measurements(t.Context(), "k1")
			require.NoError(t, err)
			assert.Empty(t, measured, "everything is measured anew")
			if version >= 5 {
				require.NotNil(t, p.State.Receiver, "it was beside the limit")
				assert.Equal(t, "Tarn Valley Fund", p.State.Receiver.Name)
				assert.Equal(t, int64(4_000_000), p.State.Receiver.Rules.FileBytes)
			}
			if version == 12 {
				d, err := s.Delivery(t.Context(), "d1")
				require.NoError(t, err)
				assert.Equal(t, "Tarn Valley Fund", d.Receiver)
			}
			for v, table := range map[int64]string{2: "batch_files", 3: "looks", 5: "sizings"} {
				if version >= v {
					assert.Equal(t, 1, count(t, s.db, table), table)
				}
			}
			waiting, err := queryAll(t.Context(), s.db, scanString, `SELECT kind || ' ' || key FROM jobs WHERE state = 'waiting' ORDER BY 1`)
			require.NoError(t, err)
			assert.Equal(t, []string{"analyze f1", "compareWords e2", "export e1", "ownText f1", "pageBytes f1"}, waiting, "what was under way goes on")

			found, err := copies(folder)
			require.NoError(t, err)
			require.Len(t, found, 1)
			before, err := openDatabase(found[0])
			require.NoError(t, err)
			assert.Equal(t, 1, count(t, before, "packets"))
			require.NoError(t, before.Close())
		})
	}
}

func TestOnlyTheLastCopyIsKept(t *testing.T) {
	folder := t.TempDir()
	atVersion(t, folder, 6)
	older := filepath.Join(folder, "dorbin-before-version-5.db")
	require.NoError(t, os.WriteFile(older, nil, 0o600))
	open(t, folder)
	found, err := copies(folder)
	require.NoError(t, err)
	require.Len(t, found, 1)
	assert.NotEqual(t, older, found[0])
}

func TestADeletedPacketIsNowhere(t *testing.T) {
	folder := t.TempDir()
	atVersion(t, folder, 6)
	s := open(t, folder)
	const secret = "Quetzalcoatlus"
	before, err := s.Packet(t.Context(), "k1")
	require.NoError(t, err)
	_, err = s.Append(t.Context(), before, packet.New(secret), Step{Words: message.Of("Renamed to %s", secret)})
	require.NoError(t, err)
	require.NoError(t, s.SetSizing(t.Context(), "k1", `{"receiver":"`+secret+`"}`))
	assert.NotEmpty(t, filesWith(t, folder, secret))
	require.NotEmpty(t, filesWith(t, folder, "Turned 1 page right"))
	require.NoError(t, s.DeletePacket(t.Context(), "k1"))
	assert.Empty(t, filesWith(t, folder, secret))
	assert.Empty(t, filesWith(t, folder, "Turned 1 page right"), "not in the copy either that was made before the migration")
}

// filesWith lists the files of a folder in which a text is found.
func filesWith(t *testing.T, folder, text string) (found []string) {
	t.Helper()
	require.NoError(t, filepath.WalkDir(folder, func(path string, entry fs.DirEntry, err error) error {
		if err != nil || entry.IsDir() {
			return err
		}
		data, err := os.ReadFile(path)
		if strings.Contains(string(data), text) {
			found = append(found, path)
		}
		return err
	}))
	return found
}
