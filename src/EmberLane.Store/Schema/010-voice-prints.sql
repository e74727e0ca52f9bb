-- What the voices of a text sound like, to know them again in another sitting; no steps where a voice says too little.
CREATE TABLE voice_print (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    voice INTEGER NOT NULL,
    steps INTEGER NOT NULL,
    covariances BLOB NOT NULL,
    lower_pitch REAL NOT NULL,
    pitch REAL NOT NULL,
    upper_pitch REAL NOT NULL,
    PRIMARY KEY (transcript_id, voice)
) STRICT, WITHOUT ROWID;
