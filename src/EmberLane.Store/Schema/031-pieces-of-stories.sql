-- What lies in a story beside the cards of bites, each at its place among them; as JSON.
CREATE TABLE story_piece (
    story_id INTEGER NOT NULL REFERENCES story(id),
    position INTEGER NOT NULL,
    id TEXT NOT NULL,
    body TEXT NOT NULL,
    PRIMARY KEY (story_id, position)
) STRICT, WITHOUT ROWID;
-- The stretch of a card before its ends were mended, and the picture that is seen over its sound.
ALTER TABLE card ADD COLUMN unmended_in INTEGER;
ALTER TABLE card ADD COLUMN unmended_out INTEGER;
ALTER TABLE card ADD COLUMN over_source INTEGER;
ALTER TABLE card ADD COLUMN over_in INTEGER;
ALTER TABLE card ADD COLUMN over_out INTEGER;
ALTER TABLE card ADD COLUMN over_after INTEGER;
-- What a card says: its stretch need not be its bite's; and where the words at its ends lie, and those beside them.
CREATE TABLE card_reading (
    story_id INTEGER NOT NULL REFERENCES story(id),
    card_id TEXT NOT NULL,
    first_word INTEGER NOT NULL,
    said TEXT NOT NULL,
    before_in INTEGER,
    before_out INTEGER,
    first_in INTEGER,
    first_out INTEGER,
    last_in INTEGER,
    last_out INTEGER,
    behind_in INTEGER,
    behind_out INTEGER,
    PRIMARY KEY (story_id, card_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE card_voice (
    story_id INTEGER NOT NULL REFERENCES story(id),
    card_id TEXT NOT NULL,
    position INTEGER NOT NULL,
    name TEXT NOT NULL,
    said INTEGER NOT NULL,
    PRIMARY KEY (story_id, card_id, position)
) STRICT, WITHOUT ROWID;
-- Cards of before are read once at start.
ALTER TABLE reading_state ADD COLUMN are_cards_made INTEGER NOT NULL DEFAULT 0;
-- Every step that a story went, forwards or back, as it was really made: so every version of it can be had again.
CREATE TABLE story_step (
    story_id INTEGER NOT NULL REFERENCES story(id),
    version INTEGER NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL,
    said TEXT NOT NULL,
    edit TEXT NOT NULL,
    inverse TEXT NOT NULL,
    PRIMARY KEY (story_id, version)
) STRICT, WITHOUT ROWID;
-- Versions that somebody named.
CREATE TABLE story_version (
    id INTEGER PRIMARY KEY,
    story_id INTEGER NOT NULL REFERENCES story(id),
    version INTEGER NOT NULL,
    name TEXT NOT NULL,
    at TEXT NOT NULL,
    who TEXT NOT NULL
) STRICT;
CREATE INDEX story_version_of ON story_version(story_id);
