-- A table of flags that two productions bring in has the same ids in both.
CREATE TABLE set_flag_new (
    id TEXT NOT NULL,
    production_id INTEGER NOT NULL REFERENCES production(id),
    day TEXT NOT NULL,
    at INTEGER NOT NULL,
    who TEXT NOT NULL,
    words TEXT NOT NULL,
    away INTEGER NOT NULL DEFAULT 0,
    PRIMARY KEY (production_id, id)
) STRICT, WITHOUT ROWID;
INSERT INTO set_flag_new SELECT id, production_id, day, at, who, words, away FROM set_flag;
DROP TABLE set_flag;
ALTER TABLE set_flag_new RENAME TO set_flag;
CREATE INDEX set_flag_by_production ON set_flag(production_id, day, at);
