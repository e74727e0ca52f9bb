-- What was measured of pictures: the shots of a file, who is seen in each, and what a tagger says of it. The version is of the measuring.
CREATE TABLE picture_measure (
    source_id INTEGER PRIMARY KEY REFERENCES source(id),
    version INTEGER NOT NULL
) STRICT;

CREATE TABLE shot (
    source_id INTEGER NOT NULL REFERENCES source(id),
    number INTEGER NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    brightness INTEGER NOT NULL,
    movement INTEGER NOT NULL,
    colours TEXT NOT NULL,
    faces INTEGER NOT NULL,
    largest_face INTEGER NOT NULL,
    look BLOB NOT NULL,
    tagger TEXT NOT NULL DEFAULT '',
    tags TEXT NOT NULL DEFAULT '[]',
    PRIMARY KEY (source_id, number)
) STRICT;

CREATE TABLE seen_person (
    source_id INTEGER NOT NULL REFERENCES source(id),
    shot INTEGER NOT NULL,
    number INTEGER NOT NULL,
    x INTEGER NOT NULL,
    y INTEGER NOT NULL,
    width INTEGER NOT NULL,
    height INTEGER NOT NULL,
    best INTEGER NOT NULL,
    seen INTEGER NOT NULL,
    look BLOB NOT NULL,
    PRIMARY KEY (source_id, shot, number)
) STRICT;
