-- +goose Up
ALTER TABLE scenes ADD COLUMN changed INTEGER NOT NULL DEFAULT 0;  -- order of the last change among all scenes: clocks may go back
UPDATE scenes SET changed = (SELECT count(*) FROM scenes o WHERE o.touched < scenes.touched OR o.touched = scenes.touched AND o.id >= scenes.id);

-- +goose Down
ALTER TABLE scenes DROP COLUMN changed;
