-- Words that were set aside, words that a person heard and found right, and flags before words; kind is the flag's number.
CREATE TABLE aside (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
CREATE TABLE settled (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
CREATE TABLE flag (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    number INTEGER NOT NULL,
    kind INTEGER NOT NULL,
    note TEXT NOT NULL,
    PRIMARY KEY (transcript_id, number)
) STRICT, WITHOUT ROWID;
