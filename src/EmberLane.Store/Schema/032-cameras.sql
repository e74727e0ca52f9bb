-- What people chose for the cameras of a sitting, each choice under its name.
CREATE TABLE camera_choice (
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    name TEXT NOT NULL,
    value TEXT NOT NULL,
    PRIMARY KEY (sitting_id, name)
) STRICT, WITHOUT ROWID;
