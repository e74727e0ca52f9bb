-- Words that are one word with the one before them.
CREATE TABLE joined (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
