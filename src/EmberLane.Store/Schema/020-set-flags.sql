-- Flags that were stamped beside the camera: the day and the time of day by the clock of who stamped, as milliseconds since midnight. The
-- id is the sender's, so that one that is sent twice is kept once.
CREATE TABLE set_flag (
    id TEXT NOT NULL PRIMARY KEY,
    production_id INTEGER NOT NULL REFERENCES production(id),
    day TEXT NOT NULL,
    at INTEGER NOT NULL,
    who TEXT NOT NULL,
    words TEXT NOT NULL,
    away INTEGER NOT NULL DEFAULT 0
) STRICT, WITHOUT ROWID;
CREATE INDEX set_flag_by_production ON set_flag(production_id, day, at);
