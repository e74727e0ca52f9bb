-- Words that a person gave to another voice, and words taken out of the text.
CREATE TABLE given (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    voice INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
CREATE TABLE hidden (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
