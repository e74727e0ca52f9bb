-- Where the number of voices of a text could not be told for sure: how many there may be instead, and turns to hear, as JSON.
CREATE TABLE voice_doubt (
    transcript_id INTEGER NOT NULL PRIMARY KEY REFERENCES transcript (id),
    doubt TEXT NOT NULL
) WITHOUT ROWID;

-- Where voices of a text speak by the sound, also where no word was understood; as JSON, since it is only read as a whole.
CREATE TABLE voice_said (
    transcript_id INTEGER NOT NULL PRIMARY KEY REFERENCES transcript (id),
    said TEXT NOT NULL
) WITHOUT ROWID;
