-- Layers of what is set aside that are switched off: their marks stay, and what they hold is in use.
CREATE TABLE layer_off (
    transcript_id INTEGER NOT NULL REFERENCES transcript(id),
    layer TEXT NOT NULL,
    PRIMARY KEY (transcript_id, layer)
) STRICT, WITHOUT ROWID;
