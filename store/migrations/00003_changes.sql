-- +goose Up
ALTER TABLE history ADD COLUMN field TEXT NOT NULL DEFAULT '';   -- address of the one value that the step changed, or ''
ALTER TABLE history ADD COLUMN was TEXT NOT NULL DEFAULT '';     -- the value before and after, as shown
ALTER TABLE history ADD COLUMN what TEXT NOT NULL DEFAULT '';    -- whose value it is and what, in words
ALTER TABLE history ADD COLUMN became TEXT NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE history DROP COLUMN became;
ALTER TABLE history DROP COLUMN what;
ALTER TABLE history DROP COLUMN was;
ALTER TABLE history DROP COLUMN field;
