-- One kind of thing for whatever lies over words: what is set aside, flags, words found right, bites. kind is the key of one of Core's
-- kinds; made_at is null where it was not written down.
CREATE TABLE mark (
    id INTEGER PRIMARY KEY AUTOINCREMENT,
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    kind TEXT NOT NULL,
    first_word INTEGER NOT NULL,
    last_word INTEGER NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    owner TEXT NOT NULL,
    note TEXT NOT NULL,
    made_at TEXT
) STRICT;
CREATE INDEX mark_by_transcript ON mark(transcript_id, kind);
-- Bites keep their ids. What is only theirs stays with them.
INSERT INTO mark (id, transcript_id, kind, first_word, last_word, time_in, time_out, owner, note)
    SELECT id, transcript_id, 'bite', first_word, last_word, time_in, time_out, owner, note FROM bite;
CREATE TABLE bite_of_mark (
    id INTEGER PRIMARY KEY REFERENCES mark(id),
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    theme TEXT NOT NULL,
    aside INTEGER NOT NULL DEFAULT 0,
    gone INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO bite_of_mark SELECT id, sitting_id, theme, aside, gone FROM bite;
DROP TABLE bite;
ALTER TABLE bite_of_mark RENAME TO bite;
CREATE INDEX bite_by_sitting ON bite(sitting_id);
-- The tables aside, settled and flag, and the changes of the log that speak of them, are brought over by OlderMarks in this same
-- transaction.
