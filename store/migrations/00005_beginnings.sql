-- +goose Up
ALTER TABLE scenes ADD COLUMN beginning INTEGER NOT NULL DEFAULT 0;  -- 1: kept as a beginning for other scenes

-- +goose Down
ALTER TABLE scenes DROP COLUMN beginning;
