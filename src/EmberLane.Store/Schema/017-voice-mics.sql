-- Near which mic a voice of a text was heard, so that a name given to the mic is the voice's too.
CREATE TABLE voice_mic (
    transcript_id INTEGER NOT NULL REFERENCES transcript (id),
    voice INTEGER NOT NULL,
    source_id INTEGER NOT NULL REFERENCES source (id),
    channel INTEGER NOT NULL,
    PRIMARY KEY (transcript_id, voice)
) WITHOUT ROWID;
