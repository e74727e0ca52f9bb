-- Which stretches of a sitting's clock somebody has read or heard, by person; apart from each other.
CREATE TABLE read_time (
    sitting_id INTEGER NOT NULL REFERENCES sitting(id),
    who TEXT NOT NULL,
    time_in INTEGER NOT NULL,
    time_out INTEGER NOT NULL,
    PRIMARY KEY (sitting_id, who, time_in)
) STRICT, WITHOUT ROWID;
