-- What a person wrote on a file, as JSON; what is measured stays in facts. state: '' in its place, 'missing', or 'replaced' by other
-- content. said: what is spoken at its start, null until asked for.
ALTER TABLE source ADD COLUMN labels TEXT NOT NULL DEFAULT '';
ALTER TABLE source ADD COLUMN state TEXT NOT NULL DEFAULT '';
ALTER TABLE source ADD COLUMN modified INTEGER NOT NULL DEFAULT 0;
ALTER TABLE source ADD COLUMN said TEXT;
-- A sitting that was merged away or taken back; kept so that it can come again under its number.
ALTER TABLE sitting ADD COLUMN gone INTEGER NOT NULL DEFAULT 0;
-- What a channel sounds like, in tenths of dB: its loud moments, and how far they lie above its own soft ones while anybody speaks.
-- copy_of: an earlier channel that sounds the same.
CREATE TABLE channel_sound (
    source_id INTEGER NOT NULL REFERENCES source(id),
    channel INTEGER NOT NULL,
    loud INTEGER NOT NULL,
    spread INTEGER NOT NULL,
    copy_of INTEGER,
    PRIMARY KEY (source_id, channel)
) STRICT, WITHOUT ROWID;
-- What a person decided about a channel; null: as guessed.
CREATE TABLE mic (
    source_id INTEGER NOT NULL REFERENCES source(id),
    channel INTEGER NOT NULL,
    kind TEXT,
    person TEXT,
    heard INTEGER,
    PRIMARY KEY (source_id, channel)
) STRICT, WITHOUT ROWID;
-- Two files of one production that hold the same sound.
CREATE TABLE alike (
    one INTEGER NOT NULL REFERENCES source(id),
    other INTEGER NOT NULL REFERENCES source(id),
    words TEXT NOT NULL,
    PRIMARY KEY (one, other)
) STRICT, WITHOUT ROWID;
-- Waiting work is done by rank, then by age; a person changes the rank.
ALTER TABLE job ADD COLUMN rank INTEGER NOT NULL DEFAULT 0;
