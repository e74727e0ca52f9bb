-- A place that a person set or accepted: sync leaves it alone.
ALTER TABLE source ADD COLUMN by_hand INTEGER NOT NULL DEFAULT 0;
