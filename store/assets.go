package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"bead/core/scene"
)

// ErrNoAsset is returned for a file that the store does not hold.
var ErrNoAsset = errors.New("the mesh's file is not in this store: bring it in again")

// PutAsset keeps a file and returns its id. The same bytes are kept once.
func (s *Store) PutAsset(ctx context.Context, name string, data []byte) (string, error) {
	id := scene.AssetID(data)
	return id, s.inTx(ctx, func(tx *sql.Tx) error { return putAsset(ctx, tx, id, name, data) })
}

func putAsset(ctx context.Context, tx *sql.Tx, id, name string, data []byte) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO assets (id, name, data, made) VALUES (?, ?, ?, ?) ON CONFLICT (id) DO NOTHING`,
		id, name, data, time.Now().UnixMilli())
	return err
}

// Asset returns a file's name and bytes, or ErrNoAsset.
func (s *Store) Asset(ctx context.Context, id string) (name string, data []byte, err error) {
	err = s.db.QueryRowContext(ctx, `SELECT name, data FROM assets WHERE id = ?`, id).Scan(&name, &data)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil, ErrNoAsset
	}
	return name, data, err
}

// takeAssets keeps the files that a document brings along and returns the document
// as it is stored, without them. The scene's history then holds no file twice.
func takeAssets(ctx context.Context, tx *sql.Tx, d *scene.Document) (text []byte, err error) {
	for _, a := range d.Assets {
		if err := putAsset(ctx, tx, a.ID, a.Name, a.Data); err != nil {
			return nil, err
		}
	}
	bare := *d
	bare.Assets = nil
	if text, err = json.Marshal(&bare); err == nil && len(text) > scene.MaxBytes {
		err = ErrTooLarge
	}
	return text, err
}

// WithAssets returns the document with the files that it needs, as it is
// written to a file of its own.
func (s *Store) WithAssets(ctx context.Context, d *scene.Document) (*scene.Document, error) {
	whole := *d
	whole.Assets = nil
	for _, u := range d.AssetsUsed() {
		name, data, err := s.Asset(ctx, u.ID)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", u.By, err)
		}
		whole.Assets = append(whole.Assets, scene.Asset{ID: u.ID, Name: name, Data: data})
	}
	return &whole, nil
}
