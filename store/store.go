// Package store keeps scenes and their histories in SQLite. Every change is
// durable when its call returns (write-ahead log, synchronous FULL). A scene's
// revision grows with every change; a writer that names an older one is told so
// and nothing is overwritten.
package store

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"time"

	"github.com/google/uuid"
	"github.com/pressly/goose/v3"
	_ "modernc.org/sqlite" // the database/sql driver "sqlite"

	"bead/core/scene"
)

//go:embed migrations/*.sql
var migrations embed.FS

// ErrNotFound is returned for a scene that is not there.
var ErrNotFound = errors.New("there is no such scene")

// ErrNothing is returned by Undo and Redo where there is no step to take.
var ErrNothing = errors.New("there is no step that way")

// ConflictError says that the scene has moved on since the writer read it.
type ConflictError struct{ Current Scene }

func (e *ConflictError) Error() string {
	return fmt.Sprintf("the scene was changed elsewhere: it is at revision %d", e.Current.Revision)
}

// maxHistory bounds the steps kept a scene.
const maxHistory = 1000

// Scene is a stored scene as it stands.
type Scene struct {
	ID       string
	Revision int64
	Doc      *scene.Document
	Touched  time.Time
	Undo     string // label of the step that undo takes back, empty at the first
	Redo     string // label of the step that redo brings back, empty at the last
	// Unreadable is why Doc is nil, in a list; Name is then what can be made out.
	Unreadable error
	Name       string
	// Beginning says, in a list, that it is kept as a beginning for other scenes.
	Beginning bool
}

// Step is one entry of a scene's history.
type Step struct {
	Seq     int64
	Label   string
	Made    time.Time
	Current bool
	// Change is the one value that the step changed; empty where it changed none or several.
	Change scene.Change
}

// Store is an open database. It is safe for concurrent use.
type Store struct {
	db *sql.DB
	// writing is held by the one that writes: SQLite takes one at a time, and who waits here is
	// served in turn instead of trying again and again.
	writing chan struct{}
}

// Open opens or makes the database in dir and brings it to the present schema.
func Open(ctx context.Context, dir string) (*Store, error) {
	// PRAGMAs stand in the name so that every pooled connection has them.
	q := url.Values{"_pragma": {"journal_mode(WAL)", "synchronous(FULL)", "foreign_keys(1)", "busy_timeout(10000)"}, "_txlock": {"immediate"}}
	file := url.URL{Scheme: "file", Opaque: (&url.URL{Path: filepath.ToSlash(filepath.Join(dir, "bead.db"))}).EscapedPath(), RawQuery: q.Encode()}
	db, err := sql.Open("sqlite", file.String())
	if err != nil {
		return nil, err
	}
	sub, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return nil, errors.Join(err, db.Close())
	}
	p, err := goose.NewProvider(goose.DialectSQLite3, db, sub)
	if err == nil {
		err = known(ctx, p)
	}
	if err == nil {
		err = saved(ctx, p, db, dir)
	}
	if err == nil {
		_, err = p.Up(ctx)
	}
	if err != nil {
		return nil, errors.Join(fmt.Errorf("the database in %s: %w", dir, plain(err)), db.Close())
	}
	return &Store{db, make(chan struct{}, 1)}, nil
}

// known refuses a database that a newer program has brought to a schema of its own.
func known(ctx context.Context, p *goose.Provider) error {
	now, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	all := p.ListSources()
	if last := all[len(all)-1].Version; now > last {
		return fmt.Errorf("it was last used by a newer Bead (its schema is %d, this program knows up to %d): start that one, or choose another directory with --data", now, last)
	}
	return nil
}

// saved keeps a copy of a database that is about to be brought to a newer schema, so that one can go back
// to the program that made it.
func saved(ctx context.Context, p *goose.Provider, db *sql.DB, dir string) error {
	now, err := p.GetDBVersion(ctx)
	if err != nil {
		return err
	}
	all := p.ListSources()
	if now == 0 || now >= all[len(all)-1].Version {
		return nil // new, or as it is to be
	}
	copied := filepath.Join(dir, fmt.Sprintf("bead-before-%d.db", now+1))
	if _, err := os.Stat(copied); err == nil {
		return nil // an earlier start was cut off after it
	}
	// Under another name until it is whole.
	part := copied + ".part"
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return err
	}
	if _, err := db.ExecContext(ctx, "VACUUM INTO ?", part); err != nil {
		return fmt.Errorf("no copy could be kept before it is brought to a newer schema: %w", err)
	}
	return os.Rename(part, copied)
}

// Close closes the database.
func (s *Store) Close() error { return s.db.Close() }

// inTx runs fn in a transaction that commits when fn returns nil. Writers come one after another.
func (s *Store) inTx(ctx context.Context, fn func(*sql.Tx) error) (err error) {
	select {
	case s.writing <- struct{}{}:
		defer func() { <-s.writing }()
	case <-ctx.Done():
		return ctx.Err()
	}
	defer func() { err = plain(err) }()
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, tx.Rollback())
		}
	}()
	if err = fn(tx); err != nil {
		return err
	}
	return tx.Commit()
}

// querier is what *sql.DB and *sql.Tx share.
type querier interface {
	QueryContext(context.Context, string, ...any) (*sql.Rows, error)
	QueryRowContext(context.Context, string, ...any) *sql.Row
}

// nextChange is the number of a change among those of all scenes.
const nextChange = `(SELECT coalesce(max(changed), 0) + 1 FROM scenes)`

// Create stores a new scene.
func (s *Store) Create(ctx context.Context, d *scene.Document, label string) (Scene, error) {
	id := uuid.NewString()
	var out Scene
	err := s.inTx(ctx, func(tx *sql.Tx) error {
		text, err := takeAssets(ctx, tx, d)
		if err != nil {
			return err
		}
		now := time.Now().UnixMilli()
		if _, err := tx.ExecContext(ctx, `INSERT INTO scenes (id, revision, at, touched, changed) VALUES (?, 1, 1, ?, `+nextChange+`)`, id, now); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `INSERT INTO history (scene, seq, label, doc, made) VALUES (?, 1, ?, ?, ?)`, id, label, text, now); err != nil {
			return err
		}
		out, err = get(ctx, tx, id)
		return err
	})
	return out, err
}

// Get returns a scene as it stands.
func (s *Store) Get(ctx context.Context, id string) (Scene, error) { return get(ctx, s.db, id) }

func get(ctx context.Context, q querier, id string) (Scene, error) {
	out := Scene{ID: id}
	var text []byte
	var touched int64
	var redo sql.NullString
	err := q.QueryRowContext(ctx, `
		SELECT s.revision, s.touched, h.doc, CASE WHEN EXISTS (SELECT 1 FROM history b WHERE b.scene = s.id AND b.seq < s.at) THEN h.label ELSE '' END,
		       (SELECT n.label FROM history n WHERE n.scene = s.id AND n.seq > s.at ORDER BY n.seq LIMIT 1)
		FROM scenes s JOIN history h ON h.scene = s.id AND h.seq = s.at WHERE s.id = ?`, id).
		Scan(&out.Revision, &touched, &text, &out.Undo, &redo)
	if errors.Is(err, sql.ErrNoRows) {
		return Scene{}, ErrNotFound
	}
	if err != nil {
		return Scene{}, err
	}
	out.Touched, out.Redo = time.UnixMilli(touched), redo.String
	if out.Doc, err = scene.DecodeContext(ctx, text); err != nil {
		return Scene{}, unreadable(ctx, id, err)
	}
	return out, nil
}

func unreadable(ctx context.Context, id string, why error) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	return &UnreadableError{id, why}
}

// Text is the document of a scene as it is stored, whether it can be read or not.
func (s *Store) Text(ctx context.Context, id string) (text []byte, err error) {
	err = s.db.QueryRowContext(ctx, `SELECT h.doc FROM scenes s JOIN history h ON h.scene = s.id AND h.seq = s.at WHERE s.id = ?`, id).Scan(&text)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return text, err
}

// TextAt is the document as it is stored of a scene that is still at a revision. Errors:
// ErrNotFound, *ConflictError.
func (s *Store) TextAt(ctx context.Context, id string, revision int64) ([]byte, error) {
	var text []byte
	var at int64
	err := s.db.QueryRowContext(ctx, `SELECT s.revision, h.doc FROM scenes s JOIN history h ON h.scene = s.id AND h.seq = s.at WHERE s.id = ?`, id).Scan(&at, &text)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	if err != nil || at == revision {
		return text, err
	}
	now, err := s.Get(ctx, id)
	if err != nil {
		return nil, err
	}
	return nil, &ConflictError{now}
}

// List returns all scenes, the last changed first. One that cannot be read hides no other: it
// comes without its document.
func (s *Store) List(ctx context.Context) ([]Scene, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT s.id, s.revision, s.touched, s.beginning, h.doc FROM scenes s
		JOIN history h ON h.scene = s.id AND h.seq = s.at ORDER BY s.changed DESC, s.id`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := []Scene{}
	for rows.Next() {
		var sc Scene
		var text []byte
		var touched int64
		if err := rows.Scan(&sc.ID, &sc.Revision, &touched, &sc.Beginning, &text); err != nil {
			return nil, err
		}
		sc.Touched = time.UnixMilli(touched)
		if sc.Doc, err = scene.DecodeContext(ctx, text); err != nil {
			if ctx.Err() != nil {
				return nil, ctx.Err()
			}
			sc.Doc, sc.Unreadable, sc.Name = nil, err, nameIn(text)
		}
		out = append(out, sc)
	}
	return out, rows.Err()
}

// nameIn is the name in a document that cannot be read as a whole, empty where it is not found.
func nameIn(text []byte) string {
	var d struct {
		Name string `json:"name"`
	}
	if json.Unmarshal(text, &d) != nil {
		return ""
	}
	return d.Name
}

// locked runs change on a scene that is still at the revision the caller knows,
// gives it the next revision, and returns the scene as it then stands.
func (s *Store) locked(ctx context.Context, id string, revision int64, change func(tx *sql.Tx, at int64) (int64, error)) (Scene, error) {
	var out Scene
	err := s.inTx(ctx, func(tx *sql.Tx) error {
		var current, at int64
		err := tx.QueryRowContext(ctx, `SELECT revision, at FROM scenes WHERE id = ?`, id).Scan(&current, &at)
		if errors.Is(err, sql.ErrNoRows) {
			return ErrNotFound
		}
		if err != nil {
			return err
		}
		if current != revision {
			now, err := get(ctx, tx, id)
			if err != nil {
				return err
			}
			return &ConflictError{now}
		}
		to, err := change(tx, at)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `UPDATE scenes SET revision = revision + 1, at = ?, touched = ?, changed = `+nextChange+` WHERE id = ?`, to, time.Now().UnixMilli(), id); err != nil {
			return err
		}
		out, err = get(ctx, tx, id)
		return err
	})
	return out, err
}

// Save makes d the scene's document as a new step after the present one; steps
// that had been undone are gone. Errors: ErrNotFound, *ConflictError.
func (s *Store) Save(ctx context.Context, id string, revision int64, d *scene.Document, label string) (Scene, error) {
	return s.locked(ctx, id, revision, func(tx *sql.Tx, at int64) (int64, error) {
		text, err := takeAssets(ctx, tx, d)
		if err != nil {
			return 0, err
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM history WHERE scene = ? AND (seq > ? OR seq <= ?)`, id, at, at+1-maxHistory); err != nil {
			return 0, err
		}
		c := changed(ctx, tx, id, at, d)
		_, err = tx.ExecContext(ctx, `INSERT INTO history (scene, seq, label, doc, made, field, was, became, what) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
			id, at+1, label, text, time.Now().UnixMilli(), c.Address, c.Was, c.Is, c.What())
		return at + 1, err
	})
}

// changed is the one value in which a document differs from a step of the history; empty where
// there is none, or more than one.
func changed(ctx context.Context, q querier, id string, at int64, d *scene.Document) scene.Change {
	var text []byte
	if err := q.QueryRowContext(ctx, `SELECT doc FROM history WHERE scene = ? AND seq = ?`, id, at).Scan(&text); err != nil {
		return scene.Change{}
	}
	was, err := scene.Decode(text)
	if err != nil {
		return scene.Change{}
	}
	if list, ok := scene.Changes(was, d); ok && len(list) == 1 {
		return list[0]
	}
	return scene.Change{}
}

// Undo goes back one step. Errors: ErrNotFound, *ConflictError, ErrNothing.
func (s *Store) Undo(ctx context.Context, id string, revision int64) (Scene, error) {
	return s.step(ctx, id, revision, `SELECT max(seq) FROM history WHERE scene = ? AND seq < ?`)
}

// Redo goes forward one step. Errors as of Undo.
func (s *Store) Redo(ctx context.Context, id string, revision int64) (Scene, error) {
	return s.step(ctx, id, revision, `SELECT min(seq) FROM history WHERE scene = ? AND seq > ?`)
}

func (s *Store) step(ctx context.Context, id string, revision int64, query string) (Scene, error) {
	return s.locked(ctx, id, revision, func(tx *sql.Tx, at int64) (int64, error) {
		var to sql.NullInt64
		if err := tx.QueryRowContext(ctx, query, id, at).Scan(&to); err != nil {
			return 0, err
		}
		if !to.Valid {
			return 0, ErrNothing
		}
		return to.Int64, nil
	})
}

// GoTo makes step seq of the history the present one. Errors as of Undo.
func (s *Store) GoTo(ctx context.Context, id string, revision, seq int64) (Scene, error) {
	return s.locked(ctx, id, revision, func(tx *sql.Tx, _ int64) (int64, error) {
		var n int
		err := tx.QueryRowContext(ctx, `SELECT count(*) FROM history WHERE scene = ? AND seq = ?`, id, seq).Scan(&n)
		if err == nil && n == 0 {
			err = ErrNothing
		}
		return seq, err
	})
}

// History returns the steps of a scene, the newest first.
func (s *Store) History(ctx context.Context, id string) ([]Step, error) {
	rows, err := s.db.QueryContext(ctx, `SELECT h.seq, h.label, h.made, h.seq = s.at, h.field, h.was, h.became, h.what FROM history h
		JOIN scenes s ON s.id = h.scene WHERE h.scene = ? ORDER BY h.seq DESC`, id)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := []Step{}
	for rows.Next() {
		var st Step
		var made int64
		if err := rows.Scan(&st.Seq, &st.Label, &made, &st.Current, &st.Change.Address, &st.Change.Was, &st.Change.Is, &st.Change.Field); err != nil {
			return nil, err
		}
		st.Made = time.UnixMilli(made)
		out = append(out, st)
	}
	if err := rows.Err(); err != nil {
		return nil, err
	}
	if len(out) == 0 {
		return nil, ErrNotFound
	}
	return out, nil
}

// Keep says whether a scene is kept as a beginning for others; it is no step of its history.
func (s *Store) Keep(ctx context.Context, id string, beginning bool) error {
	return s.one(ctx, `UPDATE scenes SET beginning = ? WHERE id = ?`, beginning, id)
}

// Delete removes a scene and its history.
func (s *Store) Delete(ctx context.Context, id string) error {
	return s.one(ctx, `DELETE FROM scenes WHERE id = ?`, id)
}

// one changes the row of one scene. Errors: ErrNotFound.
func (s *Store) one(ctx context.Context, query string, args ...any) error {
	return s.inTx(ctx, func(tx *sql.Tx) error {
		res, err := tx.ExecContext(ctx, query, args...)
		if err != nil {
			return err
		}
		if n, err := res.RowsAffected(); err != nil || n == 0 {
			return errors.Join(err, ErrNotFound)
		}
		return nil
	})
}
