-- +goose Up
CREATE TABLE assets (
    id   TEXT PRIMARY KEY,              -- SHA-256 of the bytes in hex
    name TEXT NOT NULL,                 -- file name, whose ending says the format
    data BLOB NOT NULL,
    made INTEGER NOT NULL               -- milliseconds since 1970
) STRICT;

-- +goose Down
DROP TABLE assets;
