-- Copies of stories to hear or see. One that is not made yet has no bytes; its work is a job of the same number.
CREATE TABLE copy (
    id INTEGER PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    story_id INTEGER NOT NULL REFERENCES story(id),
    version INTEGER NOT NULL,
    name TEXT NOT NULL,
    wish TEXT NOT NULL,
    who TEXT NOT NULL,
    at TEXT NOT NULL,
    bytes INTEGER NOT NULL DEFAULT 0,
    loudness INTEGER
) STRICT;
CREATE INDEX copy_of_production ON copy (production_id);
