-- Questions that were saved with a name; and the prints of the hits that they had when they were last looked at.
CREATE TABLE saved_search (
    id INTEGER PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    name TEXT NOT NULL,
    question TEXT NOT NULL,
    rough INTEGER NOT NULL,
    everywhere INTEGER NOT NULL,
    owner TEXT NOT NULL,
    seen BLOB NOT NULL,
    UNIQUE (production_id, name)
) STRICT;
