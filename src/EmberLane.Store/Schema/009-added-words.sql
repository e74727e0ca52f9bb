-- Words that people added to what was heard; withdrawn ones keep their numbers.
CREATE TABLE added (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    after INTEGER NOT NULL,
    text TEXT NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    voice INTEGER NOT NULL,
    withdrawn INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
