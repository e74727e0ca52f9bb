-- Written scripts of a production: each that was brought in stays, the newest is matched. sittings: those whose texts are searched, as a
-- JSON list of ids; null for all.
CREATE TABLE script (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    production_id INTEGER NOT NULL REFERENCES production(id),
    name TEXT NOT NULL,
    text TEXT NOT NULL,
    sittings TEXT,
    who TEXT NOT NULL,
    made_at TEXT NOT NULL
) STRICT;
CREATE INDEX script_by_production ON script(production_id, id);
-- Takes that a person chose, by words of a text: they hold for whichever line is said there, also in a later script.
CREATE TABLE script_take (
    production_id INTEGER NOT NULL REFERENCES production(id),
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    first_word INTEGER NOT NULL,
    last_word INTEGER NOT NULL,
    PRIMARY KEY (production_id, transcript_id, first_word, last_word)
) STRICT, WITHOUT ROWID;
