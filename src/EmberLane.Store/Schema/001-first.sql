CREATE TABLE production (
    id INTEGER PRIMARY KEY,
    name TEXT NOT NULL
) STRICT;

CREATE TABLE sitting (
    id INTEGER PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    title TEXT NOT NULL,
    sound_source_id INTEGER,
    transcript_id INTEGER
) STRICT;
CREATE INDEX sitting_by_production ON sitting(production_id);

-- start and drift are null until the source is placed on its sitting's clock.
CREATE TABLE source (
    id INTEGER PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    sitting_id INTEGER REFERENCES sitting(id),
    path TEXT NOT NULL,
    name TEXT NOT NULL,
    size INTEGER NOT NULL,
    fingerprint TEXT NOT NULL,
    facts TEXT NOT NULL,
    start INTEGER,
    drift INTEGER,
    evidence TEXT NOT NULL DEFAULT '',
    UNIQUE (production_id, fingerprint)
) STRICT;
CREATE INDEX source_by_sitting ON source(sitting_id);

CREATE TABLE transcript (
    id INTEGER PRIMARY KEY,
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    recogniser TEXT NOT NULL,
    language TEXT NOT NULL,
    made_at TEXT NOT NULL,
    version INTEGER NOT NULL DEFAULT 0
) STRICT;

-- The record: written once, never changed.
CREATE TABLE word (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    text TEXT NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    confidence INTEGER,
    voice INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE retyped (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    text TEXT NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;

CREATE TABLE voice_name (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    voice INTEGER NOT NULL,
    name TEXT NOT NULL,
    PRIMARY KEY (transcript_id, voice)
) STRICT, WITHOUT ROWID;

CREATE TABLE bite (
    id INTEGER PRIMARY KEY,
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    first_word INTEGER NOT NULL,
    last_word INTEGER NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    theme TEXT NOT NULL,
    note TEXT NOT NULL,
    owner TEXT NOT NULL,
    aside INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX bite_by_sitting ON bite(sitting_id);

CREATE TABLE story (
    id INTEGER PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    title TEXT NOT NULL,
    rate_numerator INTEGER NOT NULL,
    rate_denominator INTEGER NOT NULL,
    drop_frame INTEGER NOT NULL,
    start_label TEXT NOT NULL,
    target INTEGER NOT NULL,
    version INTEGER NOT NULL DEFAULT 0
) STRICT;

CREATE TABLE card (
    story_id INTEGER NOT NULL REFERENCES story(id),
    position INTEGER NOT NULL,
    id TEXT NOT NULL,
    bite_id INTEGER NOT NULL REFERENCES bite(id),
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    angle INTEGER,
    PRIMARY KEY (story_id, position)
) STRICT, WITHOUT ROWID;

-- Every change that a person made to a transcript or a story. state: 0 in force, 1 taken back, 2 taken back and passed over by a later
-- change.
CREATE TABLE edit (
    id INTEGER PRIMARY KEY,
    aggregate TEXT NOT NULL,
    aggregate_id INTEGER NOT NULL,
    who TEXT NOT NULL,
    at TEXT NOT NULL,
    body TEXT NOT NULL,
    inverse TEXT NOT NULL,
    state INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX edit_by_aggregate ON edit(aggregate, aggregate_id, id);

-- unique_key holds while the work waits or runs, so that the same work is never queued twice.
CREATE TABLE job (
    id INTEGER PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    kind TEXT NOT NULL,
    subject_id INTEGER NOT NULL,
    title TEXT NOT NULL,
    state TEXT NOT NULL,
    per_mille INTEGER NOT NULL DEFAULT 0,
    detail TEXT NOT NULL DEFAULT '',
    error TEXT NOT NULL DEFAULT '',
    payload TEXT NOT NULL DEFAULT '',
    unique_key TEXT UNIQUE
) STRICT;
CREATE INDEX job_by_state ON job(state, id);

CREATE TABLE job_piece (
    job_id INTEGER NOT NULL REFERENCES job(id),
    piece INTEGER NOT NULL,
    words TEXT NOT NULL,
    PRIMARY KEY (job_id, piece)
) STRICT, WITHOUT ROWID;

CREATE TABLE setting (
    name TEXT PRIMARY KEY,
    value TEXT NOT NULL
) STRICT, WITHOUT ROWID;
