-- +goose Up
CREATE TABLE scenes (
    id       TEXT PRIMARY KEY,
    revision INTEGER NOT NULL,          -- grows with every change, never used again
    at       INTEGER NOT NULL,          -- the step of the history that is shown
    touched  INTEGER NOT NULL           -- milliseconds since 1970
) STRICT;

CREATE TABLE history (
    scene TEXT NOT NULL REFERENCES scenes (id) ON DELETE CASCADE,
    seq   INTEGER NOT NULL,
    label TEXT NOT NULL,
    doc   BLOB NOT NULL,
    made  INTEGER NOT NULL,
    PRIMARY KEY (scene, seq)
) STRICT, WITHOUT ROWID;

-- +goose Down
DROP TABLE history;
DROP TABLE scenes;
