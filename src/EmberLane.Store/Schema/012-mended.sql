-- A sitting that was merged away while bites or texts still went by its sound comes back, so that nothing made of it is lost.
UPDATE sitting SET gone = 0 WHERE gone = 1 AND id IN (SELECT sitting_id FROM transcript UNION SELECT sitting_id FROM bite
    UNION SELECT sitting_id FROM card);
-- A text is kept in parts while it comes; whole: 0 until its last word is there. What a stopped server left half is cleared at the start.
ALTER TABLE transcript ADD COLUMN whole INTEGER NOT NULL DEFAULT 1;
-- How often a job was begun since a person last asked for it: what brings the server down each time is not begun for ever.
ALTER TABLE job ADD COLUMN starts INTEGER NOT NULL DEFAULT 0;
-- When a job ended, in seconds since 1970; 0 where that was not noted.
ALTER TABLE job ADD COLUMN ended INTEGER NOT NULL DEFAULT 0;
-- Productions are put away and brought back; what is chosen for what arrives stands in their settings.
ALTER TABLE production ADD COLUMN away INTEGER NOT NULL DEFAULT 0;
ALTER TABLE story ADD COLUMN away INTEGER NOT NULL DEFAULT 0;
CREATE TABLE production_setting (
    production_id INTEGER NOT NULL REFERENCES production(id),
    name TEXT NOT NULL,
    value TEXT NOT NULL,
    PRIMARY KEY (production_id, name)
) STRICT, WITHOUT ROWID;
-- This file is Ember Lane's.
PRAGMA application_id = 1162691660;
-- Loose files that were compared by sound with all others of these of their production.
CREATE TABLE compared (
    source_id INTEGER PRIMARY KEY REFERENCES source(id)
) STRICT;
-- A bite whose keeping was taken back.
ALTER TABLE bite ADD COLUMN gone INTEGER NOT NULL DEFAULT 0;
