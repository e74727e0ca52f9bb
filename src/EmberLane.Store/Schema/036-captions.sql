-- What people made of the captions of stories: how they are made, and those that were retyped, split, joined, moved or translated.
CREATE TABLE caption_choice (
    story_id INTEGER NOT NULL REFERENCES story(id),
    name TEXT NOT NULL,
    value TEXT NOT NULL,
    PRIMARY KEY (story_id, name)
) STRICT, WITHOUT ROWID;
